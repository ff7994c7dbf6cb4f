import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { eachOnce, fileNameOf, type Named } from './file-name';
import type { NamePart } from './send-outs';

const of: Named = {
  series: 'The Keeper’s Kitchen',
  number: 5,
  title: 'Quinces & enamel jug',
  letter: 'B',
  original: 'DSC_0412.NEF.tif',
  date: new Date('2026-11-27T12:00:00Z'),
};
const named = (names: NamePart[], more: Partial<Named> = {}) => fileNameOf({ ...of, ...more }, names, 'jpg');

describe('file names', () => {
  it('are put together from their parts, in the order asked for', () => {
    expect(named(['series', 'number', 'title', 'take'])).toBe(
      'the-keepers-kitchen-05-quinces-enamel-jug-b.jpg',
    );
    expect(named(['date', 'original'])).toBe('2026-11-27-dsc-0412-nef.jpg');
    expect(named(['take', 'number'])).toBe('b-05.jpg');
  });

  it('are never a path, nor empty, whatever things are called', () => {
    expect(named(['series', 'title'], { series: '../..', title: '///' })).toBe('05.jpg');
    const part = fc.constantFrom<NamePart>('series', 'number', 'title', 'take', 'date', 'original');
    fc.assert(
      fc.property(
        fc.array(part, { minLength: 1, maxLength: 6 }),
        fc.string({ unit: 'binary' }),
        fc.string({ unit: 'binary' }),
        (names, title, original) => {
          const name = named(names, { title, original, series: title });
          expect(name).toMatch(/^[\p{L}\p{N}-]+\.jpg$/u);
        },
      ),
    );
  });

  it('are each another in one folder', () => {
    expect(eachOnce(['a.jpg', 'A.jpg', 'a.jpg', 'a-2.jpg'])).toEqual([
      'a.jpg',
      'A-2.jpg',
      'a-3.jpg',
      'a-2-2.jpg',
    ]);
    fc.assert(
      fc.property(fc.array(fc.constantFrom('a.jpg', 'b.jpg', 'A.JPG', 'a-2.jpg')), names => {
        const own = eachOnce(names);
        expect(new Set(own.map(n => n.toLowerCase())).size).toBe(names.length);
      }),
    );
  });
});
