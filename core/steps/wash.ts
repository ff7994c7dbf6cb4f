import { dyeAtTone, dyeOf, throughDye } from '../colour/dye';
import { darkEndOf } from '../colour/dark-end';
import { gradientOf } from '../colour/gradient';
import { keepsTones } from '../colour/mixes';
import type { Triple } from '../colour/oklab';
import type { Pigment } from '../colour/pigments';
import { decode, luma, parseHex } from '../colour/srgb';
import { lumaPlane } from '../kernels/channels';
import { mixColour } from '../kernels/colour-mix';
import { guided, type Guided } from '../kernels/guided';
import { layTexture } from '../kernels/base-layers';
import { defineStep, type Field, type OverMix, type Point } from './define';
import { amount, length, pigment } from '../settings/fields';

/** The pigment's colour at what lies beneath. */
function colourOf(pigment: Pigment): Point {
  if (pigment.kind === 'flat') {
    const flat = parseHex(pigment.colour);
    return c => c.set(flat);
  }
  const colourAt = gradientOf(pigment.stops, { interpolation: 'oklab' });
  return c => colourAt(luma(c[0], c[1], c[2]), c);
}

/** What a ramp lets through as a dye: how much darker its middle is than middle grey, in light. */
function lightThrough(pigment: Extract<Pigment, { kind: 'ramp' }>): number {
  const middle = Float64Array.of(0.5, 0.5, 0.5);
  colourOf(pigment)(middle);
  return Math.min(1, decode(Math.max(0, luma(middle[0], middle[1], middle[2]))) / decode(0.5));
}

/** What the mix gives goes over to light through a dye of the pigment. */
function asDye(pigment: Pigment, depth: number): OverMix {
  const dye: Triple = new Float64Array(3);
  const seen: Triple = new Float64Array(3);
  const ramp = pigment.kind === 'ramp' ? lightThrough(pigment) : 0;
  return (beneath, own, mixed) => {
    if (pigment.kind === 'flat') dyeOf(own, dye);
    else dyeAtTone(own, ramp, dye);
    throughDye(beneath, dye, seen);
    for (let k = 0; k < 3; k++) mixed[k] += depth * (seen[k] - mixed[k]);
  };
}

/** Of the base that body colour covers: its window as a fraction of the long edge, and the variance that counts as texture. */
const BASE_RADIUS = 0.03;
const BASE_EPSILON = 0.02;

/** Body colour: the pigment with its own lightness, and the texture of what lies beneath upon it. */
function asBody(pigment: Pigment): Field {
  return {
    surveyKey: 'body',
    survey: ({ rgb, width, height, scale }): Guided => {
      const tones = lumaPlane(rgb, width, height);
      return guided(tones, tones, Math.max(1, Math.round(BASE_RADIUS * scale.longEdge)), BASE_EPSILON);
    },
    own: (region, survey, out) => {
      const base = survey as Guided;
      layTexture(region, [base.a, base.b], region.scale, colourOf(pigment), out);
    },
  };
}

/**
 * Colour laid on an area: one pigment, or a ramp that follows the luma beneath (linear between stops in
 * OKLab, so that a ramp of skin has no muddy middle). Laid in mix `color` unless it says otherwise, so that
 * shading and grain stay. Depth leads from there to a transparent dye, which darkens, or to body colour, which covers:
 * its own lightness shows, with the texture beneath. Bleed softens the edge of its area both ways.
 */
export const wash = defineStep({
  kind: 'wash',
  stage: 'colour',
  face: 'area',
  givesColour: true,
  coloursTones: true,
  startsOnArea: true,
  mix: 'color',
  fields: {
    pigment: pigment({ kind: 'flat', colour: '#b5793c' }),
    depth: { ...amount(), within: 'pigment' },
    bleed: length(0.2),
  },
  advise: ({ pigment: laid, depth }, mix) => {
    // A tint keeps the tones beneath, and a dye darkens them: their black stays.
    if (laid.kind === 'flat' || depth > 0.5 || (keepsTones(mix) && depth > -0.5)) return [];
    return darkEndOf(laid.stops).turnsRound ? [{ what: 'dark-end-lighter' }] : [];
  },
  bleed: s => s.bleed,
  point: s => colourOf(s.pigment),
  laid: ({ pigment: laid, depth }, mix) => {
    if (laid.kind !== 'flat' || depth !== 0 || mix !== 'color') return null;
    const own = parseHex(laid.colour);
    return (rgb, weights, strength) => mixColour(rgb, weights, own, strength);
  },
  field: s => (s.depth < 0 ? asBody(s.pigment) : null),
  overMix: s => {
    if (s.depth > 0) return asDye(s.pigment, s.depth);
    if (s.depth === 0) return null;
    return (_, own, mixed) => {
      for (let k = 0; k < 3; k++) mixed[k] -= s.depth * (own[k] - mixed[k]);
    };
  },
});
