import { describe, expect, it } from 'vitest';
import type { Evenness, Fall, Measures, Placed } from '../../core/analysis/evenness';
import { evennessInWords, fallInWords, nearestToMiddle } from './evenness-words';

const measures: Measures = {
  zones: { shadows: null, middles: null, lights: null },
  black: 5,
  white: 95,
  key: 50,
  contrast: 50,
};
const placed = (falls: Fall[] = [], shadows: number | null = 1): Placed => ({
  measures,
  apart: { shadows, middles: 1, lights: 1 },
  falls,
});
const fall = (what: Fall['what'], way: Fall['way'], far: number): Fall => ({ what, way, far });
const series = (...all: (Placed | null)[]): Evenness => ({ middle: measures, placed: all });
const none = (count: number) => new Array<boolean>(count).fill(false);

describe('an even series in words', () => {
  it('says how many sit together', () => {
    expect(evennessInWords(series(placed(), placed(), placed()), none(3))).toBe(
      'Three photographs sit together.',
    );
    const many = Array.from({ length: 40 }, () => placed());
    expect(evennessInWords(series(...many), none(40))).toBe('40 photographs sit together.');
  });

  it('names who falls out and how, and who is bare', () => {
    const cold = placed([fall('shadows', 'cooler', 3)]);
    const warm = placed([fall('lights', 'warmer', 1.2)]);
    const all = series(placed(), cold, warm, null);
    expect(evennessInWords(all, [false, false, false, true])).toBe(
      'One photograph sits together. No. 2 is far cooler and no. 3 is warmer. No. 4 is still bare.',
    );
  });

  it('counts where there would be too many names', () => {
    const out = Array.from({ length: 6 }, () => placed([fall('blacks', 'lighter', 1.5)]));
    expect(evennessInWords(series(placed(), ...out), none(7))).toBe(
      'One photograph sits together. Six fall out.',
    );
  });

  it('needs three', () => {
    expect(evennessInWords({ middle: null, placed: [null, null] }, [true, false])).toBe(
      'With three treated photographs it is seen how they sit together. No. 1 is still bare.',
    );
  });

  it.each([
    [fall('shadows', 'cooler', 3), 'far cooler in the shadows'],
    [fall('blacks', 'darker', 1.1), 'blacks lifted less'],
    [fall('blacks', 'lighter', 2.1), 'blacks lifted far more'],
    [fall('whites', 'darker', 1.1), 'whites duller'],
  ])('tells a fall', (of, words) => expect(fallInWords(of)).toBe(words));
});

it('the middle one is the nearest, one with all zones first', () => {
  expect(nearestToMiddle(series(null, placed([], 5), placed([], 1), placed([], null)))).toBe(2);
  expect(nearestToMiddle(series(null))).toBe(-1);
});
