import { gradientOf } from '../colour/gradient';
import { luma, parseHex } from '../colour/srgb';
import { defineStep } from './define';
import { length, pigment } from '../settings/fields';

/**
 * Colour laid on an area: one pigment, or a ramp that follows the luma beneath (linear between stops in
 * OKLab, so that a ramp of skin has no muddy middle). Laid in mix `color` unless it says otherwise, so that
 * shading and grain stay. Bleed softens the edge of its area both ways.
 */
export const wash = defineStep({
  kind: 'wash',
  stage: 'colour',
  coloursTones: true,
  mix: 'color',
  fields: { pigment: pigment({ kind: 'flat', colour: '#b5793c' }), bleed: length(0.2) },
  bleed: s => s.bleed,
  point: s => {
    if (s.pigment.kind === 'flat') {
      const flat = parseHex(s.pigment.colour);
      return c => c.set(flat);
    }
    const colourAt = gradientOf(s.pigment.stops, { interpolation: 'oklab' });
    return c => colourAt(luma(c[0], c[1], c[2]), c);
  },
});
