import { hueSixths } from '../colour/hues';
import { luma } from '../colour/srgb';
import { darkShare, lightShare, smoothstep } from '../colour/tones';
import { defineStep } from './define';
import { sixthZone, toneZone } from './zones';
import { amount, group } from '../settings/fields';

const ink = () => group({ c: amount(), m: amount(), y: amount(), k: amount() });
type Ink = { c: number; m: number; y: number; k: number };

/** How far ink 1 darkens its channel at full membership: half the encoded range. */
const DEPTH = 0.5;
const still = (i: Ink) => i.c === 0 && i.m === 0 && i.y === 0 && i.k === 0;

/**
 * Ink added or taken away where the picture has a tone (darks, middles and lights sum to one) or a hue (six
 * families 60° apart, smooth, times chroma with a soft toe). Cyan takes from red, magenta from green, yellow
 * from blue, black from all three.
 */
export const inks = defineStep({
  kind: 'inks',
  stage: 'ground',
  face: 'hues',
  fields: {
    tones: group({ lights: ink(), middles: ink(), darks: ink() }),
    hues: group({ red: ink(), yellow: ink(), green: ink(), cyan: ink(), blue: ink(), magenta: ink() }),
  },
  whileHeld: (_settings, [of, which]) => {
    const zone = of === 'hues' ? sixthZone(which) : toneZone(which);
    return zone && { zone };
  },
  point: s => {
    const { lights, middles, darks } = s.tones;
    const around = [s.hues.red, s.hues.yellow, s.hues.green, s.hues.cyan, s.hues.blue, s.hues.magenta];
    const byTone = [lights, middles, darks].some(i => !still(i));
    const byHue = around.some(i => !still(i));
    return colour => {
      const [r, g, b] = colour;
      let red = 0;
      let green = 0;
      let blue = 0;
      const add = (i: Ink, share: number) => {
        red += share * (i.c + i.k);
        green += share * (i.m + i.k);
        blue += share * (i.y + i.k);
      };
      if (byTone) {
        const tone = luma(r, g, b);
        const dark = darkShare(tone);
        const light = lightShare(tone);
        add(darks, dark);
        add(lights, light);
        add(middles, 1 - dark - light);
      }
      if (byHue) {
        const most = Math.max(r, g, b);
        const span = most - Math.min(r, g, b);
        const membership = smoothstep(span);
        if (membership > 0) {
          const sixths = hueSixths(r, g, b, most, span);
          const low = Math.floor(sixths) % 6;
          const share = smoothstep(sixths - Math.floor(sixths));
          add(around[low], membership * (1 - share));
          add(around[(low + 1) % 6], membership * share);
        }
      }
      colour[0] -= DEPTH * red;
      colour[1] -= DEPTH * green;
      colour[2] -= DEPTH * blue;
    };
  },
});
