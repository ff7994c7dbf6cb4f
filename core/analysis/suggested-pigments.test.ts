import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { starterBox } from '../colour/pigments';
import { paletteOf } from '../treatment/palette';
import { addWash } from '../treatment/tinting';
import { addArea, addStroke } from '../treatment/areas';
import { bareTreatment } from '../treatment/treatment';
import { changeStep } from '../treatment/edit';
import { areaTones, type AreaTones } from './area-tones';
import { matterOf, suggestPigments } from './suggested-pigments';

const named = (name: string) => starterBox.find(p => p.name === name)!;
const tones = fc
  .tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }))
  .map(([a, b]): AreaTones['tones'] => [Math.min(a, b), (a + b) / 2, Math.max(a, b)]);
const colour = fc.option(
  fc.tuple(fc.double({ min: -0.2, max: 0.2, noNaN: true }), fc.double({ min: -0.2, max: 0.2, noNaN: true })),
);
const seen = fc.option(fc.record({ tones, colour }));

describe('what a thing is made of', () => {
  it('is told by its name, the last word first', () => {
    expect(matterOf('Skin, fair')).toBe('skin');
    expect(matterOf('The keeper’s hands')).toBe('skin');
    expect(matterOf('Stove pipe')).toBe('metal');
    expect(matterOf('Reeds by the wall')).toBe('stone');
    expect(matterOf('Area 3')).toBeNull();
    expect(matterOf('')).toBeNull();
  });
});

describe('pigments that are suggested', () => {
  it('are six, each once, and of the box', () => {
    fc.assert(
      fc.property(fc.array(fc.string(), { maxLength: 2 }), seen, (names, looked) => {
        const made = suggestPigments(starterBox, [], names, looked);
        expect(made.length).toBe(6);
        expect(new Set(made.map(p => p.name)).size).toBe(made.length);
        for (const each of made) expect(starterBox).toContainEqual(each);
      }),
    );
  });

  it('take a name that is only that of the pigment laid on it as a hint', () => {
    const looked = { tones: [0.4, 0.5, 0.6] as AreaTones['tones'], colour: [0.01, 0.12] as [number, number] };
    expect(suggestPigments(starterBox, [], ['Skin, fair 2'], looked).map(p => p.name)).toContain('Quince');
    expect(suggestPigments(starterBox, [], ['Her skin'], { ...looked, colour: null })[0].name).toMatch(
      /Skin/,
    );
  });

  it('begin with what the photographer named', () => {
    const given = {
      skin: 'Her face',
      foliage: 'Reeds',
      sky: 'Sky over the shore',
      wood: 'Boat',
      cloth: 'Shawl',
    };
    const more = { metal: 'Stove', stone: 'Wall', water: 'Sea' };
    fc.assert(
      fc.property(tones, of => {
        for (const [matter, name] of Object.entries({ ...given, ...more })) {
          const [first] = suggestPigments(starterBox, [], [name], { tones: of, colour: null });
          expect(matterOf(first.name) ?? first.name).toBe(matter);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('go with the tones: dark hair for the dark, fair hair for the light', () => {
    const first = (tone: number) =>
      suggestPigments(starterBox, [], ['Hair'], { tones: [tone - 0.05, tone, tone + 0.05], colour: null })[0]
        .name;
    expect(first(0.15)).toBe('Hair, dark');
    expect(first(0.75)).toBe('Hair, fair');
  });

  it('go with the colour that the photograph itself has there', () => {
    const of = (a: number, b: number) =>
      suggestPigments(starterBox, [], ['Area 1'], { tones: [0.4, 0.5, 0.6], colour: [a, b] }).map(
        p => p.name,
      );
    expect(of(0.01, 0.12)).toContain('Quince');
    expect(of(-0.03, -0.06)).toContain('Ferry blue');
    expect(of(0.14, 0.08)).toContain('Oxide');
    expect(of(-0.06, 0.08)[0]).toBe('Foliage');
  });

  it('put first what the series lays on a thing of the same name', () => {
    const oxide = named('Oxide');
    const used = [{ ...oxide, name: 'Oxide', areas: ['Hull'], photographs: 3 }];
    fc.assert(
      fc.property(seen, looked => {
        const [first] = suggestPigments(starterBox, used, ['hull '], looked);
        expect(first.name).toBe('Oxide');
      }),
    );
  });
});

describe('the palette of a series', () => {
  it('counts photographs, names areas once, and leaves out what is switched off', () => {
    const washed = (area: string, pigment: string) => {
      const made = addArea(bareTreatment(), area);
      const stroke = {
        points: [[0.5, 0.5, 1] as [number, number, number]],
        radius: 0.1,
        hardness: 1,
        flow: 1,
        erase: false,
        keepEdges: 0,
      };
      return addWash(addStroke(made.treatment, made.area, stroke), named(pigment), made.area);
    };
    const one = washed('Hull', 'Oxide');
    const two = addWash(one.treatment, named('Oxide'), one.treatment.masks[0].id);
    const off = washed('Sky', 'Sky');
    const palette = paletteOf([
      two.treatment,
      washed('Boat', 'Oxide').treatment,
      washed('Strake', 'Ferry blue').treatment,
      changeStep(off.treatment, off.step, { enabled: false }),
    ]);
    expect(palette).toEqual([
      { pigment: named('Oxide').pigment, depth: 0.4, areas: ['Hull', 'Boat'], photographs: 2 },
      { pigment: named('Ferry blue').pigment, depth: 0.4, areas: ['Strake'], photographs: 1 },
    ]);
  });
});

describe('the tones of an area', () => {
  const rgba = (values: readonly (readonly number[])[]) =>
    Uint8ClampedArray.from(values.flatMap(v => [...v, 255]));
  it('are of what it covers alone', () => {
    const count = 100;
    const cover = rgba(Array.from({ length: count }, (_, i) => (i < 40 ? [255, 255, 255] : [0, 0, 0])));
    const beneath = rgba(
      Array.from({ length: count }, (_, i) => Array<number>(3).fill(i < 40 ? 3 * i : 250)),
    );
    const bare = rgba(Array.from({ length: count }, (_, i) => (i < 40 ? [200, 40, 30] : [0, 0, 255])));
    const made = areaTones(cover, beneath, bare, false)!;
    expect(made.tones[1]).toBeCloseTo(57 / 255, 2);
    expect(made.tones[0]).toBeCloseTo(27 / 255, 2);
    expect(made.colour![0]).toBeGreaterThan(0.1);
    expect(areaTones(cover, beneath, bare, true)!.colour).toBeNull();
    expect(areaTones(new Uint8ClampedArray(400), beneath, bare, false)).toBeNull();
  });
});
