import { describe, expect, it } from 'vitest';
import { read } from '../../../core/testing/pictures';
import { stepKinds } from '../../../core/steps';
import { hues, ramp, toneLines } from './sampled';

const stepOf = (kind: string, settings: object = {}) => read([{ kind, settings }]).steps[0];

describe('what a tray is drawn from', () => {
  it('is the step’s own function: the ends of a gradient map, a curve through its points, greys of a conversion', () => {
    const map = ramp(
      stepOf('gradient-map', {
        stops: [
          { at: 0, colour: '#201008' },
          { at: 1, colour: '#f0e0c0' },
        ],
      }),
      9,
    );
    expect([map[0], map[8]]).toEqual(['#201008', '#f0e0c0']);
    const [{ paint, tones }] = toneLines(
      stepOf('curve', {
        points: {
          all: [
            [0, 0.1],
            [0.5, 0.4],
            [1, 0.9],
          ],
        },
      }),
      3,
    );
    expect(paint).toBeNull();
    expect(tones.map(t => Number(t.toFixed(2)))).toEqual([0.1, 0.4, 0.9]);
    const parted = toneLines(
      stepOf('curve', {
        points: {
          red: [
            [0, 0.2],
            [1, 1],
          ],
        },
      }),
      5,
    );
    expect(parted).toHaveLength(3);
    expect(parted[0].tones[0]).toBeGreaterThan(parted[2].tones[0]);
    for (const { after } of hues(stepOf('mono'))) expect(after.slice(1, 3)).toBe(after.slice(3, 5));
    const skies = hues(stepOf('mono', { method: 'response', response: { blue: -1 } }));
    const plain = hues(stepOf('mono', { method: 'response' }));
    const dark = (of: typeof skies) => of.map(h => parseInt(h.after.slice(1, 3), 16));
    expect(Math.min(...dark(skies))).toBeLessThan(Math.min(...dark(plain)));
  });

  it('is there for every kind, as colours that can be painted', () => {
    for (const { kind } of stepKinds) {
      const step = stepOf(kind);
      for (const paint of [...ramp(step, 12), ...hues(step).flatMap(h => [h.before, h.after])]) {
        expect(paint).toMatch(/^#[0-9a-f]{6}$/);
      }
    }
  });
});
