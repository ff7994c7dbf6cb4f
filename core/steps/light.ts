import { luma } from '../colour/srgb';
import { toEncoded, toLinear } from '../colour/transfer';
import { foundLight } from './automatic/light';
import { defineStep, type Point } from './define';
import { amount, exposure, plain, ratio } from '../settings/fields';

type Curve = (v: number) => number;

/** Exposure in stops, in linear light. */
const exposed = (stops: number): Curve => {
  const gain = 2 ** stops;
  return v => toEncoded(toLinear(v) * gain);
};

/** The tones that `blacks` and `whites` at ±1 move by. */
const BLACK_REACH = 0.15;
const WHITE_REACH = 0.25;

/** The end points moved: `blacks` up lifts the blacks, `whites` up brings white nearer. A straight line. */
const ends = (blacks: number, whites: number): Curve => {
  const low = -BLACK_REACH * blacks;
  const span = 1 - WHITE_REACH * whites - low;
  return v => (v - low) / span;
};

const raised = (gamma: number): Curve => {
  const power = 1 / gamma;
  return v => (v < 0 ? -((-v) ** power) : v ** power);
};

/**
 * The middle of the scale moved, both ends kept: Schlick's bias, with its end slopes continued beyond them.
 * Source: C. Schlick, "Fast alternatives to Perlin's bias and gain functions", Graphics Gems IV, 1994.
 */
const brighter = (brightness: number): Curve => {
  const k = 1 / (0.5 + 0.3 * brightness) - 2;
  return v => (v <= 0 ? v / (k + 1) : v >= 1 ? 1 + (v - 1) * (1 + k) : v / (k * (1 - v) + 1));
};

/**
 * Contrast about mid grey (0.5). Upwards an S that keeps the ends, t (1 + k) / (1 + k |t|); downwards a
 * straight line that draws them in.
 */
const contrasted = (contrast: number): Curve => {
  if (contrast < 0) return v => 0.5 + (v - 0.5) * (1 + 0.75 * contrast);
  const k = 2 * contrast;
  return v => {
    const t = 2 * v - 1;
    const a = Math.abs(t);
    const s = a <= 1 ? (a * (1 + k)) / (1 + k * a) : 1 + (a - 1) / (1 + k);
    return 0.5 + (t < 0 ? -s : s) / 2;
  };
};

/** Shadows (below mid grey): opened or closed, black and mid grey kept, C1, slope never below 0.15. */
const shadowed = (amount: number): Curve => {
  if (amount > 0) {
    return v => {
      if (v <= 0 || v >= 0.5) return v;
      const t = (0.5 - v) / 0.5;
      return v + 0.5 * amount * 2.4 * t * t * (1 - t);
    };
  }
  return v => {
    if (v <= 0 || v >= 0.5) return v;
    const t = (0.5 - v) / 0.5;
    return v * (1 + amount * 0.85 * t * t);
  };
};

/**
 * Highlights (above mid grey): brought back by a shoulder x / √(1 + c x²) that also gathers in what lies
 * beyond white, or lifted, white kept; C1, never folding.
 */
const highlighted = (amount: number): Curve => {
  if (amount < 0) {
    const c = -3.2 * amount;
    return v => {
      const x = v - 0.5;
      return x <= 0 ? v : 0.5 + x / Math.sqrt(1 + c * x * x);
    };
  }
  return v => {
    if (v <= 0.5 || v >= 1) return v;
    const t = (v - 0.5) / 0.5;
    return v + 0.5 * amount * 0.85 * t * t * (1 - t);
  };
};

/** A tone curve on luma, the channels keeping their ratio to it. */
function onLuma(curve: Curve): Point {
  return c => {
    // Next to black the ratio is that of the curve's own beginning.
    const y = Math.max(1e-6, luma(c[0], c[1], c[2]));
    const ratio = curve(y) / y;
    for (let i = 0; i < 3; i++) c[i] *= ratio;
  };
}

/**
 * Light: in this order exposure, black and white points, offset, gamma, brightness and contrast on each
 * channel, then shadows and highlights on luma. Every part rises, so that no tone scale folds.
 */
export const light = defineStep({
  kind: 'light',
  stage: 'ground',
  face: 'curve',
  automatic: { find: foundLight },
  fields: {
    exposure: exposure(-4, 4),
    brightness: amount(),
    contrast: amount(),
    highlights: amount(),
    shadows: amount(),
    whites: amount(),
    blacks: amount(),
    gamma: ratio(5),
    offset: plain(-0.5, 0.5),
  },
  point: s => {
    const curves: Curve[] = [];
    if (s.exposure !== 0) curves.push(exposed(s.exposure));
    if (s.blacks !== 0 || s.whites !== 0) curves.push(ends(s.blacks, s.whites));
    if (s.offset !== 0) curves.push(v => v + s.offset);
    if (s.gamma !== 1) curves.push(raised(s.gamma));
    if (s.brightness !== 0) curves.push(brighter(s.brightness));
    if (s.contrast !== 0) curves.push(contrasted(s.contrast));
    const tones: Point[] = [];
    if (s.shadows !== 0) tones.push(onLuma(shadowed(s.shadows)));
    if (s.highlights !== 0) tones.push(onLuma(highlighted(s.highlights)));
    const count = curves.length;
    return c => {
      for (let i = 0; i < 3; i++) {
        let v = c[i];
        for (let j = 0; j < count; j++) v = curves[j](v);
        c[i] = v;
      }
      for (let j = 0; j < tones.length; j++) tones[j](c);
    };
  },
});
