import { aroundTheCircle, familyNames, hueSixths, readAround, type Family } from '../../colour/hues';
import { rgbToOklab } from '../../colour/oklab';
import { LUMINANCE, decode, encode } from '../../colour/srgb';
import type { Codes } from '../../kernels/grid';
import { RESPONSE_DEPTH, responseShare } from '../response';
import { sampleOf } from './sample';

/** No family is moved further than this. */
const BOUND = 0.75;
const SAMPLES = 1200;
const PAIRS = 6000;
/** A chroma difference counts this much beside one of lightness (OKLab). */
const CHROMA = 1.2;
/** Lightness differences below this say nothing about which of two colours is to be lighter. */
const SAME = 0.02;
/** How strongly the sliders are held at 0: a family with little to say stays there. */
const REST = 0.004;
const ROUNDS = 4;

interface Sampled {
  lightness: Float64Array;
  a: Float64Array;
  b: Float64Array;
  /** How far each slider moves each sample's lightness, to first order: 8 numbers a sample. */
  moves: Float64Array;
}

function measure(rgb: Float64Array): Sampled {
  const count = rgb.length / 3;
  const found = {
    lightness: new Float64Array(count),
    a: new Float64Array(count),
    b: new Float64Array(count),
    moves: new Float64Array(count * 8),
  };
  const memberships = familyNames.map((_, i) =>
    aroundTheCircle(familyNames.map((__, j) => (i === j ? 1 : 0))),
  );
  const c = new Float64Array(3);
  const lightnessOf = (grey: number) => Math.cbrt(decode(grey));
  for (let i = 0; i < count; i++) {
    const [r, g, b] = rgb.subarray(i * 3, i * 3 + 3);
    c.set([r, g, b]);
    rgbToOklab(c);
    found.a[i] = c[1];
    found.b[i] = c[2];
    const grey = encode(LUMINANCE[0] * decode(r) + LUMINANCE[1] * decode(g) + LUMINANCE[2] * decode(b));
    found.lightness[i] = lightnessOf(grey);
    const most = Math.max(r, g, b);
    const span = most - Math.min(r, g, b);
    const share = responseShare(span);
    if (share < 1e-4) continue;
    const sixths = hueSixths(r, g, b, most, span);
    // A slider at 1 multiplies the grey by two to the depth; lifting bends away from white.
    const step = 0.05;
    const up = grey * 2 ** (RESPONSE_DEPTH * step);
    const slope = ((lightnessOf(Math.min(1, up)) - found.lightness[i]) / step) * (1 - grey ** 4);
    memberships.forEach((table, f) => {
      found.moves[i * 8 + f] = slope * share * readAround(table, sixths);
    });
  }
  return found;
}

/** Pairs of samples, the same every time. */
function pairsOf(count: number): [number, number][] {
  let seed = 17;
  const next = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return Math.floor((seed / 2 ** 32) * count);
  };
  return Array.from({ length: PAIRS }, () => [next(), next()]);
}

/** Minimises v·A·v / 2 − b·v inside the bounds, one coordinate at a time. */
function solve(A: Float64Array, b: Float64Array): number[] {
  const v = new Array<number>(8).fill(0);
  for (let round = 0; round < 200; round++) {
    for (let i = 0; i < 8; i++) {
      let rest = b[i];
      for (let j = 0; j < 8; j++) if (j !== i) rest -= A[i * 8 + j] * v[j];
      const free = A[i * 8 + i] > 0 ? rest / A[i * 8 + i] : 0;
      v[i] = Math.min(BOUND, Math.max(-BOUND, free));
    }
  }
  return v;
}

/**
 * The response to hue families that best keeps apart in grey what colour keeps apart: least squares over
 * pairs of sampled pixels, the difference wanted being that of the colours (OKLab), its sign that of the
 * lightness where there is one, else that which the sliders give it so far (at first, warm is light).
 * A grey picture gives zeros.
 * @returns -0.75..0.75 for each family, in hundredths
 */
export function autoResponse(codes: Codes): Record<Family, number> {
  const sampled = measure(sampleOf(codes, SAMPLES));
  const { lightness, a, b, moves } = sampled;
  const pairs = pairsOf(lightness.length);
  let v = new Array<number>(8).fill(0);
  for (let round = 0; round < ROUNDS; round++) {
    const A = new Float64Array(64);
    const rhs = new Float64Array(8);
    for (const [i, j] of pairs) {
      const dL = lightness[i] - lightness[j];
      const chroma = CHROMA * Math.hypot(a[i] - a[j], b[i] - b[j]);
      if (chroma < 1e-3) continue;
      const d = familyNames.map((_, f) => moves[i * 8 + f] - moves[j * 8 + f]);
      const given = d.reduce((sum, move, f) => sum + move * v[f], 0);
      const warm = 0.4 * (a[i] - a[j]) + (b[i] - b[j]);
      const lean = Math.abs(dL) > SAME ? dL : dL + (round === 0 ? warm : given || warm);
      const wanted = Math.sign(lean || 1) * Math.hypot(dL, chroma);
      // Pairs whose colours differ more than their lightness are those that the conversion is for.
      const weight = chroma / (Math.abs(dL) + 0.05);
      for (let f = 0; f < 8; f++) {
        rhs[f] += weight * d[f] * (wanted - dL);
        for (let h = 0; h < 8; h++) A[f * 8 + h] += weight * d[f] * d[h];
      }
    }
    for (let f = 0; f < 8; f++) A[f * 8 + f] += REST * PAIRS;
    v = solve(A, rhs);
  }
  return Object.fromEntries(
    familyNames.map((name, f) => [name, Math.round(v[f] * 100) / 100 || 0]),
  ) as Record<Family, number>;
}
