import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { drawSoon } from './draw-soon';

beforeEach(() => void vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] }));
afterEach(() => void vi.useRealTimers());

it('draws the first at once, those that come close upon it together, in their order, and none twice', () => {
  vi.advanceTimersByTime(10_000);
  const drawn: number[] = [];
  const times: number[] = [];
  const draw = (n: number) =>
    drawSoon(() => {
      drawn.push(n);
      times.push(performance.now());
    });
  const began = performance.now();
  draw(0);
  vi.advanceTimersByTime(0);
  expect(drawn).toEqual([0]);
  for (let n = 1; n <= 30; n++) {
    draw(n);
    vi.advanceTimersByTime(9);
  }
  vi.advanceTimersByTime(1000);
  expect(drawn).toEqual(Array.from({ length: 31 }, (_, i) => i));
  // Thirty that come within 270 ms are drawn in four or five goes.
  const goes = new Set(times.map(t => t - began));
  expect(goes.size).toBeLessThanOrEqual(5);
  expect(Math.max(...goes)).toBeLessThan(400);
  vi.advanceTimersByTime(1000);
  draw(31);
  vi.advanceTimersByTime(0);
  expect(drawn.at(-1)).toBe(31);
});
