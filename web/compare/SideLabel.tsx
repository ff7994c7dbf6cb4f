import { ChevronDown } from 'lucide-react';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import type { ReactNode } from 'react';
import type { Rectangle } from '../../core/frame/geometry';
import type { Treatment } from '../../core/treatment/treatment';
import { Menu } from '../ui/overlays';
import { nameOfStep } from '../../words/step-names';
import { nameOf, type Against, type Shelf } from './against';

const Label = styled(AriaButton)`
  position: absolute;
  height: 23px;
  padding: 0 5px 0 9px;
  display: flex;
  align-items: center;
  gap: 4px;
  max-width: 46%;
  background: var(--paper-high);
  border-radius: var(--r-label);
  box-shadow: var(--shade-label);
  font-weight: 600;
  white-space: nowrap;
  > span {
    overflow: hidden;
    text-overflow: ellipsis;
  }
  svg {
    flex: none;
    color: var(--ink-2);
  }
  &[data-hovered] {
    background: #fff;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 1px;
  }
`;

const INSET = 8;
const HEIGHT = 23;

const fixed: Record<string, Against> = {
  bare: { what: 'bare' },
  now: { what: 'now' },
  before: { what: 'before' },
  without: { what: 'without' },
};

/** What a choice of the menu stands for. */
function chosenBy(id: string): Against | null {
  if (id in fixed) return fixed[id];
  const [what, which] = [id.slice(0, id.indexOf(' ')), id.slice(id.indexOf(' ') + 1)];
  if (what === 'take') return { what, id: which };
  if (what === 'upTo') return { what, step: which };
  return null;
}

/** Two pictures that are compared, and what may be changed of that. */
interface Sides {
  sides: readonly [Against, Against];
  shelf: Shelf;
  onSide: (which: 0 | 1, against: Against) => void;
  onSwap: () => void;
  onTurn: (down: boolean) => void;
}

/** Says which picture a side shows; pressed, another is chosen. */
function SideLabel({
  which,
  sides,
  shelf,
  onSide,
  onSwap,
  onTurn,
  down,
  corner,
}: Sides & {
  which: 0 | 1;
  down: boolean;
  corner: { left?: number; right?: number; top: number };
}) {
  const against = sides[which];
  const name = nameOf(against, shelf);
  const others = [...shelf.letters].filter(([id]) => id !== shelf.take);
  return (
    <Menu
      label={`What the ${which === 0 ? 'first' : 'second'} picture is`}
      trigger={
        <Label aria-label={`${which === 0 ? 'First' : 'Second'} picture: ${name}`} style={corner}>
          <span>{name}</span>
          <ChevronDown aria-hidden="true" size={13} />
        </Label>
      }
      sections={[
        {
          entries: [
            { id: 'now', text: `This take as it is` },
            { id: 'bare', text: 'Bare' },
            { id: 'before', text: 'Before the last change', disabled: shelf.before === null },
            { id: 'without', text: 'Without the chosen step', disabled: shelf.chosen === null },
          ],
        },
        { name: 'Another take', entries: others.map(([id, letter]) => ({ id: `take ${id}`, text: letter })) },
        {
          name: 'Up to a step',
          entries: stepsOf(shelf.whole).map(({ id, text }) => ({ id: `upTo ${id}`, text })),
        },
        {
          entries: [
            { id: 'turn', text: 'Lay both the other way', keys: 'Shift H' },
            { id: 'swap', text: 'Swap the two' },
          ],
        },
      ]}
      onAction={id => {
        if (id === 'swap') onSwap();
        else if (id === 'turn') onTurn(!down);
        else {
          const other = chosenBy(id);
          if (other) onSide(which, other);
        }
      }}
    />
  );
}

const stepsOf = ({ steps }: Treatment) => steps.map(step => ({ id: step.id, text: nameOfStep(step) }));

/** The labels of both pictures, in their lower corners; one above the other, each in a corner of its own. */
export function SideLabels({
  seen: [first, second],
  down,
  ...both
}: Sides & {
  seen: readonly [Rectangle, Rectangle];
  down: boolean;
}) {
  const isHalf = first === second;
  const bottom = ({ y, height }: Rectangle) => y + height - INSET - HEIGHT;
  return (
    <>
      <SideLabel
        which={0}
        down={down}
        {...both}
        corner={{ left: first.x + INSET, top: isHalf && down ? first.y + INSET : bottom(first) }}
      />
      <Right seen={second}>
        <SideLabel which={1} down={down} {...both} corner={{ right: INSET, top: bottom(second) }} />
      </Right>
    </>
  );
}

/** From the wall's left edge to the right edge of a picture: what stands in it by its right keeps to that. */
function Right({ seen, children }: { seen: Rectangle; children: ReactNode }) {
  return (
    <div style={{ position: 'absolute', left: 0, top: 0, height: 0, width: seen.x + seen.width }}>
      {children}
    </div>
  );
}
