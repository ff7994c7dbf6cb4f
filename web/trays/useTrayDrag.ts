import { useRef, useState, type RefObject } from 'react';
import { useDrag, useDrop, type DropItem } from 'react-aria';

/** Trays and stages as what is dragged and where it is dropped. */

const TRAY = 'application/x-lampwash-tray';

/** Where a tray would land: before or after another one, or at the end of a stage. */
export type Landing = 'before' | 'after';

/** The step whose tray was dropped. */
async function droppedOf(items: readonly DropItem[]): Promise<string | null> {
  const tray = items.find(item => item.kind === 'text' && item.types.has(TRAY));
  return tray?.kind === 'text' ? tray.getText(TRAY) : null;
}

/** The tray that is being dragged, so that it is no target of itself; one window drags one. */
let dragged: string | null = null;

const onlyTrays = (types: { has: (type: string) => boolean }) => (types.has(TRAY) ? 'move' : 'cancel');

/** A tray that is dragged, and that others are dropped before or after. */
export function useTrayDrag(
  id: string,
  ref: RefObject<HTMLElement | null>,
  onDrop: (dropped: string, where: Landing) => void,
) {
  const [landing, setLanding] = useState<Landing | null>(null);
  const { dragProps, isDragging } = useDrag({
    getItems: () => [{ [TRAY]: id }],
    getAllowedDropOperations: () => ['move'],
    // By keys a tray is moved with Alt and arrows; Enter chooses it, and takes hold of nothing.
    hasDragButton: true,
    onDragStart: () => (dragged = id),
    onDragEnd: () => (dragged = null),
  });
  const whereAt = (x: number): Landing =>
    x < (ref.current?.getBoundingClientRect().width ?? 0) / 2 ? 'before' : 'after';
  const { dropProps } = useDrop({
    ref,
    getDropOperation: onlyTrays,
    onDropMove: ({ x }) => setLanding(dragged === id ? null : whereAt(x)),
    onDropExit: () => setLanding(null),
    onDrop: ({ x, items }) => {
      setLanding(null);
      void droppedOf(items).then(dropped => {
        if (dropped !== null && dropped !== id) onDrop(dropped, whereAt(x));
      });
    },
  });
  return { dragProps, dropProps, isDragging, landing };
}

/** A stage that trays are dropped at the end of. */
export function useStageDrop(onDrop: (dropped: string) => void) {
  const ref = useRef<HTMLDivElement>(null);
  const { dropProps, isDropTarget } = useDrop({
    ref,
    getDropOperation: onlyTrays,
    onDrop: ({ items }) =>
      void droppedOf(items).then(dropped => {
        if (dropped !== null) onDrop(dropped);
      }),
  });
  return { ref, dropProps, isDropTarget };
}
