import { luma } from '../../colour/srgb';
import { range } from '../../settings/fields';
import { definePart } from '../define';
import { reachAt } from '../reach';

/** All that has a tone, beneath the step. */
export const tones = definePart({
  kind: 'tones',
  fields: { range: range() },
  reads: 'beneath',
  see: ({ range }, { beneath }, count) => {
    const values = new Float32Array(count);
    for (let i = 0, p = 0; i < count; i++, p += 3) {
      values[i] = reachAt(range, luma(beneath[p], beneath[p + 1], beneath[p + 2]));
    }
    return values;
  },
});
