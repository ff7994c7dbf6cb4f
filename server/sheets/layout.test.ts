import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fitted, layOutSheet, papers, type Asked, type Box, type Paper } from './layout';

const asked: fc.Arbitrary<Asked> = fc.record({
  paper: fc.constantFrom(...(Object.keys(papers) as Paper[])),
  lying: fc.boolean(),
  margin: fc.integer({ min: 5, max: 40 }),
  columns: fc.integer({ min: 1, max: 8 }),
  caption: fc.integer({ min: 0, max: 40 }),
  title: fc.integer({ min: 0, max: 60 }),
  shape: fc.double({ min: 0.5, max: 2.5, noNaN: true }),
});
const within = (inner: Box, outer: Box) => {
  const slack = 1e-6;
  expect(inner.x).toBeGreaterThanOrEqual(outer.x - slack);
  expect(inner.y).toBeGreaterThanOrEqual(outer.y - slack);
  expect(inner.x + inner.width).toBeLessThanOrEqual(outer.x + outer.width + slack);
  expect(inner.y + inner.height).toBeLessThanOrEqual(outer.y + outer.height + slack);
};
const apart = (a: Box, b: Box) =>
  a.x + a.width <= b.x + 1e-6 ||
  b.x + b.width <= a.x + 1e-6 ||
  a.y + a.height <= b.y + 1e-6 ||
  b.y + b.height <= a.y + 1e-6;

describe('a sheet', () => {
  it('has every picture once, in order, within the margins, none over another', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 60 }), asked, (count, how) => {
        const { width, height, pages, title } = layOutSheet(count, how);
        const margin = (how.margin * 72) / 25.4;
        const inner = { x: margin, y: margin, width: width - 2 * margin, height: height - 2 * margin };
        expect(pages.flatMap(p => p.cells.map(c => c.index))).toEqual(
          Array.from({ length: count }, (_, i) => i),
        );
        expect(pages.length).toBeGreaterThan(0);
        pages.forEach(({ cells }, page) => {
          const boxes = cells.flatMap(c => [c.picture, c.caption]);
          for (const box of boxes) {
            within(box, inner);
            expect(box.width).toBeGreaterThan(0);
            if (page === 0) expect(apart(box, title)).toBe(true);
          }
          boxes.forEach((a, i) => boxes.slice(i + 1).forEach(b => expect(apart(a, b)).toBe(true)));
        });
      }),
      { numRuns: 60 },
    );
  });

  it('is as large as its paper', () => {
    const how = { paper: 'a4', margin: 10, columns: 3, caption: 20, title: 40, shape: 1.5 } as const;
    const upright = layOutSheet(12, { ...how, lying: false });
    expect([upright.width, upright.height].map(Math.round)).toEqual([595, 842]);
    const lying = layOutSheet(12, { ...how, lying: true });
    expect([lying.width, lying.height].map(Math.round)).toEqual([842, 595]);
  });

  it('shows a picture whole, as large as fits', () => {
    const side = fc.double({ min: 1, max: 500, noNaN: true });
    fc.assert(
      fc.property(side, side, side, side, (width, height, w, h) => {
        const box = { x: 3, y: 5, width, height };
        const place = fitted(box, { width: w, height: h });
        within(place, box);
        expect(place.width / place.height).toBeCloseTo(w / h, 4);
        expect(Math.min(Math.abs(place.width - width), Math.abs(place.height - height))).toBeLessThan(1e-6);
      }),
    );
  });
});
