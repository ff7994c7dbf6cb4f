import { ciede2000 } from '../colour/ciede2000';
import { rgbToLab } from '../colour/lab';

/** How alike the photographs of a series are toned: measured one by one, and held against the middle of them all. */

/** The zones whose colour is measured, by CIELAB lightness. */
export const toneZones = ['shadows', 'middles', 'lights'] as const;
export type ToneZone = (typeof toneZones)[number];
const BOUNDS: Record<ToneZone, readonly [from: number, to: number, middle: number]> = {
  shadows: [4, 36, 22],
  middles: [36, 66, 50],
  lights: [66, 97, 80],
};
/** A zone with a smaller share of the picture says nothing about its tone. */
const LEAST_SHARE = 0.015;

/** What is measured of one treated photograph. */
export interface Measures {
  /** Median a* and b* of each zone; null where there is hardly any of it. */
  zones: Record<ToneZone, { a: number; b: number } | null>;
  /** L* at the first and the last hundredth of the pixels. */
  black: number;
  white: number;
  /** L* from the first to the last sixth of the pixels. */
  contrast: number;
  /** L* of the middle pixel: low of a dark picture, high of a light one. */
  key: number;
}

const quantile = (sorted: ArrayLike<number>, q: number): number =>
  sorted[Math.min(sorted.length - 1, Math.max(0, Math.round(q * (sorted.length - 1))))];

/** The middle of some numbers; NaN of none. */
export function median(values: readonly number[]): number {
  const sorted = values.toSorted((x, y) => x - y);
  const half = sorted.length >> 1;
  if (sorted.length === 0) return NaN;
  return sorted.length % 2 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
}

/**
 * Measures a picture, which may be small. Medians, so that a wash on one object does not count as the tone of the whole.
 * @param codes 8-bit sRGB
 * @param stride numbers a pixel
 */
export function measure(codes: ArrayLike<number>, stride: 3 | 4): Measures {
  const count = Math.floor(codes.length / stride);
  const lightness = new Float64Array(count);
  const found: Record<ToneZone, { a: number[]; b: number[] }> = {
    shadows: { a: [], b: [] },
    middles: { a: [], b: [] },
    lights: { a: [], b: [] },
  };
  for (let i = 0; i < count; i++) {
    const p = i * stride;
    const [L, a, b] = rgbToLab(codes[p] / 255, codes[p + 1] / 255, codes[p + 2] / 255);
    lightness[i] = L;
    const zone = toneZones.find(z => L >= BOUNDS[z][0] && L < BOUNDS[z][1]);
    if (!zone) continue;
    found[zone].a.push(a);
    found[zone].b.push(b);
  }
  lightness.sort();
  const colourOf = ({ a, b }: { a: number[]; b: number[] }) =>
    a.length < LEAST_SHARE * count || a.length === 0 ? null : { a: median(a), b: median(b) };
  return {
    zones: {
      shadows: colourOf(found.shadows),
      middles: colourOf(found.middles),
      lights: colourOf(found.lights),
    },
    black: quantile(lightness, 0.01),
    white: quantile(lightness, 0.99),
    contrast: quantile(lightness, 5 / 6) - quantile(lightness, 1 / 6),
    key: quantile(lightness, 0.5),
  };
}

/** How a photograph falls out of its series: which way, and how far (times what still counts as even). */
export interface Fall {
  what: ToneZone | 'blacks' | 'whites';
  way: 'warmer' | 'cooler' | 'redder' | 'greener' | 'lighter' | 'darker';
  far: number;
}

export interface Placed {
  measures: Measures;
  /** CIEDE2000 from the series' middle, by zone; null where it has none of it. */
  apart: Record<ToneZone, number | null>;
  falls: Fall[];
}

export interface Evenness {
  /** The series' own middle; null with fewer than three photographs that are treated. */
  middle: Measures | null;
  /** One for each photograph, in order; null for a bare one, and for one that is not measured. */
  placed: (Placed | null)[];
}

/** Colours nearer than this (CIEDE2000) count as one, however even the rest is. */
const LEAST_APART = 4;
/** The same of the ends (L*): these depend on what is in the picture as well, and a dark room has few lights. */
const LEAST_ENDS = { blacks: 15, whites: 26 };
/** Beyond so many of the usual distance (median) one falls out. */
const TIMES = 4;
/** Fewer have no middle. */
const FEWEST = 3;

const apartIn = (zone: ToneZone, p: Measures, q: Measures): number | null => {
  const [x, y] = [p.zones[zone], q.zones[zone]];
  const L = BOUNDS[zone][2];
  return x && y && ciede2000([L, x.a, x.b], [L, y.a, y.b]);
};

/** Which way a colour has gone: along yellow and blue, unless it is mostly along red and green. */
function wayOf(from: { a: number; b: number }, to: { a: number; b: number }): Fall['way'] {
  const [da, db] = [to.a - from.a, to.b - from.b];
  if (Math.abs(db) * 1.5 >= Math.abs(da)) return db > 0 ? 'warmer' : 'cooler';
  return da > 0 ? 'redder' : 'greener';
}

/**
 * Holds photographs of a series against its middle, the median of those that are treated.
 * @param all what is measured of each, in order; null for a bare one
 */
export function evenness(all: readonly (Measures | null)[]): Evenness {
  const treated = all.filter(m => m !== null);
  if (treated.length < FEWEST) return { middle: null, placed: all.map(() => null) };
  const colourOf = (zone: ToneZone) => {
    const there = treated.map(m => m.zones[zone]).filter(c => c !== null);
    return there.length ? { a: median(there.map(c => c.a)), b: median(there.map(c => c.b)) } : null;
  };
  const middle: Measures = {
    zones: { shadows: colourOf('shadows'), middles: colourOf('middles'), lights: colourOf('lights') },
    black: median(treated.map(m => m.black)),
    white: median(treated.map(m => m.white)),
    contrast: median(treated.map(m => m.contrast)),
    key: median(treated.map(m => m.key)),
  };
  const most = (least: number, distances: readonly number[]) =>
    Math.max(least, distances.length ? TIMES * median(distances) : 0);
  const mostApart = Object.fromEntries(
    toneZones.map(zone => [
      zone,
      most(
        LEAST_APART,
        treated.map(m => apartIn(zone, m, middle)).filter(d => d !== null),
      ),
    ]),
  ) as Record<ToneZone, number>;
  const ends = [
    { what: 'blacks', of: 'black' },
    { what: 'whites', of: 'white' },
  ] as const;
  const mostEnds = ends.map(({ what, of }) =>
    most(
      LEAST_ENDS[what],
      treated.map(m => Math.abs(m[of] - middle[of])),
    ),
  );
  const place = (measures: Measures): Placed => {
    const apart = Object.fromEntries(
      toneZones.map(z => [z, apartIn(z, measures, middle)]),
    ) as Placed['apart'];
    const falls: Fall[] = toneZones.flatMap(zone => {
      const distance = apart[zone];
      if (distance === null || distance <= mostApart[zone]) return [];
      const way = wayOf(middle.zones[zone]!, measures.zones[zone]!);
      return [{ what: zone, way, far: distance / mostApart[zone] }];
    });
    ends.forEach(({ what, of }, i) => {
      const distance = measures[of] - middle[of];
      if (Math.abs(distance) <= mostEnds[i]) return;
      falls.push({ what, way: distance > 0 ? 'lighter' : 'darker', far: Math.abs(distance) / mostEnds[i] });
    });
    return { measures, apart, falls: falls.sort((x, y) => y.far - x.far) };
  };
  return { middle, placed: all.map(m => m && place(m)) };
}
