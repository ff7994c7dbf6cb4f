import { hueSixths } from '../../colour/hues';
import { smoothstep } from '../../colour/tones';
import { fraction, hue, plain } from '../../settings/fields';
import { definePart } from '../define';

/** A pixel begins to belong at a third of the least colour that is asked, and belongs wholly at five thirds. */
const BEGINS = 1 / 3;
const WHOLE = 5 / 3;

/** All that has a hue, in the photograph's ground. What has less colour than `colour` is left out, softly. */
export const hues = definePart({
  kind: 'hues',
  fields: {
    centre: hue(0),
    width: { ...plain(0, 360, 60), unit: 'hue' },
    softness: fraction(0.5),
    colour: fraction(0.06),
  },
  reads: 'ground',
  see: ({ centre, width, softness, colour }, { ground }, count) => {
    const values = new Float32Array(count);
    const half = width / 2;
    const soft = Math.max(1, softness * 60);
    const least = colour * BEGINS;
    const soften = Math.max(0.01, colour * (WHOLE - BEGINS));
    for (let i = 0, p = 0; i < count; i++, p += 3) {
      const r = ground[p];
      const g = ground[p + 1];
      const b = ground[p + 2];
      const most = Math.max(r, g, b);
      const span = most - Math.min(r, g, b);
      if (span <= 0) continue;
      const away = Math.abs(hueSixths(r, g, b, most, span) * 60 - centre) % 360;
      const apart = Math.min(away, 360 - away);
      values[i] = smoothstep((half + soft - apart) / soft) * smoothstep((span - least) / soften);
    }
    return values;
  },
});
