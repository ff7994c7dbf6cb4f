import fc from 'fast-check';
import { expect, it } from 'vitest';
import { anyTreatment } from '../testing/arbitraries';
import { changeSetting } from './edit';
import { jsonLength } from './size';

it('the size of a treatment is that of its JSON, also after a change', () => {
  fc.assert(
    fc.property(anyTreatment({ most: 6 }), t => {
      expect(jsonLength(t)).toBe(JSON.stringify(t).length);
      if (!t.steps.length) return;
      const changed = changeSetting(t, t.steps[0].id, ['unknown'], 'grün "x"');
      expect(jsonLength(changed)).toBe(JSON.stringify(changed).length);
    }),
  );
});
