import { chromaThatFits } from '../colour/gamut';
import { aroundTheCircle, familyNames, hueDirection, hueSixths, readAround } from '../colour/hues';
import { oklabToRgb, rgbToOklab } from '../colour/oklab';
import { defineStep } from './define';
import { familyZone } from './zones';
import { amount, group } from '../settings/fields';

const band = () => group({ hue: amount(), saturation: amount(), lightness: amount() });

/** Degrees of HSL hue that a family turns by at 1. */
const TURN = 30;
/** OKLab lightness that the purest colours of a family move by at 1, as a share of the way to the end. */
const LIFT = 0.4;
/** Chroma (largest less smallest encoded channel) at which lightness answers half as much. */
const HALF_CHROMA = 0.15;

/** OKLCh directions around the HSL circle, unwrapped, one a degree, two turns. */
const directions = Float64Array.from({ length: 721 }, (_, degree) => hueDirection(degree));
for (let i = 1; i < directions.length; i++) {
  while (directions[i] < directions[i - 1] - Math.PI) directions[i] += 2 * Math.PI;
}
function directionAt(degrees: number): number {
  const at = degrees < 0 ? degrees + 360 : degrees;
  const i = at | 0;
  return directions[i] + (directions[i + 1] - directions[i]) * (at - i);
}

/**
 * Hue, saturation and lightness by hue family: the three numbers are joined smoothly around the circle, the
 * change is made in OKLCh, and neutrals, which have no hue, stay. Colours that would leave sRGB give up
 * chroma.
 */
export const colourBands = defineStep({
  kind: 'colour-bands',
  stage: 'ground',
  face: 'hues',
  fields: {
    red: band(),
    orange: band(),
    yellow: band(),
    green: band(),
    cyan: band(),
    blue: band(),
    purple: band(),
    magenta: band(),
  },
  whileHeld: (_settings, [family]) => {
    const zone = familyZone(family);
    return zone && { zone };
  },
  point: s => {
    const families = familyNames.map(name => s[name]);
    if (families.every(f => f.hue === 0 && f.saturation === 0 && f.lightness === 0)) return () => undefined;
    const turns = aroundTheCircle(families.map(f => f.hue * TURN));
    const gains = aroundTheCircle(families.map(f => f.saturation));
    const lifts = aroundTheCircle(families.map(f => f.lightness * LIFT));
    return c => {
      const [r, g, b] = c;
      const most = Math.max(r, g, b);
      const span = most - Math.min(r, g, b);
      if (span <= 0) return;
      const sixths = hueSixths(r, g, b, most, span);
      const degrees = sixths * 60;
      let turn = directionAt(degrees + readAround(turns, sixths)) - directionAt(degrees);
      if (turn > Math.PI) turn -= 2 * Math.PI;
      if (turn < -Math.PI) turn += 2 * Math.PI;
      const gain = 1 + readAround(gains, sixths);
      const lift = (readAround(lifts, sixths) * span * span) / (span * span + HALF_CHROMA * HALF_CHROMA);
      rgbToOklab(c);
      const cos = Math.cos(turn) * gain;
      const sin = Math.sin(turn) * gain;
      const x = c[1];
      c[1] = x * cos - c[2] * sin;
      c[2] = x * sin + c[2] * cos;
      c[0] += lift * (lift > 0 ? Math.max(0, 1 - c[0]) : Math.max(0, c[0]));
      const fits = chromaThatFits(c[0], c[1], c[2]);
      c[1] *= fits;
      c[2] *= fits;
      oklabToRgb(c);
    };
  },
});
