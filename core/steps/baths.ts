import { LUMINANCE, decode, parseHex } from '../colour/srgb';
import { toEncoded, toLinear } from '../colour/transfer';
import { defineStep } from './define';
import { amount, choice, colour, fraction, group, list } from '../settings/fields';

/** What a toner turns silver into. */
export interface Toner {
  /**
   * Density in red, green and blue for one of silver, before the luminance is brought back to that of the
   * silver. Our own estimates by eye from toned prints, not measurements.
   */
  density: readonly [number, number, number];
  /** Where it usually begins, as a printer expects of it. */
  starts: Bath['start'];
  /** How much deeper a wholly turned tone is, as a share of its density; 0 keeps it. */
  deepens: number;
}

export const toners = {
  sepia: { density: [0.76, 1.03, 1.42], deepens: 0, starts: 'highlights' },
  selenium: { density: [0.95, 1.07, 0.98], deepens: 0.07, starts: 'shadows' },
  gold: { density: [1.1, 1.0, 0.86], deepens: 0.03, starts: 'highlights' },
  copper: { density: [0.66, 1.12, 1.22], deepens: 0, starts: 'even' },
  'iron-blue': { density: [1.55, 1.0, 0.62], deepens: 0, starts: 'even' },
  nickel: { density: [0.7, 1.22, 0.95], deepens: 0, starts: 'even' },
  vanadium: { density: [1.2, 0.93, 1.42], deepens: 0, starts: 'even' },
} as const satisfies Record<string, Toner>;
export type TonerName = keyof typeof toners;
export const tonerNames = Object.keys(toners) as TonerName[];

/** The density of the deepest black that the paper gives. */
const PAPER_BLACK = 2.2;

/** What age 1 multiplies the paper's light by: the yellow of old gelatine. */
const AGED = parseHex('#ecd6a0').map(decode);

/** How unevenly a bath with contrast 0 works: the exponents of its time at the end where it starts, and at the other. */
const EVENNESS = 3;

/**
 * The share of the silver that a bath turns at a depth (0 paper white, 1 the deepest black): time × g(depth),
 * g = time^(h − 1). The exponent h is small where the bath starts and large at the other end, so that a
 * short bath colours one end, and a full one (time 1) turns everything.
 */
export function turnedShare(
  time: number,
  start: 'highlights' | 'shadows' | 'even',
  contrast: number,
  depth: number,
): number {
  if (time === 0) return 0;
  if (start === 'even' || time === 1) return time;
  const spread = EVENNESS ** (1 + contrast);
  const along = start === 'highlights' ? depth : 1 - depth;
  return time ** (spread ** (2 * along - 1));
}

/** One dish of a row. */
export interface Bath {
  toner: TonerName;
  time: number;
  start: 'highlights' | 'shadows' | 'even';
  contrast: number;
}

/** Newton's method is done when it moves by less, and in so many rounds at most. */
const STILL = 1e-13;
const MOST_ROUNDS = 8;

/**
 * The light of a toned grey of density D, as factors of its untoned light in red, green and blue.
 * @param near a scale to begin from: that of a density nearby, or 1
 * @returns the scale of its density
 */
function tonedAt(D: number, baths: readonly Bath[], near: number, out: Float64Array): number {
  const density = [0, 0, 0];
  let left = 1;
  let deeper = 1;
  for (const bath of baths) {
    const share = left * turnedShare(bath.time, bath.start, bath.contrast, D / PAPER_BLACK);
    const toner: Toner = toners[bath.toner];
    for (let i = 0; i < 3; i++) density[i] += share * toner.density[i];
    deeper += share * toner.deepens;
    left -= share;
  }
  for (let i = 0; i < 3; i++) density[i] += left;
  // The scale at which the toned grey has the luminance of the silver: Newton's method on its logarithm.
  const target = 10 ** (-D * deeper);
  let scale = near;
  for (let n = 0; n < MOST_ROUNDS; n++) {
    let sum = 0;
    let slope = 0;
    for (let i = 0; i < 3; i++) {
      const part = LUMINANCE[i] * 10 ** (-D * scale * density[i]);
      sum += part;
      slope -= part * D * density[i] * Math.LN10;
    }
    if (slope === 0) break;
    const move = (sum * Math.log(target / sum)) / slope;
    scale += move;
    if (Math.abs(move) < STILL) break;
  }
  for (let i = 0; i < 3; i++) out[i] = 10 ** (D - D * scale * density[i]);
  return scale;
}

/** How long a bath lasts that is newly set out. */
const USUAL_TIME = 0.5;

/** A bath of a toner as it is usually run. */
export const usualBath = (toner: TonerName): Bath => ({
  toner,
  time: USUAL_TIME,
  start: toners[toner].starts,
  contrast: 0,
});

/** The toners of a usual print one after another: what begins in the lights, then what takes the darks that it left. */
const AFTER: readonly TonerName[] = [
  'sepia',
  'selenium',
  'gold',
  'copper',
  'iron-blue',
  'nickel',
  'vanadium',
];

/** The bath that usually comes after others: of the first toner that none of them has. */
export const nextBath = (baths: readonly Bath[]): Bath =>
  usualBath(AFTER.find(toner => !baths.some(b => b.toner === toner)) ?? 'sepia');

/** Entries of the table of factors over density. */
const ENTRIES = 1024;

/** Tables of rows of baths that were asked for last, the newest at the end: the same row is planned again and again. */
const known = new Map<string, Float64Array>();
const MOST_KNOWN = 24;

/** The factors of a row of baths in red, green and blue, from no density to that of the paper's black. */
function factorsOf(row: readonly Bath[]): Float64Array {
  const name = JSON.stringify(row);
  let factors = known.get(name);
  if (!factors) {
    factors = new Float64Array((ENTRIES + 1) * 3);
    const toned = new Float64Array(3);
    let scale = 1;
    for (let i = 0; i <= ENTRIES; i++) {
      scale = tonedAt((i / ENTRIES) * PAPER_BLACK, row, scale, toned);
      factors.set(toned, i * 3);
    }
  }
  known.delete(name);
  known.set(name, factors);
  if (known.size > MOST_KNOWN) known.delete(known.keys().next().value!);
  return factors;
}

/**
 * Toning baths in order, on densities: D = −log10 of the light, against a paper black of 2.2. Each bath turns
 * a share of the silver that the baths before it left; density in a channel is D times the sum over what the
 * silver has become. The whole is then scaled so that luminance is that of the untoned print (or deeper, for
 * toners that deepen). Paper colour and age multiply in linear light. The model is that of the design; what
 * is darker than the paper black is toned as that is. A colour that was there stays as its ratio to the grey.
 */
export const baths = defineStep({
  kind: 'baths',
  stage: 'tone',
  face: 'dish',
  givesColour: true,
  coloursTones: true,
  fields: {
    baths: list(
      {
        toner: choice(tonerNames, 'sepia'),
        time: fraction(0.5),
        start: choice(['highlights', 'shadows', 'even'], 'highlights'),
        contrast: amount(),
      },
      8,
    ),
    paper: group({ colour: colour('#ffffff'), age: fraction() }),
  },
  fresh: { baths: [usualBath('sepia')] },
  point: s => {
    const paper = parseHex(s.paper.colour!).map((v, i) => decode(v) * (1 + s.paper.age * (AGED[i] - 1)));
    const blank = paper.every(v => v === 1);
    const working = s.baths.filter(b => b.time > 0);
    if (working.length === 0 && blank) return () => undefined;
    const factors = factorsOf(working);
    const perDensity = ENTRIES / PAPER_BLACK;
    return c => {
      const r = Math.max(0, toLinear(c[0]));
      const g = Math.max(0, toLinear(c[1]));
      const b = Math.max(0, toLinear(c[2]));
      const y = LUMINANCE[0] * r + LUMINANCE[1] * g + LUMINANCE[2] * b;
      const at = y >= 1 ? 0 : y > 0 ? Math.min(ENTRIES, -Math.log10(y) * perDensity) : ENTRIES;
      const i = at < ENTRIES ? at | 0 : ENTRIES - 1;
      const f = at - i;
      const p = i * 3;
      c[0] = toEncoded(r * paper[0] * (factors[p] + f * (factors[p + 3] - factors[p])));
      c[1] = toEncoded(g * paper[1] * (factors[p + 1] + f * (factors[p + 4] - factors[p + 1])));
      c[2] = toEncoded(b * paper[2] * (factors[p + 2] + f * (factors[p + 5] - factors[p + 2])));
    };
  },
});
