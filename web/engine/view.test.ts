import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { asPhotographed } from '../../core/frame/crop';
import { framedSizeAt, sizeAt } from '../../core/frame/geometry';
import { fitScale, LARGEST, panBy, place, printOf, zoomAt, type View } from './view';

const size = (least: number, most: number) =>
  fc.record({ width: fc.integer({ min: least, max: most }), height: fc.integer({ min: least, max: most }) });
const picture = size(20, 12_000).map(p => printOf(p, asPhotographed));
const viewport = size(200, 3000);
const fraction = fc.double({ min: 0, max: 1, noNaN: true });
const free = fc.record({
  mode: fc.constant('free' as const),
  scale: fc.double({ min: 0.01, max: LARGEST, noNaN: true }),
  x: fraction,
  y: fraction,
});
const anyView: fc.Arbitrary<View> = fc.oneof(fc.constant({ mode: 'fit' as const }), free);
const MARGIN = 20;

describe('placing a picture', () => {
  it('a fitted one lies whole inside the margin, centred, at the pixels that the server gives', () => {
    fc.assert(
      fc.property(picture, viewport, (p, v) => {
        const at = place(p, v, { mode: 'fit' }, MARGIN);
        if (Math.max(p.width, p.height) * fitScale(p, v, MARGIN) >= 16) {
          expect(at.width).toBeLessThanOrEqual(v.width - 2 * MARGIN + 1);
          expect(at.height).toBeLessThanOrEqual(v.height - 2 * MARGIN + 1);
        }
        expect(Math.abs(at.x + at.width / 2 - v.width / 2)).toBeLessThanOrEqual(1);
        expect(sizeAt(p, at.longEdge)).toEqual({ width: at.width, height: at.height });
        expect(at.scale).toBeLessThanOrEqual(1);
      }),
    );
  });

  it('a cropped one is fitted at the size that it is rendered at', () => {
    const share = fc.double({ min: 0.2, max: 0.5, noNaN: true });
    fc.assert(
      fc.property(size(400, 12_000), viewport, share, share, (photograph, v, x, width) => {
        const frame = { ...asPhotographed, crop: { x, y: 0.13, width, height: 0.61 } };
        const at = place(printOf(photograph, frame), v, { mode: 'fit' }, MARGIN);
        const { width: wide, height: high } = framedSizeAt(photograph, frame, at.longEdge);
        expect([at.width, at.height]).toEqual([wide, high]);
      }),
    );
  });

  it('a free one leaves no gap where it is larger than the wall, and has pixels enough', () => {
    fc.assert(
      fc.property(picture, viewport, free, (p, v, view) => {
        const at = place(p, v, view, MARGIN);
        if (at.width + 2 * MARGIN > v.width) {
          expect(at.x).toBeLessThanOrEqual(MARGIN + 1);
          expect(at.x + at.width).toBeGreaterThanOrEqual(v.width - MARGIN - 1);
        }
        const wanted = Math.max(p.width, p.height) * Math.min(1, view.scale);
        expect(at.longEdge).toBeGreaterThanOrEqual(Math.floor(wanted));
        expect(at.longEdge).toBeLessThanOrEqual(Math.max(16, Math.max(p.width, p.height)));
      }),
    );
  });

  it('zooming keeps the point under the pointer, away from the edges', () => {
    const p = printOf({ width: 6000, height: 4000 }, asPhotographed);
    const v = { width: 1000, height: 800 };
    fc.assert(
      fc.property(
        fc.double({ min: 0.4, max: 0.6, noNaN: true }),
        fc.double({ min: 0.6, max: 4, noNaN: true }),
        (u, scale) => {
          const view: View = { mode: 'free', scale: 0.5, x: 0.5, y: 0.5 };
          const before = place(p, v, view, MARGIN);
          const point = { x: v.width * u, y: v.height * u };
          const under = (point.x - before.x) / before.width;
          const after = place(p, v, zoomAt(p, v, view, MARGIN, scale, point), MARGIN);
          expect(Math.abs((point.x - after.x) / after.width - under) * after.width).toBeLessThan(2);
        },
      ),
    );
  });

  it('zooming out to the fit is the fit, and in is never beyond the largest', () => {
    fc.assert(
      fc.property(picture, viewport, anyView, (p, v, view) => {
        const middle = { x: v.width / 2, y: v.height / 2 };
        expect(zoomAt(p, v, view, MARGIN, 1e-6, middle)).toEqual({ mode: 'fit' });
        const near = zoomAt(p, v, view, MARGIN, 1e6, middle);
        expect(near.mode === 'fit' || near.scale <= LARGEST).toBe(true);
      }),
    );
  });

  it('moving there and back is where it was, and a fitted picture does not move', () => {
    const p = printOf({ width: 6000, height: 4000 }, asPhotographed);
    const v = { width: 1000, height: 800 };
    const view: View = { mode: 'free', scale: 1, x: 0.5, y: 0.5 };
    fc.assert(
      fc.property(fc.integer({ min: -400, max: 400 }), fc.integer({ min: -400, max: 400 }), (dx, dy) => {
        const there = panBy(p, v, view, MARGIN, dx, dy);
        const at = place(p, v, there, MARGIN);
        const from = place(p, v, view, MARGIN);
        expect([at.x - from.x, at.y - from.y]).toEqual([dx, dy]);
        expect(place(p, v, panBy(p, v, there, MARGIN, -dx, -dy), MARGIN)).toEqual(from);
      }),
    );
    expect(panBy(p, v, { mode: 'fit' }, MARGIN, 50, 50)).toEqual({ mode: 'fit' });
  });
});
