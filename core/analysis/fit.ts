import { stepKind, type Kind } from '../steps';
import { addStep, changeStep, newStep } from '../treatment/edit';
import type { Step, Treatment } from '../treatment/treatment';
import { toneZones, type Measures } from './evenness';
import { leastSquares, type Parameter } from './least-squares';

/**
 * A treatment brought towards the middle of its series, keeping what it is: how strong its toning is, a tint of shadows,
 * middles and lights over it, and where black and white end.
 */

/** What the added steps are called. */
export const WITH_SERIES = 'With the series';

/** The ranges of a split tone, by the zones that are measured. */
const RANGES = { shadows: 'shadows', middles: 'midtones', lights: 'highlights' } as const;
/** A tint has at most so much saturation; an end is moved by at most so much of the scale. */
const MOST_TINT = 0.6;
const MOST_END = 0.25;
/** An L* of an end counts as so much of a unit of colour. */
const ENDS = 0.5;
/**
 * What is far from where it was is worse, so that what changes nothing stays: a toning is rather weakened than fought by
 * strong tints over it.
 */
const STAYS = { strength: 0.3, end: 2, tint: 2.5 };
/** What is asked for takes a rendering each time, and is seen, not calculated with. */
const ROUGHLY = { rounds: 12, enough: 0.03 };
/** Half of the squares of two to three units of colour: it does not sit well. */
const POOR = 3;
/** Less than this is nothing. */
const LEAST = 0.004;

/** Steps that tone the whole picture: how strong they are is fitted. */
const tones = (step: Step) =>
  step.enabled &&
  step.mask === null &&
  stepKind(step.kind)?.coloursTones === true &&
  step.name !== WITH_SERIES;

/** A tint as a point of a disc: hue as the direction, saturation as the distance. */
function tintOf(x: number, y: number): { hue: number; saturation: number } {
  const hue = (Math.atan2(y, x) * 180) / Math.PI;
  return { hue: (hue + 360) % 360, saturation: Math.min(MOST_TINT, Math.hypot(x, y)) };
}

function withAdded(treatment: Treatment, kind: Kind, settings: object): Treatment {
  const step = newStep(treatment, kind);
  const all = { ...step.settings, ...settings };
  return changeStep(addStep(treatment, step), step.id, { name: WITH_SERIES, settings: all });
}

/** A treatment with its toning at a share of its strength, tints by zone, and its ends moved (positive: black lifted, white duller). */
function withValues(treatment: Treatment, values: readonly number[]): Treatment {
  const [share, black, white, ...tints] = values;
  let made: Treatment = {
    ...treatment,
    steps: treatment.steps.map(s => (tones(s) ? ({ ...s, strength: s.strength * share } as Step) : s)),
  };
  if (Math.abs(black) > LEAST || Math.abs(white) > LEAST) {
    made = withAdded(made, 'levels', {
      outBlack: Math.max(0, black),
      inBlack: Math.max(0, -black),
      outWhite: 1 - Math.max(0, white),
      inWhite: 1 - Math.max(0, -white),
    });
  }
  if (tints.some(v => Math.abs(v) > LEAST)) {
    const zones = toneZones.map((zone, i) => [RANGES[zone], tintOf(tints[2 * i], tints[2 * i + 1])]);
    made = withAdded(made, 'split-tone', Object.fromEntries(zones));
  }
  return made;
}

/** How far what is measured is from the middle: colours in a* and b*, ends in L*. */
function apartFrom(middle: Measures, found: Measures): number[] {
  const colours = toneZones.flatMap(zone => {
    const [at, to] = [found.zones[zone], middle.zones[zone]];
    return at && to ? [at.a - to.a, at.b - to.b] : [0, 0];
  });
  return [...colours, ENDS * (found.black - middle.black), ENDS * (found.white - middle.white)];
}

/**
 * Fits a treatment to the middle of its series by least squares. An earlier fit in it is made anew.
 * @param measured what is measured of the photograph under a treatment
 */
export async function fitTowards(
  treatment: Treatment,
  middle: Measures,
  measured: (treatment: Treatment) => Promise<Measures>,
): Promise<Treatment> {
  const own = { ...treatment, steps: treatment.steps.filter(s => s.name !== WITH_SERIES) };
  const strongest = Math.max(0, ...own.steps.filter(tones).map(s => s.strength));
  const parameters: Parameter[] = [
    { start: 1, least: 0, most: strongest > 0 ? Math.max(1, Math.min(2, 1 / strongest)) : 1 },
    { start: 0, least: -MOST_END, most: MOST_END },
    { start: 0, least: -MOST_END, most: MOST_END },
    // A hair off the middle of the disc, where a hue has no direction.
    ...Array.from({ length: 6 }, () => ({ start: 0.01, least: -MOST_TINT, most: MOST_TINT })),
  ];
  const { strength, end, tint } = STAYS;
  const stays = [strength, end, end, ...Array.from({ length: 6 }, () => tint)];
  const apart = async (at: readonly number[]) => {
    const found = apartFrom(middle, await measured(withValues(own, at)));
    return [...found, ...at.map((v, i) => stays[i] * (v - parameters[i].start))];
  };
  const [first, ...others] = parameters;
  const fit = (share: number) => leastSquares([{ ...first, start: share }, ...others], apart, ROUGHLY);
  let found = await fit(1);
  // A strong toning of another hue may be fought as far as tints go: then it is begun with hardly any of it.
  if (found.cost > POOR) {
    const weak = await fit(0.1);
    if (weak.cost < found.cost) found = weak;
  }
  return withValues(own, found.values);
}
