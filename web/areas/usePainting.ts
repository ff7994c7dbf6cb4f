import { useCallback, useMemo, useRef, useState } from 'react';
import { hueSixths } from '../../core/colour/hues';
import { luma } from '../../core/colour/srgb';
import { framedSize } from '../../core/frame/geometry';
import { beneathStep } from '../../core/treatment/beneath';
import { addPart, addStroke, areaOf, showingArea, type AreaShown } from '../../core/treatment/areas';
import type { MaskPart } from '../../core/masks/parts';
import type { Stroke } from '../../core/settings/fields';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { messageOf } from '../app/api';
import { tell } from '../app/notices';
import { smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import { useKeys } from '../app/useKeys';
import type { TakeSession } from '../takes/session';
import type { HeldKeys, Live, Place, PictureTool } from '../print/tool';
import { addPoint, pointOf, toPhotograph } from './on-photograph';
import { useFinding, type Finding } from './useFinding';

export type AreaTool = 'brush' | 'edges' | 'finder' | 'linear' | 'oval' | 'tones' | 'hues';

export interface Brush {
  /** Radius as a fraction of the photograph's long edge. */
  radius: number;
  hardness: number;
  flow: number;
  /** How strictly the brush that keeps to edges does so, 0..1. */
  keepEdges: number;
  /** Radius of the finder's rough strokes, a fraction of the long edge. */
  rough: number;
}

/** How the chosen step's area is worked on. */
export interface Painting {
  /** The area of the chosen step; null where that lies on the whole picture. */
  area: string | null;
  tool: AreaTool;
  brush: Brush;
  /** Takes away instead of adding; a held Alt turns it about. */
  taking: boolean;
  /** The finder's first stroke goes around a thing. */
  around: boolean;
  finding: Finding;
  shown: AreaShown;
  film: string;
  /** What has no colour steps back, so that leftovers of colour are seen. */
  colouredMarked: boolean;
  set: (
    change: Partial<
      Pick<Painting, 'tool' | 'brush' | 'taking' | 'around' | 'shown' | 'film' | 'colouredMarked'>
    >,
  ) => void;
  /** A treatment as it is looked at: lit, its area shown. */
  lookedAt: (treatment: Treatment) => Treatment;
  pictureTool: PictureTool | null;
}

/** Limits of the radius, and how much a key changes it. */
export const RADIUS = { least: 0.0008, most: 0.2, factor: 1.15 };
export const ROUGH = { least: 0.002, most: 0.03 };
const clampRough = (radius: number) => Math.min(ROUGH.most, Math.max(ROUGH.least, radius));

/** Tools that paint with a brush. */
export const isBrush = (tool: AreaTool): boolean => tool === 'brush' || tool === 'edges';
const clampRadius = (radius: number) => Math.min(RADIUS.most, Math.max(RADIUS.least, radius));

/** What the hand does with each tool. */
export const toolNames: Record<AreaTool, string> = {
  brush: 'Paint the area; hold Alt to take away, Shift for a straight line.',
  edges: 'Paint within the edges of what the stroke begins on; hold Alt to take away.',
  finder: 'Draw roughly on a thing to find it; hold Alt for what is not meant, Shift to go around it.',
  linear: 'Drag a straight gradient, from full to nothing.',
  oval: 'Drag an oval from its middle.',
  tones: 'Press on a tone to add all that are like it.',
  hues: 'Press on a colour to add all that have its hue.',
};

/** @param lit what of a treatment the lamp lights */
export function usePainting(
  picture: PictureInfo,
  session: TakeSession,
  step: Step | undefined,
  lit: (treatment: Treatment) => Treatment,
): Painting {
  const [state, setState] = useState({
    tool: 'brush' as AreaTool,
    brush: { radius: 0.03, hardness: 0.5, flow: 1, keepEdges: 0.6, rough: 0.008 },
    taking: false,
    around: false,
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
      setState(({ brush, ...now }) => {
        const { radius, rough } = brush;
        const sized =
          now.tool === 'finder' ? { rough: clampRough(rough * by) } : { radius: clampRadius(radius * by) };
        return { ...now, brush: { ...brush, ...sized } };
      }),
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

  const { shown, film, tool } = state;
  const finding = useFinding(
    picture,
    session,
    tool === 'finder' ? area : null,
    state.brush.rough,
    state.taking,
    state.around,
  );
  const { withHint } = finding;
  const lookedAt = useCallback(
    (treatment: Treatment) =>
      area === null ? lit(treatment) : showingArea(withHint(lit(treatment)), area, shown, film),
    [area, lit, shown, film, withHint],
  );

  const paint = useCallback(
    (at: Place, keys: HeldKeys, live: Live) => {
      if (area === null) return null;
      const start = session.state().treatment;
      const base = lookedAt(start);
      const place = toPhotograph(picture, start);
      const { radius, hardness, flow } = state.brush;
      const keepEdges = state.tool === 'edges' ? state.brush.keepEdges : 0;
      const erase = state.taking !== keys.alt;
      const point = (p: Place) => pointOf(place, p);
      const from = keys.shift && last.current?.area === area ? [last.current.point] : [];
      const points = [...from, point(at)];
      const stroke = (): Stroke => ({ points: points.slice(), radius, hardness, flow, erase, keepEdges });
      session.pen(true);
      live.stroke(base, area, stroke());
      return {
        live: true,
        move: (to: Place) => {
          if (addPoint(points, point(to), radius, picture)) live.stroke(base, area, stroke());
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
    [area, picture, session, lookedAt, state.tool, state.brush, state.taking],
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

  const pictureTool = useMemo<PictureTool | null>(() => {
    if (area === null) return null;
    const presses: Record<AreaTool, PictureTool['press']> = {
      brush: paint,
      edges: paint,
      finder: finding.press,
      linear: drag,
      oval: drag,
      tones: seize,
      hues: seize,
    };
    return {
      cursor: isBrush(tool) ? 'none' : 'crosshair',
      name: toolNames[tool],
      press: presses[tool],
      hover: tool === 'finder' ? finding.hover : undefined,
      anywhere: tool !== 'tones' && tool !== 'hues',
      turn: isBrush(tool) || tool === 'finder' ? steps => resizeBrush(RADIUS.factor ** steps) : undefined,
    };
  }, [area, tool, paint, drag, seize, resizeBrush, finding]);

  return useMemo(
    () => ({ area, ...state, finding, set, lookedAt, pictureTool }),
    [area, state, finding, set, lookedAt, pictureTool],
  );
}
