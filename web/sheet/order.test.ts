import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Photograph } from '../../contract/photographs';
import type { Measures } from '../../core/analysis/evenness';
import { filters, inOrder, orders, shown, type Told } from './order';

/** The orders and filters of the Sheet. */

const photograph = (id: string, more: Partial<Photograph> & { steps?: string[] } = {}): Photograph => ({
  id,
  seriesId: 's',
  title: id,
  fileName: `${id}.jpg`,
  sha256: '',
  mediaType: 'image/jpeg',
  width: 3,
  height: 2,
  bits: 8,
  grey: false,
  profile: null,
  damage: null,
  part: null,
  camera: null,
  author: null,
  taken: null,
  caption: '',
  currentTakeId: `t ${id}`,
  takes: [{ id: `t ${id}`, letter: 'A', name: '', revision: 1, steps: more.steps ?? [], frame: null }],
  ...more,
});
const measures = (key: number, b: number | null): Measures => ({
  zones: { shadows: null, middles: b === null ? null : { a: 0, b }, lights: null },
  black: 2,
  white: 95,
  contrast: 50,
  key,
});
const ids = (all: readonly Photograph[]) => all.map(p => p.id).join(' ');
const nothing = new Map<string, Told>();

describe('the order of a sheet', () => {
  it('by name counts numbers as numbers, and forgets capitals', () => {
    const all = ['Print 10', 'print 9', 'Ändern', 'Anker', 'print 2'].map(title => photograph(title));
    expect(ids(inOrder(all, 'name', nothing))).toBe('Ändern Anker print 2 print 9 Print 10');
  });

  it('by date puts the undated last, as they hang', () => {
    const all = [
      photograph('x'),
      photograph('late', { taken: '2026-05-03T14:22:01' }),
      photograph('y'),
      photograph('early', { taken: '2025-12-24T08:00:00' }),
    ];
    expect(ids(inOrder(all, 'taken', nothing))).toBe('early late x y');
  });

  it('by tone goes from dark to light, or from warm to cool', () => {
    const all = ['a', 'b', 'c', 'd'].map(id => photograph(id));
    const told = new Map<string, Told>([
      ['a', { measures: measures(60, -8), isFallen: false }],
      ['b', { measures: null, isFallen: false }],
      ['c', { measures: measures(30, 2), isFallen: false }],
      ['d', { measures: measures(45, 20), isFallen: false }],
    ]);
    expect(ids(inOrder(all, 'dark', told))).toBe('c d a b');
    expect(ids(inOrder(all, 'warm', told))).toBe('d c a b');
    told.set('d', { measures: measures(45, null), isFallen: false });
    expect(ids(inOrder(all, 'warm', told))).toBe('c a b d');
  });

  it('loses none, doubles none, and leaves the series as it is', () => {
    const some = fc.uniqueArray(fc.string({ maxLength: 4 }), { maxLength: 12 });
    fc.assert(
      fc.property(some, fc.constantFrom(...orders), (titles, order) => {
        const all = titles.map((title, i) => photograph(`p${i}`, { title, taken: title || null }));
        const before = [...all];
        const sorted = inOrder(all, order, nothing);
        expect(all).toEqual(before);
        expect(new Set(sorted)).toEqual(new Set(all));
        expect(sorted).toHaveLength(all.length);
        expect(inOrder(sorted, order, nothing)).toEqual(sorted);
      }),
    );
  });
});

it('a filter shows what it says', () => {
  const all = [
    photograph('treated', { steps: ['mono'] }),
    photograph('bare'),
    photograph('damaged', { damage: 'ends early', steps: ['mono'] }),
    photograph('fallen', { steps: ['baths'] }),
  ];
  const told = new Map<string, Told>([['fallen', { measures: null, isFallen: true }]]);
  expect(filters.map(f => ids(shown(all, f, told)))).toEqual([
    'treated bare damaged fallen',
    'treated damaged fallen',
    'bare',
    'fallen',
    'damaged',
  ]);
});
