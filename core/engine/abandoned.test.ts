import { createHash } from 'node:crypto';
import { expect, it } from 'vitest';
import { markOccupied, noneOccupied, type Occupied } from '../kernels/occupied';
import { read } from '../testing/pictures';
import { Abandoned } from './abandoned';
import { createPlanner, type Plan } from './plan';

/** Planning that is given up keeps the tables that it had. */

const treatment = read([
  { kind: 'light', settings: { exposure: 0.3, contrast: 0.2 } },
  { kind: 'filter', settings: { colour: '#d8702e' } },
  { kind: 'mono', settings: { method: 'response', response: { blue: -0.4 } } },
  { kind: 'split-tone' },
]);

const coloursFrom = (seed: number): Occupied => {
  const codes = new Uint16Array(90);
  let state = seed;
  for (let i = 0; i < codes.length; i++) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    codes[i] = state >>> 16;
  }
  const cells = noneOccupied();
  markOccupied([codes], cells);
  return cells;
};

const hashed = ({ buffer }: Float32Array) =>
  createHash('sha256').update(new Uint8Array(buffer)).digest('hex');

/** What stands in the tables of a plan. */
const valuesOf = ({ passes }: Plan) =>
  passes.map(p => {
    if (p.kind !== 'points') return p.kind;
    const { table } = p;
    if (table.kind === 'grid') return hashed(table.grid.values);
    return table.kind === 'ramp' ? hashed(table.ramp.values) : table.kind;
  });

it('planning that is given up leaves no trace, whenever that is', () => {
  const [first, more] = [coloursFrom(1), coloursFrom(7)];
  const both = first.map((cell, i) => cell | more[i]);
  const planner = createPlanner();
  const plan = (occupied: Occupied, isAbandoned?: () => boolean) =>
    planner(treatment, { grey: false, pixels: 1e6, occupied, isAbandoned });
  let givenUp = 0;
  for (const after of [0, 1, 2, 4]) {
    let asked = 0;
    const isAbandoned = () => asked++ >= after;
    for (const occupied of [first, both]) {
      try {
        plan(occupied, isAbandoned);
      } catch (error) {
        expect(error).toBeInstanceOf(Abandoned);
        givenUp++;
      }
    }
  }
  expect(givenUp).toBeGreaterThan(2);
  plan(first);
  const fresh = createPlanner();
  fresh(treatment, { grey: false, pixels: 1e6, occupied: first });
  expect(valuesOf(plan(both))).toEqual(
    valuesOf(fresh(treatment, { grey: false, pixels: 1e6, occupied: both })),
  );
});
