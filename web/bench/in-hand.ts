import { createContext, use, useCallback, useMemo } from 'react';
import { framedSize } from '../../core/frame/geometry';
import { whileHeld } from '../../core/treatment/held';
import { bareTreatment, type Step, type Treatment } from '../../core/treatment/treatment';
import { isBrush } from '../areas/painting-store';
import { usePainting, type Painting } from '../areas/usePainting';
import { overlaid } from '../compare/against';
import { useCompared, type Compare } from './useCompared';
import { useFraming, type Framing } from '../frame/useFraming';
import { usePicking, type PickColour } from '../print/usePicking';
import { useRegion, type RegionChoice } from '../print/useRegion';
import type { PictureTool } from '../print/tool';
import { useStripTool } from '../teststrip/useStripTool';
import { useTestStrip, type TestStrip } from '../teststrip/useTestStrip';
import { useTinting, type Tinting } from '../tinting/useTinting';
import { usePull, type Pulled } from '../tools/usePull';
import { chooseTool } from './picture-tool';
import { STEP, type Side } from './side';
import { useBenchState, usePaced, useRested, useWork } from './work';

/** What the picture and the panel beside it have in common: the treatment as it moves, and each way to work on it. */
export interface AtHand {
  side: Side;
  /** The newest treatment, a little later while a slider glides. */
  treatment: Treatment;
  /** The same without what is still moving. */
  calm: Treatment;
  /** The step that is worked on. */
  chosen: string | null;
  step: Step | undefined;
  /** A treatment up to the lamp. */
  litOf: (of: Treatment) => Treatment;
  framing: Framing;
  pick: PickColour;
  painting: Painting;
  tinting: Tinting;
  strip: TestStrip;
  region: RegionChoice;
  pulled: Pulled | null;
  tool: PictureTool | null;
  compare: Compare;
  seen: {
    /** Two pictures hang, or halves of two. */
    way: 'half' | 'side' | null;
    isStrip: boolean;
    isBare: boolean;
    /** The treated picture hangs there, and can be worked on. */
    isTreatedSeen: boolean;
    /** The area of the chosen step is worked on. */
    isAreaOpen: boolean;
    /** What hangs in the picture's place, but for what is tried. */
    treatment: Treatment;
    theirs: Treatment | null;
    /** What moves is shown at once as this makes it; null where something else hangs there. */
    ahead: ((of: Treatment) => Treatment) | null;
  };
}

export const AtHandContext = createContext<AtHand | null>(null);

export function useAtHand(): AtHand {
  const atHand = use(AtHandContext);
  if (!atHand) throw new Error('outside of the workplace');
  return atHand;
}

const bare = bareTreatment();

/** What is made of a treatment, made once. */
function remembering(make: (of: Treatment) => Treatment): (of: Treatment) => Treatment {
  const known = new WeakMap<Treatment, Treatment>();
  return of => {
    const made = known.get(of) ?? make(of);
    known.set(of, made);
    return made;
  };
}

/** Puts in hand what the picture and the panel need. */
export function useWorkplace(chosen: string | null): AtHand {
  const { bench, picture, photograph, layApart } = useWork();
  const { session, edits, setSide } = bench;
  const { treatment } = usePaced();
  // Not deferred: what is pressed in the panel is laid on this one.
  const { treatment: calm } = useRested();
  const side = useBenchState(s => s.side);
  const held = useBenchState(s => s.held);
  const lampAt = useBenchState(s => s.lampAt);
  const litOf = useCallback(
    // A lamp at the end stays there, so that what comes newest is never shown without its last step.
    (of: Treatment) =>
      lampAt === null || lampAt >= of.steps.length ? of : { ...of, steps: of.steps.slice(0, lampAt) },
    [lampAt],
  );
  const lit = useMemo(() => litOf(treatment), [litOf, treatment]);
  const step = treatment.steps.find(s => s.id === chosen);

  const setFramingOpen = useCallback((open: boolean) => setSide(open ? { what: 'frame' } : STEP), [setSide]);
  const framing = useFraming(picture, session, lit, side.what === 'frame', setFramingOpen);
  const picking = usePicking(picture, session);
  const pull = usePull(picture, session, chosen === null ? undefined : lit.steps.find(s => s.id === chosen));
  const painting = usePainting(picture, session, step, litOf);
  const isTinting = side.what === 'tint';
  const tinting = useTinting(picture, session, chosen, isTinting, layApart, bench.choose);
  const strip = useTestStrip(picture, calm, chosen, edits.commit, side.what === 'step');
  const stripTool = useStripTool(strip);
  const region = useRegion();
  const compare = useCompared(photograph.takes, treatment, lit, chosen);

  const { lookedAt } = painting;
  const { lookedAt: tintedAt } = tinting;
  /** What is looked at of a treatment; of the same one always the same. */
  const look = useMemo(
    () =>
      remembering(of =>
        isTinting
          ? tintedAt(litOf(of))
          : chosen !== null && held.length > 0
            ? whileHeld(litOf(of), chosen, held)
            : lookedAt(of),
      ),
    [chosen, held, litOf, lookedAt, isTinting, tintedAt],
  );

  const isStrip = strip.cells.length > 0;
  const { way: shownWay } = compare.shown;
  const isBare = shownWay === 'bare';
  const way = (shownWay === 'half' || shownWay === 'side') && !framing.open && !isStrip ? shownWay : null;
  const isOtherInPlace = way !== null && !compare.isOwn;
  const isTreatedSeen = !isStrip && !isBare && !isOtherInPlace;
  // The bare photograph is shown in the take's frame, so that it does not jump.
  const bareInFrame = useMemo(() => ({ ...bare, frame: framing.shown.frame }), [framing.shown.frame]);
  const { theirs: other, shelf } = compare;
  const theirs = useMemo(
    () => (other && way === 'half' ? overlaid(other, shelf.now) : other),
    [other, way, shelf.now],
  );
  return {
    ...{ side, treatment, calm, chosen, step, litOf, framing, painting, tinting, strip, region, compare },
    pick: picking.pick,
    pulled: pull.pulled,
    tool: chooseTool(
      {
        framing: framing.tool,
        strip: stripTool,
        picking: picking.tool,
        tinting: tinting.tool,
        region: region.tool,
        painting: painting.pictureTool,
        pull: pull.tool,
      },
      { side: side.what, isTreatedSeen, isOtherInPlace },
    ),
    seen: {
      ...{ way, isStrip, isBare, isTreatedSeen },
      isAreaOpen: painting.area !== null && side.what === 'step',
      treatment:
        isBare && !isStrip
          ? bareInFrame
          : framing.open
            ? framing.shown
            : isOtherInPlace
              ? (compare.given ?? lit)
              : look(treatment),
      theirs: way === null ? null : theirs,
      ahead: isBare || framing.open || isOtherInPlace ? null : look,
    },
  };
}

/** The radius of the brush on the wall, in CSS pixels; null where none is in the hand. */
export function brushOnWall(
  { painting, treatment }: Pick<AtHand, 'painting' | 'treatment'>,
  picture: { width: number; height: number },
  width: number,
): number | null {
  if (!isBrush(painting.tool)) return null;
  const longEdge = Math.max(picture.width, picture.height);
  return (painting.brush.radius * longEdge * width) / framedSize(picture, treatment.frame).width;
}
