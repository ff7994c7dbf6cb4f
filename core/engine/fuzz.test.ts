import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readCube } from '../formats/cube';
import { anyTreatment } from '../testing/arbitraries';
import { picture, rendered, treatedNumbers } from '../testing/pictures';
import { TreatmentError, type Treatment } from '../treatment/treatment';
import { parseTreatment } from '../treatment/schema';

/** Random valid treatments on random small pictures. */

const size = fc.tuple(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 40 }));
const runs = { numRuns: 60 };

describe('any treatment', () => {
  it('renders without throwing; tiled is whole to the last bit', () => {
    fc.assert(
      fc.property(
        anyTreatment(),
        size,
        fc.boolean(),
        fc.integer({ min: 3, max: 17 }),
        (t, [w, h], grey, tile) => {
          const source = picture(w, h, grey);
          const whole = rendered(t, source, { grey, pixels: w * h });
          for (let y = 0; y < whole.height; y += tile) {
            for (let x = 0; x < whole.width; x += tile) {
              const part = {
                x,
                y,
                width: Math.min(tile, whole.width - x),
                height: Math.min(tile, whole.height - y),
              };
              const { codes } = rendered(t, source, { grey, part, pixels: w * h });
              for (let row = 0; row < part.height; row++) {
                const from = ((y + row) * whole.width + x) * 3;
                expect(codes.subarray(row * part.width * 3, (row + 1) * part.width * 3)).toEqual(
                  whole.codes.subarray(from, from + part.width * 3),
                );
              }
            }
          }
        },
      ),
      runs,
    );
  }, 180_000);

  it('gives numbers, and nothing that is not one', () => {
    fc.assert(
      fc.property(anyTreatment(), size, fc.boolean(), fc.boolean(), (t, [w, h], grey, baked) => {
        const numbers = treatedNumbers(t, picture(w, h, grey), { grey, pixels: baked ? w * h : 1 });
        expect(numbers.every(Number.isFinite)).toBe(true);
      }),
      runs,
    );
  }, 120_000);

  it('with baked tables too: tiled is whole', () => {
    const kinds = ['light', 'mono', 'split-tone', 'wash', 'local-contrast', 'curve', 'sharpen'];
    fc.assert(
      fc.property(anyTreatment({ kinds, most: 3, frame: false }), t => {
        const source = picture(33, 21);
        const whole = rendered(t, source);
        const part = { x: 7, y: 5, width: 15, height: 11 };
        const { codes } = rendered(t, source, { part });
        for (let row = 0; row < part.height; row++) {
          const from = ((part.y + row) * 33 + part.x) * 3;
          expect(codes.subarray(row * 45, (row + 1) * 45)).toEqual(whole.codes.subarray(from, from + 45));
        }
      }),
      { numRuns: 12 },
    );
  }, 180_000);

  it('strength 0 and off are the bare picture in its frame', () => {
    const shut = (t: Treatment, how: object): Treatment => ({
      ...t,
      steps: t.steps.map(s => ({ ...s, ...how })),
    });
    fc.assert(
      fc.property(anyTreatment(), size, (t, [w, h]) => {
        const source = picture(w, h);
        const bare = rendered({ ...t, steps: [] }, source, { pixels: 1 }).codes;
        for (const none of [{ ...t, strength: 0 }, shut(t, { enabled: false }), shut(t, { strength: 0 })]) {
          expect(rendered(none, source, { pixels: 1 }).codes).toEqual(bare);
        }
      }),
      runs,
    );
  }, 120_000);

  it('reads back from its JSON as it was', () => {
    fc.assert(
      fc.property(anyTreatment(), t => {
        expect(parseTreatment(JSON.parse(JSON.stringify(t)))).toEqual(t);
      }),
      { numRuns: 200 },
    );
  });
});

describe('readers on anything', () => {
  it('a treatment is an error or a value', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.jsonValue(), fc.jsonValue(), (steps, masks, tables) => {
        const outer = { format: 'lampwash-treatment', version: 1 };
        for (const json of [steps, { ...outer, steps }, { ...outer, masks }, { ...outer, tables }]) {
          try {
            parseTreatment(json);
          } catch (error) {
            expect(error).toBeInstanceOf(TreatmentError);
          }
        }
      }),
      { numRuns: 300 },
    );
  });

  it('a table with a number beyond single precision is refused by its line', () => {
    expect(() => readCube('LUT_1D_SIZE 2\n0 0 0\n1e200 1 1\n')).toThrow(/line 3: not a number/);
    expect(() => readCube(`LUT_1D_SIZE 2\n${'0 '.repeat(3000)}`)).toThrow(/line 2: longer than 4096/);
  });

  it('a table is an error or a value, whatever the bytes', () => {
    const lines = fc.array(
      fc.oneof(
        fc.constantFrom(
          'LUT_3D_SIZE 2',
          'LUT_1D_SIZE 3',
          'LUT_3D_SIZE 999999',
          'DOMAIN_MAX 1 1',
          'TITLE "',
          '#',
        ),
        fc.string({ maxLength: 30 }),
        fc.tuple(fc.double(), fc.double(), fc.double()).map(v => v.join(' ')),
      ),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(
        fc.oneof(
          lines.map(l => l.join('\n')),
          fc.string({ maxLength: 400, unit: 'binary' }),
        ),
        text => {
          try {
            const { values } = readCube(text);
            expect(values.every(Number.isFinite)).toBe(true);
          } catch (error) {
            expect((error as Error).name).toBe('CubeError');
          }
        },
      ),
      { numRuns: 500 },
    );
  });
});
