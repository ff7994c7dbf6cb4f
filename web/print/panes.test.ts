import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { halvesOf, isHungDown, panesOf, seenOf } from './panes';

const side = fc.integer({ min: 40, max: 4000 });
const size = fc.record({ width: side, height: side });

describe('two pictures on one wall', () => {
  it('hang beside one another in equal rooms that never meet and leave a strip of wall', () => {
    fc.assert(
      fc.property(size, fc.boolean(), (wall, down) => {
        const [first, second] = panesOf(wall, 'side', down);
        expect([second.width, second.height]).toEqual([first.width, first.height]);
        const gap = down ? second.y - first.height : second.x - first.width;
        expect(gap).toBeGreaterThanOrEqual(6);
        expect(gap).toBeLessThanOrEqual(7);
        expect([second.x + second.width, second.y + second.height]).toEqual([wall.width, wall.height]);
      }),
    );
  });

  it('hang the way in which they are larger', () => {
    expect(isHungDown({ width: 3000, height: 1000 }, { width: 900, height: 600 }, 20)).toBe(true);
    expect(isHungDown({ width: 1000, height: 3000 }, { width: 900, height: 600 }, 20)).toBe(false);
    expect(isHungDown({ width: 1500, height: 1000 }, { width: 1800, height: 600 }, 20)).toBe(false);
  });

  it('are parted by a line that leaves no pixel to both or to none', () => {
    const shares = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(size, size, shares, fc.boolean(), (pane, picture, line, down) => {
        const x = Math.round((pane.width - picture.width) / 2);
        const y = Math.round((pane.height - picture.height) / 2);
        const seen = seenOf({ x, y, ...picture }, pane);
        const { at, halves } = halvesOf(pane, seen, line, down);
        const area = halves.reduce((sum, h) => sum + h.width * h.height, 0);
        expect(area).toBe(pane.width * pane.height);
        const [from, length] = down ? [seen.y, seen.height] : [seen.x, seen.width];
        expect(at).toBeGreaterThanOrEqual(from);
        expect(at).toBeLessThanOrEqual(from + length);
        expect(seen.x + seen.width).toBeLessThanOrEqual(pane.width);
        expect(seen.y + seen.height).toBeLessThanOrEqual(pane.height);
      }),
    );
  });
});
