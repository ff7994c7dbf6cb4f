import { ChevronDown, Ellipsis } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import type { GroupActions } from '../takes/edits';
import type { Run } from '../../core/treatment/groups';
import { traysOf } from '../../core/treatment/trays';
import type { StepGroup } from '../../core/treatment/treatment';
import { Menu } from '../ui/overlays';
import { NameField } from '../ui/inplace';
import { Tray } from './trays';

const Frame = styled.div`
  position: relative;
  .title {
    position: absolute;
    left: 0;
    right: 0;
    top: -25px;
    height: 18px;
    display: flex;
    align-items: center;
    gap: 3px;
    font-size: var(--t-small);
    background: var(--paper-low);
    border-bottom: 2px solid var(--ink-2);
    overflow: hidden;
  }
  /* Beside the name of its stage; over the place of the plus after it, which stands lower. */
  &[data-first] .title {
    left: 58px;
    right: -34px;
  }
  .title input {
    height: 17px;
    margin: 0;
    font-size: var(--t-small);
    width: 60px;
  }
  .title b {
    font-weight: 600;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
    min-width: 0;
  }
  .trays {
    display: flex;
    gap: 8px;
  }
`;

const Sign = styled(AriaButton)`
  flex: none;
  display: grid;
  place-items: center;
  width: 18px;
  height: 16px;
  color: var(--ink-2);
  svg {
    width: 13px;
    height: 13px;
  }
  &[aria-expanded='false'] svg {
    transform: rotate(-90deg);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
  }
`;

const Stack = styled(Tray)`
  .dish {
    box-shadow:
      3px 3px 0 -1px #efefef,
      3px 3px 0 0 #9a9a9a,
      6px 6px 0 -1px #e4e4e4,
      6px 6px 0 0 #9a9a9a;
  }
`;

/** The trays of a group under its name; folded, one tray stands for them all. */
export function GroupFrame({
  run,
  called: group,
  folded,
  chosen,
  first,
  face,
  actions,
  onCopy,
  onDouble,
  onRemove,
  onFold,
  onChoose,
  children,
}: {
  run: Run;
  called: StepGroup;
  folded: boolean;
  chosen: boolean;
  /** It begins its stage, whose name stands above it. */
  first: boolean;
  /** The picture of its last step. */
  face: ReactNode;
  actions: GroupActions;
  /** Copies the whole group, also what of it stands in other stages. */
  onCopy: () => void;
  onDouble: () => void;
  onRemove: () => void;
  onFold: (folded: boolean) => void;
  onChoose: () => void;
  children: ReactNode;
}) {
  const [naming, setNaming] = useState(false);
  const { name, strength } = group;
  const part = strength < 1 ? `${Math.round(strength * 100)}%` : null;
  const on = run.steps.some(s => s.enabled);
  const [{ id }] = run.steps;
  const trays = traysOf(run.steps).length;
  const count = `${trays} ${trays === 1 ? 'step' : 'steps'}`;
  return (
    <Frame data-context data-first={first || undefined} role="group" aria-label={`${name}, ${count}`}>
      <div className="title">
        <Sign
          aria-label={folded ? `Unfold ${name}` : `Fold ${name}`}
          aria-expanded={!folded}
          onPress={() => onFold(!folded)}
        >
          <ChevronDown aria-hidden="true" />
        </Sign>
        {naming ? (
          <NameField
            label="Name of this group"
            value={name}
            onDone={called => {
              setNaming(false);
              if (called === null || called === '' || called === name) return;
              actions.name(id, called);
            }}
          />
        ) : (
          <b title={name} onDoubleClick={() => setNaming(true)}>
            {name}
            {part ? ` ${part}` : ''}
          </b>
        )}
        <Menu
          label={`More for ${name}`}
          trigger={
            <Sign aria-label={`More for ${name}`}>
              <Ellipsis aria-hidden="true" />
            </Sign>
          }
          sections={[
            {
              entries: [
                { id: 'switch', text: on ? 'Switch off' : 'Switch on' },
                { id: 'name', text: 'Name' },
                { id: 'double', text: 'Double it' },
                { id: 'copy', text: 'Copy, to lay on elsewhere' },
                { id: 'dissolve', text: 'Ungroup' },
                { id: 'remove', text: 'Remove' },
              ],
            },
          ]}
          onAction={action => {
            if (action === 'switch') actions.enable(id, !on);
            else if (action === 'name') setNaming(true);
            else if (action === 'copy') onCopy();
            else if (action === 'double') onDouble();
            else if (action === 'remove') onRemove();
            else actions.dissolve(id);
          }}
        />
      </div>
      {folded ? (
        <Stack
          type="button"
          data-holds={run.steps.map(s => s.id).join(' ')}
          data-off={!on || undefined}
          aria-current={chosen ? 'step' : undefined}
          onClick={onChoose}
          onDoubleClick={() => onFold(false)}
        >
          <span className="dish">{face}</span>
          <span className="name">
            <span>{name}</span>
            <span>{on ? (part ?? count) : 'Off'}</span>
          </span>
        </Stack>
      ) : (
        <div className="trays">{children}</div>
      )}
    </Frame>
  );
}
