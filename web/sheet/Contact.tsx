import { useMemo, type MouseEvent } from 'react';
import {
  Button as AriaButton,
  Checkbox,
  DropIndicator,
  GridLayout,
  GridList,
  GridListItem,
  Size,
  useDragAndDrop,
  Virtualizer,
  type Selection,
} from 'react-aria-components';
import styled from 'styled-components';
import { framedSize } from '../../core/frame/geometry';
import { wholeFrame } from '../../core/frame/frame';
import type { Photograph } from '../../contract/photographs';
import { currentTake } from '../app/api';
import { characterInWords } from '../../words/character';
import { PrintLabel } from '../ui/print-label';
import { TakePicture } from '../ui/TakePicture';

export const sizes = ['small', 'medium', 'large'] as const;
export type ThumbSize = (typeof sizes)[number];

const measures: Record<ThumbSize, { width: number; height: number; edge: 160 | 480 | 960 }> = {
  small: { width: 132, height: 88, edge: 480 },
  medium: { width: 180, height: 122, edge: 480 },
  large: { width: 380, height: 253, edge: 960 },
};
/** The label beneath a print, with the gap above it. */
const LABEL = 48;
/** Between two prints. */
const GAP = { across: 18, down: 14 };
/** A print grows by so much where the room is not filled. */
const GROWS = 1.35;

interface Entry {
  id: string;
  photograph: Photograph;
  number: number;
}

const Grid = styled(GridList<Entry>)`
  height: 100%;
  overflow: hidden auto;
  outline: none;
  scrollbar-width: thin;
`;

const Print = styled(GridListItem)`
  position: relative;
  height: 100%;
  outline: none;
  cursor: default;
  .picture {
    height: calc(100% - ${LABEL}px);
    display: flex;
    align-items: flex-end;
    container-type: size;
  }
  .sheet {
    display: block;
    width: min(100cqw, 100cqh * var(--shape));
    aspect-ratio: var(--shape);
    background: rgb(255 255 255 / 0.16);
    box-shadow: 0 1px 3px rgb(0 0 0 / 0.3);
  }
  .sheet img {
    display: block;
    width: 100%;
    height: 100%;
  }
  .label {
    padding-right: 32px;
  }
  &[data-hovered] .label {
    background: var(--paper-high);
  }
  &[data-selected] .sheet {
    outline: 3px solid #fff;
  }
  &[data-selected] .label {
    background: #fff;
  }
  &[data-focus-visible] .sheet {
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

/** Where a dragged print would land: a line between two prints. */
const Mark = styled(DropIndicator)`
  height: 100%;
  &[data-drop-target] {
    border-radius: 3px;
    background: var(--lamp);
    box-shadow: 0 0 0 1px var(--lamp-deep);
  }
`;

/** The shape of a print before its picture is there: width by height of the framed photograph. */
function shapeOf(photograph: Photograph): number {
  const { width, height } = framedSize(photograph, currentTake(photograph).frame ?? wholeFrame());
  return width / height;
}

function PrintOf({
  photograph: p,
  number,
  edge,
  mayMove,
}: Entry & { edge: 160 | 480 | 960; mayMove: boolean }) {
  const take = currentTake(p);
  return (
    <Print id={p.id} textValue={p.title}>
      <div className="picture" data-print-of={p.id}>
        <span className="sheet" style={{ ['--shape' as string]: shapeOf(p) }}>
          <TakePicture take={take} edge={edge} draggable={false} />
        </span>
      </div>
      <PrintLabel className="label" data-print-of={p.id} title={p.caption || undefined}>
        <b>
          <i>{number}</i>
          {p.title}
        </b>
        <span>
          <u title={p.damage ? `Damaged: ${p.damage}` : undefined}>
            {p.damage ? 'Damaged' : characterInWords(take.steps)}
          </u>
          <span>Take {take.letter}</span>
        </span>
        <Tick slot="selection" aria-label={`Select ${p.title}`}>
          <svg viewBox="0 0 24 26" aria-hidden="true">
            <path d="M3.500 14.500c2 2 3.700 4.500 5 8C11 15 15 8.500 21 3.500" />
          </svg>
        </Tick>
        {/* The drag handle for keyboards: Enter on it lifts the print, arrows choose the place. */}
        {mayMove ? (
          <AriaButton slot="drag" aria-label={`Move ${p.title}`} className="handle">
            ⠿
          </AriaButton>
        ) : null}
      </PrintLabel>
    </Print>
  );
}

export interface ContactProps {
  /** The photographs as they hang, whose numbers are told. */
  hung: readonly Photograph[];
  /** Those that are shown, in the order in which they are looked at. */
  photographs: readonly Photograph[];
  /** They are shown as they hang, and may be hung otherwise. */
  mayMove: boolean;
  size: ThumbSize;
  selection: Selection;
  onSelect: (selection: Selection) => void;
  onOpen: (id: string) => void;
  /** What is done with a print is asked for, by a right click or a long press. */
  onMenu: (id: string) => void;
  onOrder: (ids: string[]) => void;
}

/** The prints of a series: selected, opened, and hung in another order by drag or keys. Only those in sight are there. */
export function Contact(props: ContactProps) {
  const { photographs, hung, size, mayMove } = props;
  const { width, height, edge } = measures[size];
  const layout = useMemo(
    () => ({
      minItemSize: new Size(width, height + LABEL),
      maxItemSize: new Size(Math.round(width * GROWS), Math.round(height * GROWS) + LABEL),
      minSpace: new Size(GAP.across, GAP.down),
      maxHorizontalSpace: GAP.across,
      preserveAspectRatio: true,
      dropIndicatorThickness: 5,
    }),
    [width, height],
  );
  // Kept as they are while nothing of theirs changes, so that they are not built again.
  const entries = useMemo((): Entry[] => {
    const numbers = new Map(hung.map((p, i) => [p.id, i + 1]));
    return photographs.map(p => ({ id: p.id, photograph: p, number: numbers.get(p.id)! }));
  }, [photographs, hung]);

  const { dragAndDropHooks } = useDragAndDrop({
    isDisabled: !mayMove,
    getItems: ids => [...ids].map(id => ({ 'text/plain': String(id), photograph: String(id) })),
    acceptedDragTypes: ['photograph'],
    renderDropIndicator: target => <Mark target={target} />,
    onReorder: ({ keys, target }) => {
      const moved = photographs.filter(p => keys.has(p.id)).map(p => p.id);
      const rest = photographs.filter(p => !keys.has(p.id)).map(p => p.id);
      const at = rest.indexOf(String(target.key)) + (target.dropPosition === 'after' ? 1 : 0);
      rest.splice(at, 0, ...moved);
      props.onOrder(rest);
    },
  });

  const openMenu = (event: MouseEvent) => {
    const print = event.target instanceof Element && event.target.closest<HTMLElement>('[data-print-of]');
    if (!print) return;
    event.preventDefault();
    props.onMenu(print.dataset.printOf!);
  };
  return (
    <div style={{ display: 'contents' }} onContextMenu={openMenu}>
      <Virtualizer layout={GridLayout} layoutOptions={layout}>
        <Grid
          aria-label="Photographs"
          layout="grid"
          selectionMode="multiple"
          selectionBehavior="replace"
          selectedKeys={props.selection}
          onSelectionChange={props.onSelect}
          onAction={id => props.onOpen(String(id))}
          dragAndDropHooks={dragAndDropHooks}
          dependencies={[size, mayMove]}
          items={entries}
        >
          {entry => <PrintOf {...entry} edge={edge} mayMove={mayMove} />}
        </Grid>
      </Virtualizer>
    </div>
  );
}
