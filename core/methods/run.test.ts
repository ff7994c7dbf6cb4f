import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { methods } from '../../words/methods';
import { readPicture } from '../analysis/reading';
import { familyNames } from '../colour/hues';
import { autoLight } from '../steps/automatic/light';
import { paint, read } from '../testing/pictures';
import { isAtWork, tidyAlternatives } from '../treatment/alternatives';
import { tidyGroups } from '../treatment/groups';
import type { Treatment } from '../treatment/treatment';
import { parseTreatment } from '../treatment/schema';
import { factsOf, holds, valueFor } from './facts';
import { isLaid, layPage, pagesFor, stepOf, takeOff, takenUpAt } from './run';
import { methodSchema } from './schema';

const tile = paint(40, 30, (x, y) => (x < 0.3 && y < 0.4 ? [0.7, 0.2, 0.2] : [x, x, x]));
const pixels = { codes: Uint8Array.from(tile.codes, v => Math.round(v / 257)), width: 40, height: 30 };
const reading = readPicture(pixels, pixels);
const response = Object.fromEntries(familyNames.map(name => [name, 0.1])) as Record<
  (typeof familyNames)[number],
  number
>;
const facts = factsOf(reading, { light: autoLight(pixels.codes), response });

/** Treatments that somebody has worked on: steps of all stages, areas, groups, alternatives, steps that are off. */
const worked: fc.Arbitrary<Treatment> = fc
  .subarray([
    { id: 'a', kind: 'light', settings: { exposure: 0.3 } },
    { id: 'b', kind: 'mono', alternative: { tray: 't', aside: true } },
    { id: 'c', kind: 'mono', alternative: { tray: 't' }, settings: { method: 'luma' } },
    { id: 'd', kind: 'curve', group: 'g' },
    { id: 'e', kind: 'baths', group: 'g', settings: { baths: [{ toner: 'gold' }] } },
    { id: 'f', kind: 'split-tone', enabled: false },
    { id: 'g', kind: 'wash', mask: 'm' },
    { id: 'h', kind: 'vignette' },
  ] as object[])
  .map(steps =>
    tidyAlternatives(
      tidyGroups(
        read(steps, {
          groups: [{ id: 'g', name: 'Group' }],
          masks: [{ id: 'm', name: 'Thing', parts: [{ kind: 'oval' }] }],
        }),
      ),
    ),
  );

describe('a method on a treatment', () => {
  it('leaves it as it was, once all that was laid is taken off again, whatever was there', () => {
    fc.assert(
      fc.property(
        worked,
        fc.constantFrom(...methods),
        fc.integer({ min: 1, max: 8 }),
        (before, method, most) => {
          const pages = pagesFor(method, facts).slice(0, most);
          const laid = pages.reduce((of, page) => layPage(method, page, of, reading, facts), before);
          expect(parseTreatment(JSON.parse(JSON.stringify(laid)))).toEqual(laid);
          for (const page of pages)
            if (page.deed.does !== 'series') expect(isLaid(method, page, laid)).toBe(true);
          // What was there is there, unless it gives way in its tray.
          for (const step of before.steps) {
            const now = laid.steps.find(s => s.id === step.id)!;
            expect({ ...now, alternative: undefined }).toEqual({ ...step, alternative: undefined });
          }
          const off = pages.toReversed().reduce((of, page) => takeOff(method, page, of), laid);
          expect(off).toEqual(before);
        },
      ),
      { numRuns: 120 },
    );
  });

  it('is taken up at the last page that it did, and not at what somebody else did', () => {
    for (const method of methods) {
      const pages = pagesFor(method, facts);
      expect(takenUpAt(method, pages, read([]))).toBeNull();
      expect(
        takenUpAt(
          method,
          pages,
          read([
            { id: 'own', kind: 'light' },
            { id: 'm', kind: 'mono' },
          ]),
        ),
      ).toBeNull();
      const two = pages.slice(0, 2).reduce((of, page) => layPage(method, page, of, reading, facts), read([]));
      expect(takenUpAt(method, pages, two)).toBe(1);
    }
  });

  it('lays what a page needs of those before it', () => {
    const sepia = methods.find(m => m.key === 'darkroom-sepia')!;
    const paper = sepia.pages.find(p => p.key === 'paper')!;
    const laid = layPage(sepia, paper, read([]), reading, facts);
    expect(stepOf(sepia, paper, laid)?.settings).toMatchObject({ baths: [{ toner: 'sepia' }] });
    expect(laid.steps.filter(isAtWork)).toHaveLength(1);
  });
});

describe('a value of a method', () => {
  it('follows a fact along a line and stops at both ends', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), lights => {
        const of = { ...facts, values: { ...facts.values, lights } };
        const value = valueFor({ read: 'lights', from: [0.2, 0.6], to: [0.5, 0.3] }, of) as number;
        expect(value).toBeGreaterThanOrEqual(0.3);
        expect(value).toBeLessThanOrEqual(0.5);
        if (lights <= 0.2) expect(value).toBe(0.5);
        if (lights >= 0.6) expect(value).toBe(0.3);
      }),
    );
  });

  it('is itself where it follows nothing, at any depth', () => {
    fc.assert(
      fc.property(fc.jsonValue(), value => {
        fc.pre(!JSON.stringify(value).includes('"read"') && !JSON.stringify(value).includes('"automatic"'));
        expect(JSON.stringify(valueFor(value, facts))).toBe(JSON.stringify(value));
      }),
    );
  });

  it('that reads what there is not is refused by name', () => {
    expect(() => valueFor({ read: 'moonlight' }, facts)).toThrow(/moonlight/);
    expect(() => holds({ read: 'moonlight', above: 0 }, facts)).toThrow(RangeError);
  });
});

describe('the file of a method', () => {
  const page = {
    key: 'one',
    name: 'One',
    short: 'one',
    why: [{ text: 'Why.' }],
    deed: { does: 'put', kind: 'tint' },
  };
  const method = (pages: object[]) => ({ key: 'm', title: 'M', aim: 'An aim.', pages });
  const other = (deed: object) => ({ ...page, key: 'two', deed });

  it.each([
    ['a page that it does not have', [page, other({ does: 'set', in: 'none', settings: {} })]],
    ['a page that comes later', [other({ does: 'choose', in: 'one' }), page]],
    ['two pages of one key', [page, page]],
    ['a step that there is not', [page, other({ does: 'put', kind: 'moonlight' })]],
    ['a single page', [page]],
  ])('is refused with %s', (_, pages) => {
    expect(methodSchema.safeParse(method(pages)).success).toBe(false);
  });

  it('is read where it is right', () => {
    expect(
      methodSchema.safeParse(method([page, other({ does: 'set', in: 'one', settings: {} })])).success,
    ).toBe(true);
  });
});
