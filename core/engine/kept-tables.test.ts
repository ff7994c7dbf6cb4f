import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Baked } from './bake';
import { bytesOfTable, keepTables } from './kept-tables';

const ramp = (length: number): Baked => ({
  table: { kind: 'ramp', holes: false, ramp: { values: new Float32Array(length), from: 0, length, density: length } },
  fine: true,
}); // prettier-ignore

describe('kept tables', () => {
  it('are the last used, never more of them nor more bytes than they may be, but always the last', () => {
    const uses = fc.array(fc.record({ key: fc.integer({ min: 0, max: 9 }), length: fc.integer({ min: 1, max: 90 }) }), { maxLength: 60 }); // prettier-ignore
    fc.assert(
      fc.property(
        uses,
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 40, max: 900 }),
        (all, most, mostBytes) => {
          const kept = keepTables(most, mostBytes);
          // The same by a list, the oldest first.
          let model: { key: number; bytes: number }[] = [];
          const lengths = new Map<number, number>();
          for (const { key, length } of all) {
            let baked = 0;
            kept.of(String(key), false, () => {
              baked++;
              lengths.set(key, length);
              return ramp(length);
            });
            const known = model.find(m => m.key === key);
            expect(baked).toBe(known ? 0 : 1);
            model = [...model.filter(m => m !== known), { key, bytes: 4 * lengths.get(key)! }];
            const sum = () => model.reduce((bytes, m) => bytes + m.bytes, 0);
            while (model.length > most || (sum() > mostBytes && model.length > 1)) model.shift();
          }
        },
      ),
    );
  });

  it('are counted with the colours that they hold', () => {
    expect(bytesOfTable(ramp(10))).toBe(40);
    expect(bytesOfTable({ table: { kind: 'exact' }, fine: true })).toBe(1);
  });
});
