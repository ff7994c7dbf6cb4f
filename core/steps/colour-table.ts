import { luma } from '../colour/srgb';
import { applyCube } from '../formats/cube';
import { defineStep } from './define';
import { amount, reference } from '../settings/fields';

/**
 * A colour table as a toner, then contrast about mid grey (a straight line, slope 2^contrast) and saturation
 * about luma. Without a table only those two.
 */
export const colourTable = defineStep({
  kind: 'colour-table',
  stage: 'tone',
  face: 'picture',
  givesColour: true,
  fields: { table: reference('tables'), contrast: amount(), saturation: amount() },
  point: (s, { tableNamed }) => {
    const table = s.table === null ? undefined : tableNamed(s.table);
    const look = table ? applyCube(table) : () => undefined;
    const slope = 2 ** s.contrast;
    return c => {
      look(c);
      if (s.contrast !== 0) for (let i = 0; i < 3; i++) c[i] = 0.5 + (c[i] - 0.5) * slope;
      if (s.saturation !== 0) {
        const grey = luma(c[0], c[1], c[2]);
        for (let i = 0; i < 3; i++) c[i] = grey + (1 + s.saturation) * (c[i] - grey);
      }
    };
  },
});
