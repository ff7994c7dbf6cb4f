import fc from 'fast-check';
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { parseTreatment } from '../../core/treatment/schema';
import type * as Sessions from '../takes/session';
import { TakeServer } from '../takes/testing/take-server';
import { stubWindow } from '../takes/testing/window';
import type * as Store from './bench-store';
import type { Bench } from './bench-store';
import { STEP, type Side } from './side';

vi.mock('../engine/client', () => ({
  giveToEngines: () => Promise.resolve(),
  smallPictures: () => Promise.reject(new Error('no engine here')),
}));

const ids = ['a', 'b', 'c'];

let modules: typeof Sessions & typeof Store;
beforeAll(async () => {
  stubWindow(new TakeServer().fetch);
  modules = { ...(await import('../takes/session')), ...(await import('./bench-store')) };
});
afterAll(() => vi.unstubAllGlobals());

function benchOf(): Bench {
  const server = new TakeServer();
  server.states[0].treatment = parseTreatment({
    format: 'lampwash-treatment',
    version: 1,
    steps: ids.map(id => ({ id, kind: 'curve' })),
  });
  return modules.createBench(new modules.TakeSession(server.view()));
}

let bench: Bench;
beforeEach(() => {
  bench = benchOf();
});
const state = () => bench.store.getState();
const tried = (name: string) => ({ name, treatment: bench.edits.now(), then: 'takes it' });

describe('the store of the Bench', () => {
  it('begins with the last step, the lamp at the end, and nothing held, tried or compared', () => {
    expect(bench.chosen()).toBe('c');
    expect(state()).toMatchObject({ lampAt: null, held: [], tried: null, side: STEP, alone: false });
    expect(state().compared.shown.way).toBeNull();
  });

  it('lets nothing of a step go over to another, whatever is done in whatever order', () => {
    const sides: Side[] = [STEP, { what: 'looks' }, { what: 'tint' }, { what: 'add', stage: 'tone' }];
    const act = fc.oneof(
      fc.record({ do: fc.constant('choose' as const), id: fc.constantFrom(...ids) }),
      fc.record({ do: fc.constant('tray' as const), id: fc.constantFrom(...ids) }),
      fc.record({ do: fc.constant('side' as const), side: fc.constantFrom(...sides) }),
      fc.record({ do: fc.constantFrom('hold' as const, 'board' as const, 'try' as const, 'range' as const) }),
    );
    fc.assert(
      fc.property(fc.array(act, { maxLength: 25 }), acts => {
        bench = benchOf();
        for (const each of acts) {
          const before = state();
          if (each.do === 'choose') bench.choose(each.id);
          else if (each.do === 'tray') bench.chooseTray(each.id);
          else if (each.do === 'side') bench.setSide(each.side);
          else if (each.do === 'hold') bench.hold([['points']]);
          else if (each.do === 'board') bench.openBoard();
          else if (each.do === 'try') bench.tryOn(tried('Copper'));
          else bench.pickRange(['a', 'b']);
          const now = state();
          if (now.picked !== before.picked) expect([now.held, now.boardOpen]).toEqual([[], false]);
          if (now.side !== before.side) expect(now.tried).toBeNull();
          if (each.do === 'tray') expect([bench.chosen(), now.side, now.range]).toEqual([each.id, STEP, []]);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('opens a side by its way and closes it by the same, and a step that is added shows itself', () => {
    bench.toggle({ what: 'looks' });
    expect(state().side.what).toBe('looks');
    bench.toggle({ what: 'tint' });
    expect(state().side.what).toBe('tint');
    bench.toggleTint();
    expect(state().side).toBe(STEP);
    bench.setLamp(1);
    expect(state().lampAt).toBe(1);
    bench.toggleAdding('tone');
    bench.add({ kind: 'vignette' } as Parameters<Bench['add']>[0], 'finish');
    expect(state()).toMatchObject({ side: STEP, lampAt: null });
    expect(bench.edits.now().steps.at(-1)).toMatchObject({ id: bench.chosen(), kind: 'vignette' });
  });

  it('keeps a lamp at the end there, and copies a range as far as it is there', () => {
    bench.setLamp(3);
    expect(state().lampAt).toBeNull();
    bench.pickRange(['a', 'b', 'gone']);
    expect(bench.picked()).toEqual(['a', 'b']);
    bench.edits.remove(['a']);
    expect(bench.picked()).toEqual([bench.chosen()]);
  });

  it('shows the bare picture as long as it is held, or from one click to the next, and ends it with the next change', () => {
    vi.useFakeTimers();
    const stop = bench.follow();
    const way = () => state().compared.shown.way;
    const press = (ms: number) => {
      bench.press('bare');
      expect(way()).toBe('bare');
      vi.advanceTimersByTime(ms);
      bench.release();
    };
    press(900);
    expect(way()).toBeNull();
    press(80);
    expect(way()).toBe('bare');
    bench.edits.toggle(['a']);
    expect(way()).toBeNull();
    press(80);
    press(80);
    expect(way()).toBeNull();
    stop();
    vi.useRealTimers();
  });

  it('compares with something half and half, or as two prints where those hang', () => {
    bench.compareWith({ what: 'before' });
    expect(state().compared).toMatchObject({
      shown: { way: 'half', kept: true },
      sides: [{ what: 'before' }, { what: 'now' }],
    });
    bench.swapSides();
    bench.compareWith({ what: 'bare' });
    expect(state().compared.sides).toEqual([{ what: 'now' }, { what: 'bare' }]);
    bench.layDown(true);
    expect(state().compared.lies).toEqual({ half: true, side: null });
  });
});
