import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { movesBetween, type Moves } from '../core/analysis/moved';
import { readPicture, type Pixels } from '../core/analysis/reading';
import { bandInWords, movesInWords, pictureInWords, placeInWords, thingInWords } from './picture-told';

/** A picture from a function of place (fractions) that gives codes. */
function painted(
  at: (x: number, y: number) => readonly [number, number, number],
  width = 60,
  height = 40,
): Pixels {
  const codes = new Uint8Array(width * height * 3);
  for (let p = 0; p < width * height; p++) {
    codes.set(at(((p % width) + 0.5) / width, (Math.floor(p / width) + 0.5) / height), p * 3);
  }
  return { codes, width, height };
}
const grey = (v: number) => [v, v, v] as const;

describe('a picture in words', () => {
  it('names its tones by their share and place', () => {
    const sky = painted((_, y) => grey(y < 0.34 ? 230 : y < 0.8 ? 120 : 30));
    const reading = readPicture(sky, sky);
    expect(bandInWords('lights', reading)).toBe(
      'the lights (a third of the picture, mostly in the upper half)',
    );
    expect(bandInWords('darks', reading)).toBe(
      'the darks (a fifth of the picture, mostly in the lower half)',
    );
    expect(pictureInWords(reading)).toMatch(
      /^Middle tones \(half.*\), lights \(a third.*\) and darks \(a fifth.*\)\.$/,
    );
    expect(pictureInWords(reading)).not.toContain('Coloured');
  });

  it('names a thing by its colour and place, wherever it lies', () => {
    fc.assert(
      fc.property(fc.constantFrom(0.15, 0.85), fc.constantFrom(0.15, 0.85), (cx, cy) => {
        const of = painted((x, y) => (Math.hypot(x - cx, y - cy) < 0.13 ? [200, 40, 40] : grey(110)));
        const reading = readPicture(of, of);
        const place = `${cy < 0.5 ? 'upper' : 'lower'} ${cx < 0.5 ? 'left' : 'right'}`;
        expect(thingInWords(reading)).toBe(`the red in the ${place}`);
        expect(pictureInWords(reading)).toContain(`Coloured: red in the ${place}.`);
        const { centre, holds } = reading.things[0].blob!;
        expect(Math.hypot(centre[0] - cx, centre[1] - cy)).toBeLessThan(0.05);
        expect(holds).toBeGreaterThan(0.95);
      }),
    );
  });

  it('has words for every place', () => {
    for (const across of ['left', 'middle', 'right', null] as const) {
      for (const down of ['upper', 'middle', 'lower', null] as const) {
        expect(placeInWords({ across, down })).toMatch(
          /^(in the|on the) (upper|lower|middle|left|right)( half| left| right)?$/,
        );
      }
    }
  });

  it('reads any picture, and its shares make one', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 9 }),
        fc.infiniteStream(fc.nat(255)),
        (width, height, stream) => {
          const codes = Uint8Array.from({ length: width * height * 3 }, () => stream.next().value as number);
          const of = { codes, width, height };
          const { tones, low, middle, high, black, white } = readPicture(of, of);
          expect(tones.darks.share + tones.middles.share + tones.lights.share).toBeCloseTo(1, 9);
          expect(low).toBeLessThanOrEqual(middle);
          expect(middle).toBeLessThanOrEqual(high);
          expect(black + white).toBeLessThanOrEqual(1);
        },
      ),
    );
  });
});

describe('how a picture moved', () => {
  const flat = (rgb: readonly [number, number, number]) => painted(() => rgb, 8, 8).codes;

  it('is told by bands', () => {
    expect(movesBetween(flat([120, 120, 120]), flat([130, 120, 105]))).toEqual({
      darks: [],
      middles: ['warmer', 'more coloured'],
      lights: [],
    });
    expect(movesBetween(flat([30, 30, 30]), flat([50, 50, 50])).darks).toEqual(['lighter']);
    expect(movesBetween(flat([220, 200, 170]), flat([202, 202, 202])).lights).toEqual(
      expect.arrayContaining(['cooler', 'greyer']),
    );
  });

  it('of a picture to itself is nothing, and there and back is the opposite', () => {
    const codes = fc
      .uint8Array({ minLength: 30, maxLength: 90 })
      .map(a => a.subarray(0, a.length - (a.length % 3)));
    fc.assert(
      fc.property(codes, of => {
        expect(movesInWords(movesBetween(of, of))).toBe('As it was, to the eye.');
      }),
    );
  });

  it.each<[Moves, string]>([
    [
      { darks: [], middles: ['warmer'], lights: ['warmer', 'more coloured'] },
      'Lights and middle tones warmer; darks as they were.',
    ],
    [
      { darks: ['darker'], middles: ['greyer'], lights: ['lighter', 'cooler'] },
      'Lights lighter and cooler; middle tones greyer; darks darker.',
    ],
    [{ darks: [], middles: [], lights: [] }, 'As it was, to the eye.'],
  ])('%o is %s', (moves, told) => {
    expect(movesInWords(moves)).toBe(told);
  });
});
