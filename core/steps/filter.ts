import { turnsOf } from '../colour/elementary';
import { held, mostChroma } from '../colour/gamut';
import { oklabToRgb, rgbToOklab } from '../colour/oklab';
import { decode, parseHex } from '../colour/srgb';
import { toEncoded, toLinear } from '../colour/transfer';
import { defineStep } from './define';
import { colour, flag, fraction } from '../settings/fields';

/**
 * Light through coloured glass: a product in linear light, the glass thinned towards clear by its density.
 * With lightness kept, OKLab L is brought back afterwards, chroma giving way at the gamut's edge.
 */
export const filter = defineStep({
  kind: 'filter',
  stage: 'tone',
  face: 'ramp',
  givesColour: true,
  fields: { colour: colour('#d9a066'), density: fraction(0.5), keepLightness: flag(true) },
  point: s => {
    const glass = parseHex(s.colour!).map(v => 1 - s.density * (1 - decode(v)));
    if (glass.every(v => v === 1)) return () => undefined;
    const before = new Float64Array(3);
    return c => {
      before.set(c);
      for (let i = 0; i < 3; i++) c[i] = toEncoded(toLinear(c[i]) * glass[i]);
      if (!s.keepLightness) return;
      rgbToOklab(before);
      rgbToOklab(c);
      // Chroma grows with lightness, as it does for the light of one hue made stronger.
      const stronger = c[0] > 1e-6 ? before[0] / c[0] : 1;
      c[0] = before[0];
      const chroma = stronger * Math.hypot(c[1], c[2]);
      const fits = chroma > 0 ? stronger * held(chroma, mostChroma(c[0], turnsOf(c[1], c[2]))) : 0;
      c[1] *= fits;
      c[2] *= fits;
      oklabToRgb(c);
    };
  },
});
