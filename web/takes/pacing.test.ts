import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Pacing } from './pacing';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe('a value that moves', () => {
  it('is told at once, and to what rests only when it rests or is set', async () => {
    const pacing = new Pacing(0);
    pacing.set(1, 'panel');
    pacing.set(2, 'panel');
    expect([pacing.state(), pacing.paced(), pacing.rested()]).toEqual([2, 2, 0]);
    await vi.advanceTimersByTimeAsync(200);
    expect(pacing.rested()).toBe(2);
    pacing.set(3, 'panel');
    pacing.set(4);
    expect(pacing.rested()).toBe(4);
  });

  it('is told to the panel ten times a second while it glides, and to all when it rests', async () => {
    const pacing = new Pacing(0);
    const shown = new Set<number>();
    for (let i = 1; i <= 30; i++) {
      await vi.advanceTimersByTimeAsync(16);
      pacing.set(i, 'paced');
      expect(pacing.state()).toBe(i);
      shown.add(pacing.paced());
    }
    expect(shown.size).toBeGreaterThanOrEqual(4);
    expect(shown.size).toBeLessThanOrEqual(7);
    expect(pacing.rested()).toBe(0);
    await vi.advanceTimersByTimeAsync(200);
    expect([pacing.paced(), pacing.rested()]).toEqual([30, 30]);
  });

  it('is shown everywhere before something acts on it', () => {
    const pacing = new Pacing(0);
    pacing.set(1, 'paced');
    pacing.set(2, 'paced');
    pacing.settle();
    expect([pacing.paced(), pacing.rested()]).toEqual([2, 2]);
  });

  it('is told to nothing but the picture while the pen is down, and to all when it is up', async () => {
    const pacing = new Pacing(0);
    let told = 0;
    pacing.subscribe(() => told++);
    pacing.pen(true);
    pacing.set(1);
    await vi.advanceTimersByTimeAsync(1000);
    pacing.settle();
    expect([pacing.state(), pacing.paced(), pacing.rested(), told]).toEqual([1, 0, 0, 1]);
    pacing.pen(false);
    await vi.advanceTimersByTimeAsync(200);
    expect([pacing.paced(), pacing.rested()]).toEqual([1, 1]);
  });
});
