import { curveThrough } from './curves';
import { linearToOklab, oklabToLinear, type Triple } from './oklab';
import { decode, encode, parseHex, toHex } from './srgb';

/** A colour of a gradient at a place 0..1. */
export interface Stop {
  at: number;
  colour: string;
}

/** In what a gradient goes straight from stop to stop. */
export const interpolations = ['srgb', 'linear', 'oklab'] as const;
export type Interpolation = (typeof interpolations)[number];

export interface GradientOptions {
  interpolation: Interpolation;
  /** A monotone cubic through the stops instead of straight lines. */
  smooth?: boolean;
  reverse?: boolean;
}

const into: Record<Interpolation, (rgb: Triple) => void> = {
  srgb: () => undefined,
  linear: c => c.forEach((v, i) => (c[i] = decode(v))),
  oklab: c => {
    c.forEach((v, i) => (c[i] = decode(v)));
    linearToOklab(c);
  },
};
const outOf: Record<Interpolation, (c: Triple) => void> = {
  srgb: () => undefined,
  linear: c => c.forEach((v, i) => (c[i] = encode(v))),
  oklab: c => {
    oklabToLinear(c);
    c.forEach((v, i) => (c[i] = encode(v)));
  },
};

/**
 * A gradient as a function: writes its encoded colour at t (clipped to 0..1) into a colour. Stops may come in any
 * order; beyond the outermost their colour holds; two at one place make an edge, the later one winning from
 * there on.
 */
export function gradientOf(
  stops: readonly Stop[],
  { interpolation, smooth = false, reverse = false }: GradientOptions,
): (t: number, out: Triple) => void {
  const sorted = stops
    .map((stop, order) => ({ ...stop, order }))
    .sort((a, b) => a.at - b.at || a.order - b.order);
  const ats = sorted.map(s => s.at);
  const colours = sorted.map(s => {
    const c = Float64Array.from(parseHex(s.colour));
    into[interpolation](c);
    return c;
  });
  const back = outOf[interpolation];
  const count = ats.length;
  const distinct = ats.every((at, i) => i === 0 || at > ats[i - 1]);
  const curves =
    smooth && distinct
      ? [0, 1, 2].map(k => curveThrough(ats.map((at, i) => [at, colours[i][k]] as const)))
      : null;
  return (position, out) => {
    let t = Math.min(1, Math.max(0, position));
    if (reverse) t = 1 - t;
    if (curves) {
      for (let k = 0; k < 3; k++) out[k] = curves[k](t);
    } else if (t < ats[0]) out.set(colours[0]);
    else {
      let i = count - 1;
      while (ats[i] > t) i--;
      if (i === count - 1) out.set(colours[i]);
      else {
        const f = (t - ats[i]) / (ats[i + 1] - ats[i]);
        for (let k = 0; k < 3; k++) out[k] = colours[i][k] + f * (colours[i + 1][k] - colours[i][k]);
      }
    }
    back(out);
  };
}

/** Whether every colour of a gradient is a grey. */
export const isGreyGradient = (stops: readonly { colour: string }[]): boolean =>
  stops.every(({ colour }) => {
    const [r, g, b] = parseHex(colour);
    return r === g && g === b;
  });

const isGreyColour = (colour: string): boolean => {
  const [r, g, b] = parseHex(colour);
  return r === g && r === b;
};

/**
 * Stops in order at even places. Where all are grey their tones are made even as well, from the first to the last, so that
 * they stay the equal steps of a scale.
 */
export function evenStops(stops: readonly Stop[]): Stop[] {
  const sorted = stops.slice().sort((a, b) => a.at - b.at);
  const last = sorted.length - 1;
  const greys = sorted.every(s => isGreyColour(s.colour));
  const [from] = parseHex(sorted[0].colour);
  const [to] = parseHex(sorted[last].colour);
  return sorted.map((stop, i) => {
    const share = i / last;
    const tone = from + (to - from) * share;
    return { at: Math.round(share * 1000) / 1000, colour: greys ? toHex(tone, tone, tone) : stop.colour };
  });
}
