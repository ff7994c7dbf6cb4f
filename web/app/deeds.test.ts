import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { useDeeds, type Deed } from './deeds';

/** Undo and redo of what is done on a Sheet, with slow answers and failures. */

const { perform, undo, redo, undoOne } = useDeeds.getState();
const line = () => useDeeds.getState().lines.s ?? { past: [], future: [] };
beforeEach(() => useDeeds.setState({ lines: {} }));

/** A deed that puts a number into a list; each of its ways takes a while, and may fail. */
function put(shown: number[], value: number, { slow = 0, fails = (): boolean => false } = {}): Deed {
  const after = async (work: () => void) => {
    await new Promise(done => setTimeout(done, slow));
    if (fails()) throw new Error(`no answer for ${value}`);
    work();
  };
  return {
    id: String(value),
    label: `Put ${value}`,
    redo: () => after(() => shown.push(value)),
    undo: () => after(() => shown.splice(shown.lastIndexOf(value), 1)),
  };
}

describe('deeds', () => {
  it('asked for quickly are done and undone in their order, however slow each is', async () => {
    const shown: number[] = [];
    const all = [30, 1, 10].map((slow, i) => perform('s', put(shown, i, { slow })));
    const back = [undo('s'), undo('s')];
    await Promise.all([...all, ...back]);
    expect(shown).toEqual([0]);
    await Promise.all([redo('s'), redo('s'), redo('s')]);
    expect(shown).toEqual([0, 1, 2]);
    await undo('s');
    await perform('s', put(shown, 9));
    expect([shown, line().future]).toEqual([[0, 1, 9], []]);
  });

  it('one that is pointed at is undone alone, once', async () => {
    const shown: number[] = [];
    for (const n of [0, 1, 2]) await perform('s', put(shown, n));
    await Promise.all([undoOne('s', '1'), undoOne('s', '1')]);
    expect(shown).toEqual([0, 2]);
    await redo('s');
    expect(shown).toEqual([0, 2, 1]);
  });

  it('are as a list with a place in it, whatever is asked for and whatever fails', async () => {
    const asks = fc.array(
      fc.record({ what: fc.constantFrom('perform', 'undo', 'redo'), slow: fc.nat(3), fails: fc.boolean() }),
      { maxLength: 14 },
    );
    await fc.assert(
      fc.asyncProperty(asks, async all => {
        useDeeds.setState({ lines: {} });
        const shown: number[] = [];
        let failing = false;
        const past: number[] = [];
        let future: number[] = [];
        for (const [i, { what, slow, fails }] of all.entries()) {
          failing = fails;
          const asked =
            what === 'perform'
              ? perform('s', put(shown, i, { slow, fails: () => failing }))
              : what === 'undo'
                ? undo('s')
                : redo('s');
          const worked = await asked.then(
            () => true,
            () => false,
          );
          // The same on a plain list.
          if (worked && what === 'perform') {
            past.push(i);
            future = [];
          } else if (worked && what === 'undo' && past.length) future.unshift(past.pop()!);
          else if (worked && what === 'redo' && future.length) past.push(future.shift()!);
          expect(shown).toEqual(past);
          expect(line().past.map(d => Number(d.id))).toEqual(past);
          expect(line().future.map(d => Number(d.id))).toEqual(future);
        }
      }),
      { numRuns: 60 },
    );
  });
});
