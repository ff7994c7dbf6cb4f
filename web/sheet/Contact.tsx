import { Plus } from 'lucide-react';
import {
  Button as AriaButton,
  Checkbox,
  DropIndicator,
  GridList,
  GridListItem,
  useDragAndDrop,
  type DropIndicatorProps,
  type Selection,
} from 'react-aria-components';
import styled from 'styled-components';
import type { Photograph } from '../../contract/photographs';
import { currentTake } from '../app/api';
import { stepsInWords } from '../app/words';
import { PrintLabel } from '../ui/print-label';
import { useLayoutEffect, useRef } from 'react';
import { TakePicture } from '../ui/TakePicture';

export const sizes = ['small', 'medium', 'large'] as const;
export type ThumbSize = (typeof sizes)[number];

const measures: Record<ThumbSize, { width: number; height: number; edge: 160 | 480 | 960 }> = {
  small: { width: 132, height: 88, edge: 480 },
  medium: { width: 180, height: 122, edge: 480 },
  large: { width: 380, height: 253, edge: 960 },
};

interface Entry {
  id: string;
  photograph: Photograph;
  number: number;
}

/** The gap of the grid between two prints. */
const GAP = 18;

const Grid = styled(GridList<Entry>)<{ $width: number }>`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(${p => p.$width}px, 1fr));
  gap: 16px ${GAP}px;
  position: relative;
  align-content: start;
  outline: none;
`;

const Print = styled(GridListItem)<{ $height: number }>`
  position: relative;
  outline: none;
  cursor: default;
  .picture {
    height: ${p => p.$height}px;
    display: flex;
    align-items: flex-end;
  }
  .picture img {
    max-width: 100%;
    max-height: ${p => p.$height}px;
    box-shadow: 0 1px 3px rgb(0 0 0 / 0.3);
  }
  .label {
    padding-right: 32px;
  }
  &[data-hovered] .label {
    background: var(--paper-high);
  }
  &[data-selected] .picture img {
    outline: 3px solid #fff;
  }
  &[data-selected] .label {
    background: #fff;
  }
  &[data-focus-visible] .picture img {
    outline: 3px solid var(--lamp);
    outline-offset: 1px;
    box-shadow: 0 0 0 5px var(--lamp-deep);
  }
  &[data-dragging] {
    opacity: 0.4;
  }
  .handle {
    position: absolute;
    right: 30px;
    bottom: 4px;
    border-radius: 2px;
    opacity: 0;
  }
  .handle[data-focus-visible] {
    opacity: 1;
    outline: 2px solid var(--lamp-deep);
  }
`;

/** The tick of a pencil on the label. */
const Tick = styled(Checkbox)`
  position: absolute;
  right: 4px;
  top: 50%;
  margin-top: -14px;
  width: 26px;
  height: 28px;
  display: grid;
  place-items: center;
  cursor: pointer;
  border-radius: 3px;
  svg {
    width: 22px;
    height: 24px;
    fill: none;
    stroke: transparent;
    stroke-width: 3.2;
    stroke-linecap: round;
    stroke-linejoin: round;
  }
  &[data-hovered] svg {
    stroke: #b5b5b5;
  }
  &[data-selected] svg {
    stroke: var(--lamp);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
  }
`;

const Add = styled(AriaButton)<{ $height: number }>`
  border: 1px dashed currentColor;
  border-radius: 2px;
  color: var(--wall-ink);
  display: grid;
  place-items: center;
  align-content: center;
  gap: 6px;
  height: ${p => p.$height}px;
  width: 100%;
  font-weight: 500;
  &[data-hovered] {
    border-style: solid;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--wall-ink);
    outline-offset: 3px;
  }
`;

/** Where a dragged print would land: a line between two prints. */
const Mark = styled(DropIndicator)`
  position: absolute;
  width: 1px;
  overflow: hidden;
  outline: none;
  &[data-drop-target] {
    width: 5px;
    border-radius: 3px;
    background: var(--lamp);
    box-shadow: 0 0 0 1px var(--lamp-deep);
  }
`;

function DropMark({ target }: { target: DropIndicatorProps['target'] }) {
  const mark = useRef<HTMLElement>(null);
  useLayoutEffect(() => {
    if (!mark.current || target.type !== 'item') return;
    const key = CSS.escape(String(target.key));
    const print = mark.current.parentElement?.querySelector<HTMLElement>(`[data-key="${key}"]`);
    if (!print) return;
    const x = print.offsetLeft + (target.dropPosition === 'after' ? print.offsetWidth + GAP / 2 : -GAP / 2);
    Object.assign(mark.current.style, {
      left: `${x - 2.5}px`,
      top: `${print.offsetTop}px`,
      height: `${print.offsetHeight}px`,
    });
  });
  return <Mark ref={mark} target={target} />;
}

export interface ContactProps {
  photographs: Photograph[];
  size: ThumbSize;
  selection: Selection;
  onSelect: (selection: Selection) => void;
  onOpen: (id: string) => void;
  onOrder: (ids: string[]) => void;
  onAdd: () => void;
}

/** The prints of a series in their order: selected, opened, and laid into another order by drag or keys. */
export function Contact(props: ContactProps) {
  const { photographs, size } = props;
  const { width, height, edge } = measures[size];

  const { dragAndDropHooks } = useDragAndDrop({
    getItems: ids => [...ids].map(id => ({ 'text/plain': String(id), photograph: String(id) })),
    acceptedDragTypes: ['photograph'],
    renderDropIndicator: target => <DropMark target={target} />,
    onReorder: ({ keys, target }) => {
      const moved = photographs.filter(p => keys.has(p.id)).map(p => p.id);
      const rest = photographs.filter(p => !keys.has(p.id)).map(p => p.id);
      const at = rest.indexOf(String(target.key)) + (target.dropPosition === 'after' ? 1 : 0);
      rest.splice(at, 0, ...moved);
      props.onOrder(rest);
    },
  });

  return (
    <div>
      <Grid
        $width={width}
        aria-label="Photographs"
        layout="grid"
        selectionMode="multiple"
        selectionBehavior="replace"
        selectedKeys={props.selection}
        onSelectionChange={props.onSelect}
        onAction={id => props.onOpen(String(id))}
        dragAndDropHooks={dragAndDropHooks}
        dependencies={[size]}
        items={photographs.map((p, i) => ({ id: p.id, photograph: p, number: i + 1 }))}
      >
        {({ photograph: p, number }: Entry) => {
          const take = currentTake(p);
          return (
            <Print id={p.id} textValue={p.title} $height={height}>
              <div className="picture">
                <TakePicture take={take} edge={edge} draggable={false} />
              </div>
              <PrintLabel className="label">
                <b>
                  <i>{number}</i>
                  {p.title}
                </b>
                <span>
                  <u title={p.damage ? `Damaged: ${p.damage}` : undefined}>
                    {p.damage ? 'Damaged' : stepsInWords(take.steps)}
                  </u>
                  <span>Take {take.letter}</span>
                </span>
                <Tick slot="selection" aria-label={`Select ${p.title}`}>
                  <svg viewBox="0 0 24 26" aria-hidden="true">
                    <path d="M3.500 14.500c2 2 3.700 4.500 5 8C11 15 15 8.500 21 3.500" />
                  </svg>
                </Tick>
                {/* The drag handle for keyboards: Enter on it lifts the print, arrows choose the place. */}
                <AriaButton slot="drag" aria-label={`Move ${p.title}`} className="handle">
                  ⠿
                </AriaButton>
              </PrintLabel>
            </Print>
          );
        }}
      </Grid>
      <div style={{ width: Math.max(width, 150), marginTop: photographs.length ? 16 : 0 }}>
        <Add $height={Math.min(height, 122)} onPress={props.onAdd}>
          <Plus aria-hidden="true" size={18} />
          Add photographs
        </Add>
      </div>
    </div>
  );
}
