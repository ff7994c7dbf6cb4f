import { useEffect, useRef, type ElementType, type HTMLAttributes } from 'react';
import { mergeProps, useMove } from 'react-aria';

/**
 * What is dragged by the pointer or moved by the arrow keys: the one way in which the interface does it. Distances are
 * told as shares of a box.
 */

export interface Moves<From = undefined> {
  /** The size of what distances are shares of, in CSS pixels. */
  box: () => { width: number; height: number } | undefined;
  /** How far an arrow key moves, and with Shift. */
  near: number;
  far: number;
  /** The first movement comes. */
  begin?: () => void;
  /** What is moved, as it is now. */
  from?: From;
  /**
   * How far it has been moved since it was taken hold of, or by one key.
   * @param begun what was moved, as it was when it was taken hold of
   */
  move: (right: number, down: number, byKey: boolean, begun: From) => void;
  /** It has come to rest. */
  rest?: () => void;
}

/** Handlers for an element that is moved so. */
export function useMovable<From = undefined>(moves: Moves<From>) {
  const latest = useRef(moves);
  useEffect(() => {
    latest.current = moves;
  });
  const gone = useRef({ x: 0, y: 0 });
  const begun = useRef(moves.from);
  const { moveProps } = useMove({
    onMoveStart: () => {
      gone.current = { x: 0, y: 0 };
      begun.current = latest.current.from;
      latest.current.begin?.();
    },
    onMove: ({ pointerType, deltaX, deltaY, shiftKey }) => {
      const { box, near, far, move } = latest.current;
      const of = begun.current as From;
      if (pointerType === 'keyboard') {
        const by = shiftKey ? far : near;
        move(Math.sign(deltaX) * by, Math.sign(deltaY) * by, true, of);
        return;
      }
      const size = box();
      if (!size) return;
      gone.current.x += deltaX;
      gone.current.y += deltaY;
      move(gone.current.x / size.width, gone.current.y / size.height, false, of);
    },
    onMoveEnd: () => latest.current.rest?.(),
  });
  return moveProps;
}

type MovableProps<From> = Moves<From> & { as: ElementType } & Omit<HTMLAttributes<HTMLElement>, keyof Moves> &
  Record<`data-${string}`, unknown>;

/** An element that is moved so: one of several, each with its own. */
export function Movable<From = undefined>({
  as: Element,
  box,
  near,
  far,
  from,
  begin,
  move,
  rest,
  ...props
}: MovableProps<From>) {
  const moveProps = useMovable({ box, near, far, from, begin, move, rest });
  // What is pressed has the focus, so that the keys go on with it.
  const focus = { onPointerDown: (event: { currentTarget: HTMLElement }) => event.currentTarget.focus() };
  return <Element {...mergeProps(moveProps, focus, props)} />;
}
