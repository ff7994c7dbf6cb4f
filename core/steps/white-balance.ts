import { byRow, apply, coneGains, conesOf, multiply, type Matrix } from '../colour/adaptation';
import { LUMINANCE, decode, parseHex } from '../colour/srgb';
import { toEncoded, toLinear } from '../colour/transfer';
import { defineStep } from './define';
import { amount, optionalColour } from '../settings/fields';

/** Powers of two by which warmth and tint at 1 change the cone responses of white. */
const WARMTH = [0.18, 0, -0.45] as const;
const TINT = [0.12, -0.22, 0.12] as const;

/** Gains as they are, but white keeping its luminance. */
function keepingWhite(m: Matrix): Matrix {
  const [r, g, b] = apply(m, [1, 1, 1]);
  const y = LUMINANCE[0] * r + LUMINANCE[1] * g + LUMINANCE[2] * b;
  return byRow(m, row => [row[0] / y, row[1] / y, row[2] / y]);
}

/** The adaptation that makes a colour grey of its own luminance; null where it has no light to go by. */
function neutralising(hex: string): Matrix | null {
  const linear = parseHex(hex).map(decode);
  const y = LUMINANCE[0] * linear[0] + LUMINANCE[1] * linear[1] + LUMINANCE[2] * linear[2];
  const from = conesOf(linear);
  if (y < 1e-4 || from.some(v => v < 1e-5)) return null;
  const to = conesOf([y, y, y]);
  return coneGains(to.map((v, i) => v / from[i]));
}

/**
 * White balance in linear light by the Bradford transform: first what was picked becomes grey, then warmth
 * (towards amber) and tint (towards magenta) move white by hand, its luminance kept.
 */
export const whiteBalance = defineStep({
  kind: 'white-balance',
  stage: 'ground',
  face: 'hues',
  fields: { neutral: optionalColour(), warmth: amount(), tint: amount() },
  point: s => {
    const picked = s.neutral === null ? null : neutralising(s.neutral);
    const gains = WARMTH.map((w, i) => 2 ** (w * s.warmth + TINT[i] * s.tint));
    const byHand = s.warmth === 0 && s.tint === 0 ? null : keepingWhite(coneGains(gains));
    const matrix = picked && byHand ? multiply(byHand, picked) : (picked ?? byHand);
    if (!matrix) return () => undefined;
    const [p, q, t] = matrix;
    return c => {
      const r = toLinear(c[0]);
      const g = toLinear(c[1]);
      const b = toLinear(c[2]);
      c[0] = toEncoded(p[0] * r + p[1] * g + p[2] * b);
      c[1] = toEncoded(q[0] * r + q[1] * g + q[2] * b);
      c[2] = toEncoded(t[0] * r + t[1] * g + t[2] * b);
    };
  },
});
