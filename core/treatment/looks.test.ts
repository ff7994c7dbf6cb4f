import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyTreatment } from '../testing/arbitraries';
import { paint, read, rendered } from '../testing/pictures';
import { rgbToOklab } from '../colour/oklab';
import { layTreatment } from './laying';
import { asLookHas, looksFile, readLooks, type Look } from './looks';
import { bareTreatment } from './treatment';
import { starterLooks } from './starter-looks';

const words = fc
  .string({ minLength: 1, maxLength: 40 })
  .map(s => s.trim())
  .filter(s => s.length > 0);

describe('a file of looks', () => {
  it('reads back what was written, tables and all', () => {
    const any = fc.record<Look>({
      name: words,
      group: words,
      treatment: anyTreatment({ most: 4 }).map(asLookHas),
    });
    fc.assert(
      fc.property(fc.array(any, { minLength: 1, maxLength: 4 }), looks => {
        expect(readLooks(JSON.parse(JSON.stringify(looksFile(looks))))).toEqual(looks);
      }),
      { numRuns: 60 },
    );
  });

  it('without a group is among my looks', () => {
    const treatment = read([{ kind: 'mono' }]);
    const [look] = readLooks({ format: 'lampwash-look', version: 1, looks: [{ name: 'A', treatment }] });
    expect(look.group).toBe('My looks');
  });

  it.each([
    ['something else', {}, /^format: is undefined, not "lampwash-look"/],
    ['a treatment', bareTreatment(), /^format: is "lampwash-treatment"/],
    [
      'a newer version',
      { format: 'lampwash-look', version: 2, looks: [] },
      /^version: version 2 is not known/,
    ],
    ['none', { format: 'lampwash-look', version: 1, looks: [] }, /^looks: holds no look/],
    [
      'an empty name',
      { format: 'lampwash-look', version: 1, looks: [{ name: ' ', treatment: bareTreatment() }] },
      /^looks\[0\]\.name/,
    ],
    [
      'a wrong step',
      {
        format: 'lampwash-look',
        version: 1,
        looks: [
          { name: 'A', treatment: bareTreatment() },
          { name: 'B', treatment: { format: 'lampwash-treatment', version: 1, steps: [{ kind: 'magic' }] } },
        ],
      },
      /^looks\[1\]\.treatment\.steps\[0\]\.kind: unknown step kind "magic"/,
    ],
  ])('is refused for %s, by its place', (_, json, problem) => {
    expect(() => readLooks(json)).toThrow(problem);
  });
});

describe('the starter set', () => {
  const chart = paint(96, 64, (x, y) => {
    const grey = y < 0.3;
    const hue = (t: number) => 0.5 + 0.45 * Math.cos(2 * Math.PI * (x - t));
    return grey ? [x, x, x] : [hue(0), hue(1 / 3), hue(2 / 3)].map(v => v * (1.3 - y));
  });
  const laid = ({ treatment }: Look) =>
    layTreatment(bareTreatment(), treatment, { how: 'instead', frame: false, painted: false }).treatment;
  const labsOf = (look: Look) => {
    const { codes } = rendered(laid(look), chart, { pixels: 1 });
    return Array.from({ length: codes.length / 3 }, (_, i) => {
      const c = Float64Array.from(codes.subarray(i * 3, i * 3 + 3), v => v / 65535);
      rgbToOklab(c);
      return c;
    });
  };

  it('has names that differ, and enough of each kind', () => {
    const names = starterLooks().map(l => l.name);
    expect(new Set(names).size).toBe(names.length);
    expect(names.length).toBeGreaterThanOrEqual(24);
  });

  it.each(starterLooks().map(look => [look.name, look] as const))(
    '%s has one character: no colour of its own but its tone, tones in order, nothing folded',
    (_, look) => {
      const labs = labsOf(look);
      const isTinted = !look.treatment.steps.some(s => s.kind === 'mono');
      const most = Math.max(...labs.map(([, a, b]) => Math.hypot(a, b)));
      expect(most).toBeLessThan(isTinted ? 0.16 : 0.2);
      // Along a ramp of greys lightness never falls by more than grain and glow do.
      const still = {
        ...look.treatment,
        steps: look.treatment.steps.filter(
          s => !['grain', 'glow', 'vignette', 'local-contrast'].includes(s.kind),
        ),
      };
      const ramp = paint(256, 2, x => [x, x, x]);
      const { codes } = rendered(laid({ ...look, treatment: still }), ramp, { pixels: 1 });
      let last = -1;
      for (let x = 0; x < 256; x++) {
        const c = Float64Array.from(codes.subarray(x * 3, x * 3 + 3), v => v / 65535);
        rgbToOklab(c);
        expect(c[0]).toBeGreaterThanOrEqual(last - 1e-4);
        last = c[0];
      }
      expect(last).toBeGreaterThan(0.85);
    },
  );

  it('gives pictures that differ from one another', () => {
    const all = starterLooks().map(labsOf);
    const apart = (a: Float64Array[], b: Float64Array[]) =>
      a.reduce((sum, c, i) => sum + Math.hypot(c[0] - b[i][0], c[1] - b[i][1], c[2] - b[i][2]), 0) / a.length;
    for (let i = 0; i < all.length; i++) {
      for (let j = 0; j < i; j++) {
        const names = `${starterLooks()[i].name} and ${starterLooks()[j].name}`;
        expect(apart(all[i], all[j]), names).toBeGreaterThan(0.008);
      }
    }
  });
});
