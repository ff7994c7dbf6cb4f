import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Memory, type Sought } from './memory';

/** How many of a kind are kept, as the memory has it. */
const MOST = 32;

type Act = { what: 'find'; name: number } | { what: 'learn'; name: number } | { what: 'fail'; name: number };

const acts = fc.array(
  fc.record({
    what: fc.constantFrom('find', 'learn', 'fail'),
    name: fc.integer({ min: 0, max: 50 }),
  }) as fc.Arbitrary<Act>,
  { maxLength: 120 },
);

describe('what has been found', () => {
  it('is never found twice while it is kept, and those used last are kept', () => {
    fc.assert(
      fc.property(acts, all => {
        const memory = new Memory();
        const told: Sought[] = [];
        memory.onFound = sought => told.push(sought);
        /** Names that are kept, those used last at the end. */
        let kept: number[] = [];
        const use = (name: number) => {
          kept = [...kept.filter(n => n !== name), name].slice(-MOST);
        };
        const sought = (name: number): Sought => ['belonging', String(name)];
        for (const { what, name } of all) {
          const isKept = kept.includes(name);
          expect(memory.knows(sought(name))).toBe(isKept);
          let found = 0;
          const before = told.length;
          const find = (fails: boolean) =>
            memory.remembered('belonging', String(name), () => {
              found++;
              if (fails) throw new Error('given up');
              return { name };
            });
          if (what === 'learn') {
            memory.learn(sought(name), { name });
            use(name);
            expect(told.length).toBe(before);
          } else if (what === 'fail' && !isKept) {
            // What is given up leaves nothing behind.
            expect(() => find(true)).toThrow('given up');
            expect(memory.knows(sought(name))).toBe(false);
            expect(told.length).toBe(before);
          } else {
            expect(find(what === 'fail')).toEqual({ name });
            expect(found).toBe(isKept ? 0 : 1);
            // Only what is new is told to others.
            expect(told.length).toBe(before + found);
            use(name);
          }
        }
      }),
    );
  });

  it('of one kind does not push out that of another, and is told of no kind that is made from what is there', () => {
    const memory = new Memory();
    const told: Sought[] = [];
    memory.onFound = sought => told.push(sought);
    memory.remembered('within', 'a stroke', () => 1);
    for (let i = 0; i < 100; i++) memory.remembered('said', String(i), () => i);
    memory.remembered('edges', '', () => 2);
    expect(told).toEqual([['within', 'a stroke']]);
    expect(memory.knows(['within', 'a stroke'])).toBe(true);
  });
});
