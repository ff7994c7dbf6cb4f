import { useEffect, useLayoutEffect, useRef, useState, type RefObject } from 'react';
import { useStore } from 'zustand';
import type { Treatment } from '../../core/treatment/treatment';
import { onReturn } from '../app/away';
import { useSame } from '../app/useSame';
import type { Beside } from '../engine/client';
import type { ShowRequest } from '../engine/screen';
import type { Reading } from '../engine/surface';
import type { PictureInfo } from '../engine/tiles';
import { Drawing, type DrawingState } from './drawing';
import type { PointerPlace } from './pointer-place';
import type { Live } from './tool';
import type { Hanging } from './useHanging';

/** How long nothing must have changed before what may come next is fetched. */
const WARM_MS = 1200;

/** What is to be shown at each movement of a control, ahead of the treatment; null where that is. */
export interface Follow {
  newest: () => Treatment | null;
  subscribe: (listener: () => void) => () => void;
}

export interface Wanted {
  picture: PictureInfo;
  title: string;
  treatment: Treatment;
  follow?: Follow;
  /** How the picture hangs. */
  hanging: Pick<Hanging, 'viewport' | 'view' | 'margin' | 'at'>;
  /** Another number for each picture that hangs at the same time; that of the Bench's own has none. */
  slot?: number;
  /** The place of the viewport that is looked at, in device pixels. */
  pointer: PointerPlace;
  marks: ShowRequest['marking'];
  /** The address of a small picture of it, for the first moment. */
  small?: string;
  /** Pictures that may be shown next. */
  beside?: readonly Beside[];
}

export interface Drawn extends DrawingState {
  /** Where the canvas is put. */
  home: RefObject<HTMLDivElement | null>;
  live: Live;
  endStroke: () => void;
  read: (x: number, y: number) => Reading | null;
}

/** The large picture in a place of the page: what is wanted is told to its drawing, whose state is followed. */
export function useDrawing({
  picture,
  title,
  treatment,
  follow,
  hanging: { viewport, view, margin, at },
  slot = 0,
  pointer,
  marks: marking,
  small,
  beside,
}: Wanted): Drawn {
  const home = useRef<HTMLDivElement>(null);
  const [drawing] = useState(() => new Drawing(slot, pointer));
  const state = useStore(drawing.state);
  useLayoutEffect(() => drawing.open(home.current!), [drawing]);
  const { frame } = treatment;
  useLayoutEffect(() => {
    if (at && viewport) drawing.hang({ picture, view, viewport, margin, marking }, frame, at);
  }, [drawing, picture, frame, at, view, viewport, margin, marking]);
  useEffect(() => drawing.setTitle(title), [drawing, title]);

  // Only at first: then the picture itself is there.
  const first = useSame(small, picture.id);
  useEffect(() => {
    if (!first) return;
    const abort = new AbortController();
    void drawing.lay(first, abort.signal).catch(() => undefined);
    return () => abort.abort();
  }, [drawing, first]);

  // What moves is asked for before the interface is built anew.
  useEffect(
    () =>
      follow?.subscribe(() => {
        const newest = follow.newest();
        if (newest) drawing.ask(newest);
      }),
    [drawing, follow],
  );
  // As it hangs now.
  useEffect(
    () => drawing.ask(follow?.newest() ?? treatment),
    [drawing, follow, treatment, picture, view, viewport, margin, marking],
  );
  // What could not be loaded is asked for again.
  useEffect(() => onReturn(() => drawing.again()), [drawing]);

  // What may come next is fetched when this one is there, and nothing else has been asked for a while.
  const { shown } = state;
  useEffect(() => {
    if (!shown || !viewport || !beside?.length) return;
    const timer = setTimeout(() => drawing.warm(beside), WARM_MS);
    return () => clearTimeout(timer);
  }, [drawing, shown, beside, viewport, margin]);

  const { live, endStroke, read } = drawing;
  return { ...state, home, live, endStroke, read };
}
