import { curveThrough, isStraight } from '../colour/curves';
import { chromaThatFits } from '../colour/gamut';
import { oklabToRgb, rgbToOklab } from '../colour/oklab';
import { toEncoded, toLinear } from '../colour/transfer';
import { defineStep, type Point } from './define';
import { curvePoints, group } from '../settings/fields';

/**
 * A curve through points: the same on every channel, then each channel's own, then one on lightness alone
 * (the encoded grey of equal OKLab L, so that on a grey picture it is the same as `all`; colour is kept,
 * giving way at the gamut's edge).
 */
export const curve = defineStep({
  kind: 'curve',
  stage: 'tone',
  face: 'curve',
  fields: {
    points: group(
      {
        all: curvePoints(),
        red: curvePoints(),
        green: curvePoints(),
        blue: curvePoints(),
        lightness: curvePoints(),
      },
      { layout: 'curves' },
    ),
  },
  // Treatments kept by the first version had the channels among the settings themselves.
  earlier: settings => {
    const known = ['all', 'red', 'green', 'blue', 'lightness'];
    const names = Object.keys(settings);
    return names.length && names.every(name => known.includes(name)) ? { points: settings } : settings;
  },
  point: ({ points: s }) => {
    const parts: Point[] = [];
    if (!isStraight(s.all)) {
      const f = curveThrough(s.all);
      parts.push(c => {
        for (let i = 0; i < 3; i++) c[i] = f(c[i]);
      });
    }
    [s.red, s.green, s.blue].forEach((points, i) => {
      if (isStraight(points)) return;
      const f = curveThrough(points);
      parts.push(c => {
        c[i] = f(c[i]);
      });
    });
    if (!isStraight(s.lightness)) {
      const f = curveThrough(s.lightness);
      parts.push(c => {
        if (c[0] === c[1] && c[1] === c[2]) {
          c.fill(f(c[0]));
          return;
        }
        rgbToOklab(c);
        c[0] = Math.cbrt(toLinear(f(toEncoded(c[0] ** 3))));
        const fits = chromaThatFits(c[0], c[1], c[2]);
        c[1] *= fits;
        c[2] *= fits;
        oklabToRgb(c);
      });
    }
    return c => {
      for (const part of parts) part(c);
    };
  },
});
