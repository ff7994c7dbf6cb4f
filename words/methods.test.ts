import { describe, expect, it } from 'vitest';
import { movesBetween } from '../core/analysis/moved';
import { readFacts } from '../core/methods/facts';
import { isFor, isLaid, layPage, pagesFor, stepOf, takeOff } from '../core/methods/run';
import { stepKind } from '../core/steps';
import { isAtWork } from '../core/treatment/alternatives';
import { pureHue } from '../core/colour/hues';
import type { Tile } from '../core/frame/framing';
import { paint, rendered } from '../core/testing/pictures';
import { bareTreatment, type Treatment } from '../core/treatment/treatment';
import { parseTreatment } from '../core/treatment/schema';
import { methods } from './methods';
import { toldOf } from './method-told';
import { settingsOfStep } from './step-settings';

const SIZE = { width: 96, height: 64 };

/** Three photographs as far as their tones and colours go: water under a sky with a red boat, a dark room with a window, a grey print. */
const photographs: { name: string; tile: Tile; grey: boolean }[] = [
  {
    name: 'a boat on water',
    grey: false,
    tile: paint(SIZE.width, SIZE.height, (x, y) => {
      const boat = Math.hypot((x - 0.3) * 1.6, (y - 0.65) * 2.4) < 0.22;
      if (boat) return pureHue(8).map(v => 0.12 + (0.25 + 0.5 * v) * (1.1 - y));
      const ripple = 0.04 * Math.sin(x * 60) * y;
      return y < 0.45
        ? [0.74 - 0.2 * y, 0.79 - 0.2 * y, 0.86 - 0.16 * y]
        : [0.2 + ripple, 0.26 + ripple, 0.27 + ripple * 1.2];
    }),
  },
  {
    name: 'a window in a dark room',
    grey: false,
    tile: paint(SIZE.width, SIZE.height, (x, y) => {
      if (Math.abs(x - 0.7) < 0.12 && Math.abs(y - 0.35) < 0.2) return [0.8, 0.77, 0.68];
      const jug = Math.hypot((x - 0.35) * 1.5, y - 0.7) < 0.16;
      const wall = 0.05 + 0.2 * x * (1 - y);
      return jug ? [0.24, 0.36 * (0.6 + x), 0.5 * (0.6 + x)] : [wall * 1.15, wall, wall * 0.8];
    }),
  },
  {
    name: 'a grey print',
    grey: true,
    tile: paint(SIZE.width, SIZE.height, (x, y) => {
      const face = Math.hypot((x - 0.5) * 1.5, y - 0.4) < 0.2 ? 0.3 : 0;
      const v = 0.16 + 0.4 * x * y + face + 0.02 * Math.sin(x * 90 + y * 50);
      return [v, v, v];
    }),
  },
];

const codes8 = (codes: ArrayLike<number>) => Uint8Array.from(codes, v => Math.round(v / 257));

/** What was rendered of each photograph, by the treatment. */
const renders = new Map(photographs.map(of => [of, new WeakMap<Treatment, Uint8Array>()]));
const bare = bareTreatment();

/** What a photograph is with a treatment; of the same one rendered once. */
function seen(treatment: Treatment, of: (typeof photographs)[number]): Uint8Array {
  const known = renders.get(of)!;
  const made =
    known.get(treatment) ?? codes8(rendered(treatment, of.tile, { grey: of.grey, pixels: 1 }).codes);
  known.set(treatment, made);
  return made;
}

function read(treatment: Treatment, of: (typeof photographs)[number]) {
  const pixels = (codes: Uint8Array) => ({ codes, ...SIZE });
  return readFacts(pixels(seen(treatment, of)), pixels(codes8(of.tile.codes)));
}

describe('the methods', () => {
  it('are at least nine, each under a title of its own', () => {
    expect(methods.length).toBeGreaterThanOrEqual(9);
    expect(new Set(methods.map(m => m.key)).size).toBe(methods.length);
    expect(new Set(methods.map(m => m.title)).size).toBe(methods.length);
  });

  const runs = methods.flatMap(method =>
    photographs
      .filter(({ grey }) => !grey || !method.needs)
      .map(of => ({ method, of, title: method.title, on: of.name })),
  );

  it.each(runs)(
    '$title on $on: each page does what it says, can be taken off, and leaves ordinary steps',
    ({ method, of }) => {
      let treatment = bare;
      const pages = pagesFor(method, read(treatment, of).facts);
      expect(pages.length).toBeGreaterThanOrEqual(2);
      for (const page of pages) {
        const { reading, facts } = read(treatment, of);
        const told = toldOf(page.why, page, reading, facts);
        expect(told).toMatch(/^[A-Z].*[.?]$/);
        expect(told).not.toMatch(/[{}]|undefined|NaN/);
        const laid = layPage(method, page, treatment, reading, facts);
        // What is stored and read again is the same.
        expect(parseTreatment(JSON.parse(JSON.stringify(laid)))).toEqual(laid);
        const { deed } = page;
        if (deed.does !== 'series') {
          expect(isLaid(method, page, laid), page.key).toBe(true);
          expect(layPage(method, page, laid, reading, facts)).toBe(laid);
          const step = stepOf(method, page, laid)!;
          const named = settingsOfStep(laid, step).map(s => s.name);
          for (const { name } of page.numbers) expect(named, `${page.key}: ${name}`).toContain(name);
          for (const field of page.fields) expect(Object.keys(stepKind(step.kind)!.fields)).toContain(field);
        }
        if (deed.does === 'put' || deed.does === 'bath' || deed.does === 'set') {
          expect(takeOff(method, page, laid), page.key).toEqual(treatment);
          const moves = movesBetween(seen(treatment, of), seen(laid, of));
          for (const [band, ways] of Object.entries(page.moves)) {
            const share = reading.tones[band as keyof typeof moves].share;
            if (share > 0.05)
              expect(moves[band as keyof typeof moves], `${page.key}: ${band}`).toEqual(
                expect.arrayContaining(ways),
              );
          }
        }
        treatment = laid;
      }
      const moved = movesBetween(seen(bare, of), seen(treatment, of));
      expect(Object.values(moved).flat().length).toBeGreaterThan(0);
    },
  );

  it('that turn to grey put a conversion that is there aside, and bring it back when that is taken off', () => {
    const [of] = photographs;
    const own = parseTreatment({
      format: 'lampwash-treatment',
      version: 1,
      steps: [{ id: 'own', kind: 'mono' }],
    });
    for (const key of ['five-conversions', 'faded-print']) {
      const method = methods.find(m => m.key === key)!;
      const page = method.pages.find(p => p.deed.does === 'put' && p.deed.instead)!;
      const { reading, facts } = read(own, of);
      const laid = layPage(method, page, own, reading, facts);
      expect(laid.steps.filter(isAtWork).map(s => s.id)).toEqual([`${key}.${page.key}`]);
      expect(takeOff(method, page, laid)).toEqual(own);
    }
    // One on an area alone is another thing: it stays as it is.
    const partly = parseTreatment({
      ...own,
      masks: [{ id: 'm', parts: [{ kind: 'oval' }] }],
      steps: [{ id: 'own', kind: 'mono', mask: 'm' }],
    });
    const sepia = methods.find(m => m.key === 'darkroom-sepia')!;
    const mono = sepia.pages.find(p => p.key === 'mono')!;
    const { reading, facts } = read(partly, of);
    expect(layPage(sepia, mono, partly, reading, facts).steps).toHaveLength(2);
  });

  it('that need colour are not for a grey photograph; those that need a thing not for one without', () => {
    const noThing = {
      ...photographs[0],
      tile: paint(SIZE.width, SIZE.height, (x, y) => [x * y + 0.02, x * y, x * y]),
    };
    renders.set(noThing, new WeakMap());
    const keys = (of: (typeof photographs)[number]) => {
      const { facts } = read(bare, of);
      return methods.filter(m => !isFor(m, facts)).map(m => m.key);
    };
    expect(keys(photographs[0])).toEqual([]);
    expect(keys(photographs[2])).toEqual(['five-conversions', 'colour-left', 'faded-print']);
    expect(keys(noThing)).toEqual(['colour-left']);
  });
});
