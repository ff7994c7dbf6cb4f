import { useCallback, useEffect, useMemo, useState } from 'react';
import { starterBox, type NamedPigment } from '../../core/colour/pigments';
import type { Stroke } from '../../core/settings/fields';
import { showingArea } from '../../core/treatment/areas';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { leaveAsItIs, readyToTint, tint, washesOf, type Way } from '../../core/treatment/tinting';
import { addPoint, pointOf, toPhotograph } from '../areas/on-photograph';
import { roughDrag, roughPoint, type Rough } from '../areas/rough-drag';
import { useRest } from '../areas/useRest';
import { readyToFind, smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import type { HeldKeys, Live, Place, PictureTool, ToolDrag } from '../print/tool';
import { nameOfPigment } from '../../words/pigment-names';
import type { TakeSession } from '../takes/session';
import { nameOfStep } from '../../words/step-names';

/** Tinting in one act: a pigment in the hand, a stroke on the picture, and there is a wash. */

export interface TintingState {
  named: NamedPigment;
  way: Way;
  /** Radius of strokes, a fraction of the long edge. */
  radius: number;
  /** How strictly strokes keep to edges, 0..1. */
  keepEdges: number;
  /** Strokes say "leave as it is". */
  leaving: boolean;
}

export interface Tinting extends TintingState {
  set: (change: Partial<TintingState>) => void;
  /** The rough stroke under way. */
  drawn: Rough | null;
  /** Takes the pigment of a wash into the hand: its next stroke goes on with that wash. */
  takeUp: (treatment: Treatment, step: string) => void;
  /** A treatment with what a press where the pointer rests would tint. */
  lookedAt: (treatment: Treatment) => Treatment;
  tool: PictureTool;
}

/** A wash lies where its area covers more than this. */
const LIES = 0.5;

/** The topmost wash that lies at a place of the picture in its frame; undefined where none does. */
async function washAt(
  picture: PictureInfo,
  treatment: Treatment,
  { x, y }: Place,
): Promise<string | undefined> {
  const { engine } = await smallPictures();
  for (const { id, mask } of washesOf(treatment).toReversed()) {
    const [share] = await engine.colourAt(picture, showingArea(treatment, mask!, 'grey', '#ffffff'), x, y);
    if (share > LIES) return id;
  }
  return undefined;
}

export function useTinting(
  picture: PictureInfo,
  session: TakeSession,
  chosen: string | null,
  isOpen: boolean,
  onTinted: (treatment: Treatment, label: string, step: string) => void,
  onChoose: (step: string) => void,
): Tinting {
  const [state, setState] = useState<TintingState>({
    named: starterBox[0],
    way: 'thing',
    radius: 0.01,
    keepEdges: 0.6,
    leaving: false,
  });
  const set = useCallback((change: Partial<TintingState>) => setState(now => ({ ...now, ...change })), []);
  const [drawn, setDrawn] = useState<Rough | null>(null);
  const [hint, setHint] = useState<{ stroke: Stroke; of: TintingState } | null>(null);
  const takeUp = useCallback(
    (treatment: Treatment, id: string) => {
      const step = washesOf(treatment).find(s => s.id === id);
      if (!step) return;
      const { pigment, depth } = (step as Step<'wash'>).settings;
      const name = nameOfPigment(pigment) ?? nameOfStep(step);
      set({ named: { name, pigment: structuredClone(pigment), depth }, leaving: false });
    },
    [set],
  );
  // Opened on a wash, it goes on with that.
  const [wasOpen, setWasOpen] = useState(false);
  if (isOpen !== wasOpen) {
    setWasOpen(isOpen);
    if (isOpen && chosen !== null) takeUp(session.state().treatment, chosen);
  }
  const rest = useRest();
  const forget = useCallback(() => {
    rest.moved();
    setHint(null);
  }, [rest]);
  useEffect(() => forget, [forget, isOpen, state]);
  useEffect(() => {
    if (isOpen) readyToFind(picture);
  }, [isOpen, picture]);
  const { named, way, radius, keepEdges, leaving } = state;

  const lay = useCallback(
    (start: Treatment, stroke: Stroke) => {
      const what = named.name.toLowerCase();
      if (leaving && way === 'spread') {
        const left = leaveAsItIs(start, chosen, stroke);
        if (left && chosen) onTinted(left, 'Leave as it is', chosen);
        return;
      }
      const made = tint(start, chosen, named, stroke, way);
      onTinted(made.treatment, made.step === chosen ? `More ${what}` : `Tint with ${what}`, made.step);
    },
    [chosen, named, way, leaving, onTinted],
  );

  const paint = useCallback(
    (at: Place, live: Live): ToolDrag => {
      const start = session.state().treatment;
      const place = toPhotograph(picture, start);
      const { treatment: base, area } = readyToTint(start, chosen, named);
      const points = [pointOf(place, at)];
      const stroke = (): Stroke => ({
        points: points.slice(),
        radius,
        hardness: 0.6,
        flow: 1,
        erase: false,
        keepEdges,
      });
      session.pen(true);
      live.stroke(base, area, stroke());
      return {
        live: true,
        move: to => {
          if (addPoint(points, pointOf(place, to), radius, picture)) live.stroke(base, area, stroke());
        },
        end: () => {
          lay(start, stroke());
          session.pen(false);
        },
        cancel: () => {
          session.pen(false);
          session.preview(start);
        },
      };
    },
    [picture, session, chosen, named, radius, keepEdges, lay],
  );

  const press = useCallback(
    (at: Place, _keys: HeldKeys, live: Live): ToolDrag => {
      forget();
      if (way === 'edges') return paint(at, live);
      const start = session.state().treatment;
      const isOut = leaving && way === 'spread';
      return roughDrag(picture, session, at, radius, isOut, setDrawn, stroke => {
        if (stroke.points.length > 1) return lay(start, stroke);
        // A press on what a wash lies on already chooses that wash.
        const find = washAt(picture, start, at).catch(() => undefined);
        void session.editWhenFound(`Tint with ${named.name.toLowerCase()}`, find, found => {
          const now = session.state().treatment;
          if (found === undefined) lay(now, stroke);
          else if (found !== chosen && washesOf(now).some(({ id }) => id === found)) {
            takeUp(now, found);
            onChoose(found);
          }
        });
      });
    },
    [forget, way, paint, session, picture, radius, leaving, lay, chosen, named, onChoose, takeUp],
  );

  const hover = useCallback(
    (at: Place | null) => {
      forget();
      if (at === null || way !== 'thing') return;
      rest.then(isStill => {
        const start = session.state().treatment;
        void washAt(picture, start, at).then(
          found => {
            if (found !== undefined || !isStill() || session.state().treatment !== start) return;
            setHint({ stroke: roughPoint(picture, start, at, radius), of: state });
          },
          () => undefined,
        );
      });
    },
    [picture, session, way, radius, state, forget, rest],
  );

  const lookedAt = useCallback(
    (treatment: Treatment) =>
      hint ? tint(treatment, null, hint.of.named, hint.stroke, 'thing').treatment : treatment,
    [hint],
  );
  const tool = useMemo<PictureTool>(
    () => ({
      cursor: 'crosshair',
      name: 'Draw on a thing to tint it with the pigment in the hand; press on a tinted one to choose its wash.',
      press,
      hover,
    }),
    [press, hover],
  );
  return useMemo(
    () => ({ ...state, set, takeUp, drawn, lookedAt, tool }),
    [state, set, takeUp, drawn, lookedAt, tool],
  );
}
