import { useCallback, useMemo, useRef, useState } from 'react';
import { hueSixths } from '../../core/colour/hues';
import { luma } from '../../core/colour/srgb';
import { framedSize, geometryOf } from '../../core/frame/geometry';
import { beneathStep } from '../../core/treatment/beneath';
import { addPart, addStroke, areaOf, showingArea, type AreaShown } from '../../core/treatment/areas';
import type { MaskPart } from '../../core/masks/parts';
import type { Stroke } from '../../core/settings/fields';
import type { Step, Treatment } from '../../core/treatment/schema';
import { messageOf } from '../app/api';
import { tell } from '../app/notices';
import { smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import { useKeys } from '../app/useKeys';
import type { TakeSession } from '../takes/session';
import type { HeldKeys, Live, Place, PictureTool } from '../print/tool';

export type AreaTool = 'brush' | 'linear' | 'oval' | 'tones' | 'hues';

export interface Brush {
  /** Radius as a fraction of the photograph's long edge. */
  radius: number;
  hardness: number;
  flow: number;
}

/** How the chosen step's area is worked on. */
export interface Painting {
  /** The area of the chosen step; null where that lies on the whole picture. */
  area: string | null;
  tool: AreaTool;
  brush: Brush;
  /** Takes away instead of adding; a held Alt turns it about. */
  taking: boolean;
  shown: AreaShown;
  film: string;
  /** What has no colour steps back, so that leftovers of colour are seen. */
  colouredMarked: boolean;
  set: (
    change: Partial<Pick<Painting, 'tool' | 'brush' | 'taking' | 'shown' | 'film' | 'colouredMarked'>>,
  ) => void;
  /** A treatment as it is looked at: lit, its area shown. */
  lookedAt: (treatment: Treatment) => Treatment;
  pictureTool: PictureTool | null;
}

/** Limits of the radius, and how much a key changes it. */
export const RADIUS = { least: 0.0008, most: 0.2, factor: 1.15 };
const clampRadius = (radius: number) => Math.min(RADIUS.most, Math.max(RADIUS.least, radius));

/** Points of a stroke closer than this share of the radius are left out. */
const POINTS_APART = 0.15;

/** What the hand does with each tool. */
export const toolNames: Record<AreaTool, string> = {
  brush: 'Paint the area; hold Alt to take away, Shift for a straight line.',
  linear: 'Drag a straight gradient, from full to nothing.',
  oval: 'Drag an oval from its middle.',
  tones: 'Press on a tone to add all that are like it.',
  hues: 'Press on a colour to add all that have its hue.',
};

/** From the picture in its frame (fractions) to the photograph (fractions). */
function toPhotograph(picture: PictureInfo, treatment: Treatment): (at: Place) => [number, number] {
  const size = framedSize(picture, treatment.frame);
  const geometry = geometryOf(picture, treatment.frame);
  const out = new Float64Array(2);
  const clamp = (v: number) => Math.min(5, Math.max(-4, v));
  return ({ x, y }) => {
    geometry.placeOf(x * size.width, y * size.height, out);
    return [clamp(out[0]), clamp(out[1])];
  };
}

/** A millionth of a picture is a hundredth of a pixel at 100 megapixels; more would only make strokes long to write. */
const fine = (v: number) => Math.round(v * 1e5) / 1e5;

/** @param lit what of a treatment the lamp lights */
export function usePainting(
  picture: PictureInfo,
  session: TakeSession,
  step: Step | undefined,
  lit: (treatment: Treatment) => Treatment,
): Painting {
  const [state, setState] = useState({
    tool: 'brush' as AreaTool,
    brush: { radius: 0.03, hardness: 0.5, flow: 1 },
    taking: false,
    shown: 'off' as AreaShown,
    film: '#22c9a8',
    colouredMarked: false,
  });
  const set = useCallback<Painting['set']>(change => setState(now => ({ ...now, ...change })), []);
  const area = step?.mask ?? null;
  /** Where the last stroke ended, for straight lines. */
  const last = useRef<{ area: string; point: [number, number, number] } | null>(null);

  const resizeBrush = useCallback(
    (by: number) =>
      setState(now => ({ ...now, brush: { ...now.brush, radius: clampRadius(now.brush.radius * by) } })),
    [],
  );
  useKeys(
    {
      smaller: () => resizeBrush(1 / RADIUS.factor),
      larger: () => resizeBrush(RADIUS.factor),
      taking: () => setState(now => ({ ...now, taking: !now.taking })),
    },
    area !== null,
  );

  const { shown, film } = state;
  const lookedAt = useCallback(
    (treatment: Treatment) =>
      area === null ? lit(treatment) : showingArea(lit(treatment), area, shown, film),
    [area, lit, shown, film],
  );

  const paint = useCallback(
    (at: Place, keys: HeldKeys, live: Live) => {
      if (area === null) return null;
      const start = session.state().treatment;
      const base = lookedAt(start);
      const place = toPhotograph(picture, start);
      const { radius, hardness, flow } = state.brush;
      const erase = state.taking !== keys.alt;
      const point = (p: Place): [number, number, number] => {
        const [x, y] = place(p);
        return [fine(x), fine(y), fine(p.pressure ?? 1)];
      };
      const from = keys.shift && last.current?.area === area ? [last.current.point] : [];
      const points = [...from, point(at)];
      const apart = radius * POINTS_APART;
      const ratio = picture.height / picture.width;
      const stroke = (): Stroke => ({ points: points.slice(), radius, hardness, flow, erase, keepEdges: 0 });
      session.pen(true);
      live.stroke(base, area, stroke());
      return {
        live: true,
        move: (to: Place) => {
          const next = point(to);
          const before = points.at(-1)!;
          const [dx, dy] = [next[0] - before[0], (next[1] - before[1]) * ratio];
          if (Math.hypot(dx, dy) < apart || points.length >= 19_000) return;
          points.push(next);
          live.stroke(base, area, stroke());
        },
        end: () => {
          last.current = { area, point: points.at(-1)! };
          session.commit(
            addStroke(start, area, stroke()),
            erase ? 'Take away from the area' : 'Paint the area',
            { apart: true },
          );
          session.pen(false);
        },
        cancel: () => {
          session.pen(false);
          session.preview(start);
        },
      };
    },
    [area, picture, session, lookedAt, state.brush, state.taking],
  );

  const drag = useCallback(
    (at: Place, keys: HeldKeys) => {
      if (area === null) return null;
      const start = session.state().treatment;
      const place = toPhotograph(picture, start);
      const size = framedSize(picture, start.frame);
      const longEdge = Math.max(picture.width, picture.height);
      const takes = state.taking !== keys.alt;
      // In an empty area what takes away has nothing to take from.
      const op = takes && areaOf(start, area)!.parts.length > 0 ? 'subtract' : 'add';
      let made: Treatment | null = null;
      return {
        move: (to: Place) => {
          const across = Math.abs(to.x - at.x) * size.width;
          const down = Math.abs(to.y - at.y) * size.height;
          if (Math.hypot(across, down) < 4) return;
          const part: MaskPart =
            state.tool === 'linear'
              ? { kind: 'linear', op, from: place(at), to: place(to), softness: 1 }
              : {
                  kind: 'oval',
                  op,
                  centre: place(at),
                  radii: [Math.max(across, 2) / longEdge, Math.max(keys.shift ? across : down, 2) / longEdge],
                  angle: 0,
                  feather: 0.4,
                  outside: false,
                };
          made = addPart(start, area, part);
          session.preview(made);
        },
        end: () => {
          if (made)
            session.commit(made, state.tool === 'linear' ? 'Straight gradient' : 'Oval', { apart: true });
        },
      };
    },
    [area, picture, session, state.tool, state.taking],
  );

  const seize = useCallback(
    (at: Place, keys: HeldKeys) => {
      if (area === null) return null;
      const { tool, taking } = state;
      const find = async () => {
        try {
          const { treatment } = session.state();
          const ground = {
            ...treatment,
            strength: 1,
            steps: treatment.steps.filter(s => s.stage === 'ground'),
          };
          const beneath = beneathStep(treatment, treatment.steps.find(s => s.mask === area)?.id ?? '');
          const { engine } = await smallPictures();
          const [r, g, b] = await engine.colourAt(picture, tool === 'hues' ? ground : beneath, at.x, at.y);
          const now = session.state().treatment;
          const op = taking !== keys.alt && areaOf(now, area)!.parts.length > 0 ? 'subtract' : 'add';
          const most = Math.max(r, g, b);
          const span = most - Math.min(r, g, b);
          if (tool === 'hues' && span < 0.03) {
            tell({ text: 'That place is grey: it has no hue.' });
            return;
          }
          const tone = luma(r, g, b);
          const round = (v: number) => Math.round(Math.min(1, Math.max(0, v)) * 1000) / 1000;
          const part: MaskPart =
            tool === 'hues'
              ? {
                  kind: 'hues',
                  op,
                  centre: Math.round(hueSixths(r, g, b, most, span) * 60) % 360,
                  width: 36,
                  softness: 0.4,
                  // What has much less colour than the place is left out: the near-greys about it.
                  colour: Math.min(0.3, Math.max(0.08, round(span * 0.45))),
                }
              : {
                  kind: 'tones',
                  op,
                  range: [round(tone - 0.2), round(tone - 0.08), round(tone + 0.08), round(tone + 0.2)],
                };
          session.commit(addPart(now, area, part), tool === 'hues' ? 'Hues' : 'Tones');
        } catch (error) {
          tell({ text: `Nothing was found: ${messageOf(error)}`, tone: 'problem' });
        }
      };
      void find();
      return null;
    },
    [area, picture, session, state],
  );

  const { tool } = state;
  const pictureTool = useMemo<PictureTool | null>(() => {
    if (area === null) return null;
    const press = tool === 'brush' ? paint : tool === 'linear' || tool === 'oval' ? drag : seize;
    return {
      cursor: tool === 'brush' ? 'none' : 'crosshair',
      name: toolNames[tool],
      press,
      anywhere: tool !== 'tones' && tool !== 'hues',
      turn: tool === 'brush' ? steps => resizeBrush(RADIUS.factor ** steps) : undefined,
    };
  }, [area, tool, paint, drag, seize, resizeBrush]);

  return useMemo(
    () => ({ area, ...state, set, lookedAt, pictureTool }),
    [area, state, set, lookedAt, pictureTool],
  );
}
