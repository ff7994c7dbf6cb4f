import { useCallback, useMemo, useState } from 'react';
import {
  cropOfRatio,
  cropTowards,
  fullCrop,
  withinPhotograph,
  wholeCrop,
  type Crop,
} from '../../core/frame/crop';
import { framedSize, geometryOf } from '../../core/frame/geometry';
import { madeParallel, straightened, type Line } from '../../core/frame/verticals';
import { wholeFrame, type Frame } from '../../core/frame/frame';
import type { Treatment } from '../../core/treatment/treatment';
import type { PictureInfo } from '../engine/tiles';
import type { TakeSession } from '../takes/session';
import type { Place, PictureTool } from '../print/tool';

/** Lines that may be drawn: one to straighten by, or two to be made parallel. */
export type Drawing = 'level' | 'parallel';

/** A line on the shown picture, as fractions of it. */
export type DrawnLine = [Place, Place];

/** The frame of a take being worked on: the whole turned picture is shown, with the crop laid over it. */
export interface Framing {
  frame: Frame;
  /** Width to height that dragging keeps; null when free. */
  ratio: number | null;
  drawing: Drawing | null;
  lines: DrawnLine[];
  /** What the picture shows meanwhile. */
  shown: Treatment;
  tool: PictureTool | null;
  open: boolean;
  setOpen: (open: boolean) => void;
  draw: (what: Drawing | null) => void;
  setRatio: (ratio: number | null) => void;
  /** Changes the frame; without a label it is still moving. Empty corners are cropped. */
  change: (part: Partial<Frame>, label?: string) => void;
  /** Moves the crop towards another, as far as the picture reaches. */
  cropTo: (crop: Crop, from: Crop) => void;
  cropRests: () => void;
  reset: () => void;
}

/** Lines shorter than this share of the picture are taken for a slip. */
const SHORTEST = 0.03;

const isWhole = ({ x, y, width, height }: Crop) => x === 0 && y === 0 && width === 1 && height === 1;

export function useFraming(
  picture: PictureInfo,
  session: TakeSession,
  treatment: Treatment,
  open: boolean,
  setOpen: (open: boolean) => void,
): Framing {
  const [ratio, keepRatio] = useState<number | null>(null);
  const [drawing, setDrawing] = useState<Drawing | null>(null);
  const [lines, setLines] = useState<DrawnLine[]>([]);
  const { frame } = treatment;

  // What was being drawn is put away when the frame is opened or closed.
  const [wasOpen, setWasOpen] = useState(open);
  if (open !== wasOpen) {
    setWasOpen(open);
    setDrawing(null);
    setLines([]);
  }

  const put = useCallback(
    (next: Frame, label?: string) => {
      const changed = { ...session.state().treatment, frame: next };
      if (label === undefined) session.preview(changed);
      else session.commit(changed, `Frame: ${label}`);
    },
    [session],
  );

  const change = useCallback(
    (part: Partial<Frame>, label?: string) => {
      const now = session.state().treatment.frame;
      const next = { ...now, ...part };
      // A crop that was the most there was stays the most there is; one of the photographer's is drawn in.
      const wasFull =
        isWhole(now.crop) || sameCrop(now.crop, fullCrop(picture, { ...now, crop: wholeCrop }).crop);
      const fitted =
        part.crop || part.quarterTurns !== undefined
          ? withinPhotograph(picture, next)
          : wasFull
            ? fullCrop(picture, { ...next, crop: wholeCrop })
            : withinPhotograph(picture, next);
      put(fitted, label);
    },
    [picture, session, put],
  );

  const setRatio = useCallback(
    (next: number | null) => {
      keepRatio(next);
      if (next === null) return;
      const now = session.state().treatment.frame;
      put({ ...now, crop: cropOfRatio(picture, now, next) }, 'ratio');
    },
    [picture, session, put],
  );

  const draw = useCallback((what: Drawing | null) => {
    setDrawing(what);
    setLines([]);
  }, []);

  const shown = useMemo(() => {
    if (!open) return treatment;
    return { ...treatment, frame: { ...frame, crop: wholeCrop } };
  }, [open, treatment, frame]);

  const finish = useCallback(
    (drawn: DrawnLine[], what: Drawing) => {
      const now = session.state().treatment.frame;
      const whole = { ...now, crop: wholeCrop };
      const size = framedSize(picture, whole);
      const { toPhotograph } = geometryOf(picture, whole);
      const onPhotograph = (line: DrawnLine) =>
        line.map(({ x, y }) => {
          const out = new Float64Array(2);
          toPhotograph(x * size.width, y * size.height, out);
          return [out[0], out[1]];
        }) as Line;
      if (what === 'level') {
        const { angle } = straightened(picture, now, onPhotograph(drawn[0]));
        change({ angle: Math.round(angle * 100) / 100 }, 'straighten');
        draw(null);
      } else if (drawn.length === 2) {
        const { angle, keystone } = madeParallel(picture, now, [
          onPhotograph(drawn[0]),
          onPhotograph(drawn[1]),
        ]);
        const rounded = (v: number) => Math.round(v * 1000) / 1000;
        change(
          {
            angle: Math.round(angle * 100) / 100,
            keystone: { vertical: rounded(keystone.vertical), horizontal: rounded(keystone.horizontal) },
          },
          'two lines',
        );
        draw(null);
      }
    },
    [picture, session, change, draw],
  );

  const tool = useMemo<PictureTool | null>(() => {
    if (!open || !drawing) return null;
    return {
      cursor: 'crosshair',
      name:
        drawing === 'level'
          ? 'Draw a line that should be level or upright.'
          : 'Draw two lines that should be parallel.',
      press: at => {
        const before = lines;
        let drawn: DrawnLine[] = [...before, [at, at]];
        setLines(drawn);
        return {
          move: to => {
            drawn = [...before, [at, to]];
            setLines(drawn);
          },
          end: () => {
            const [from, to] = drawn.at(-1)!;
            if (Math.hypot(to.x - from.x, to.y - from.y) < SHORTEST) setLines(before);
            else finish(drawn, drawing);
          },
        };
      },
    };
  }, [open, drawing, lines, finish]);

  return {
    frame,
    ratio,
    drawing,
    lines,
    shown,
    tool,
    open,
    setOpen,
    draw,
    setRatio,
    change,
    cropTo: (crop, from) => {
      const now = session.state().treatment.frame;
      put({ ...now, crop: cropTowards(picture, { ...now, crop: from }, crop) });
    },
    cropRests: () => put(session.state().treatment.frame, 'crop'),
    reset: () => {
      keepRatio(null);
      draw(null);
      put(wholeFrame(), 'as photographed');
    },
  };
}

const sameCrop = (a: Crop, b: Crop) =>
  (['x', 'y', 'width', 'height'] as const).every(side => Math.abs(a[side] - b[side]) < 1e-4);
