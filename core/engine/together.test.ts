import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { unit } from '../testing/arbitraries';
import { paint, picture, read, treatedNumbers } from '../testing/pictures';
import { cubeOf } from './cube';
import { createPlanner } from './plan';

/** Steps that are laid on together in part: what they make, against what lies beneath the first of them. */

const curve = (black: number) => ({
  kind: 'curve',
  settings: {
    points: {
      all: [
        [0, black],
        [1, 1],
      ],
    },
  },
});
const before = [{ kind: 'light', settings: { exposure: 0.3 } }, { kind: 'mono' }];
const after = [{ kind: 'levels', stage: 'finish', settings: { gamma: 1.2 } }];
const kinds: [string, object[]][] = [
  ['points', [curve(0.1), { kind: 'split-tone', settings: { shadows: { hue: 220, saturation: 0.6 } } }]],
  [
    'what looks at neighbours',
    [curve(0.05), { kind: 'local-contrast', stage: 'tone', settings: { medium: 0.8 } }],
  ],
  [
    'steps of several stages',
    [
      curve(0.2),
      { kind: 'wash', settings: { pigment: { kind: 'flat', colour: '#8c3f2c' } } },
      { kind: 'grain', settings: { amount: 0.5 } },
    ],
  ],
  ['a step with a mask', [curve(0.1), { kind: 'tint', mask: 'm', settings: { hue: 30, saturation: 0.6 } }]],
];
const masks = [{ id: 'm', parts: [{ kind: 'oval', radii: [0.3, 0.2], feather: 0.3 }] }];
const inGroup = (steps: object[]) => steps.map(s => ({ ...s, group: 'g' }));
const source = picture(60, 40);

const numbers = (steps: object[], strength?: number) =>
  treatedNumbers(
    read(steps, { masks, ...(strength !== undefined && { groups: [{ id: 'g', name: 'G', strength }] }) }),
    source,
    { pixels: 100 },
  );

describe('a group in part', () => {
  it.each(kinds)('of %s: the share of what it makes of what lies beneath', (_, steps) => {
    const beneath = numbers(before);
    const whole = numbers([...before, ...steps]);
    fc.assert(
      fc.property(unit, strength => {
        const part = numbers([...before, ...inGroup(steps)], strength);
        for (let i = 0; i < part.length; i += 7) {
          expect(Math.abs(part[i] - (beneath[i] + strength * (whole[i] - beneath[i])))).toBeLessThan(2e-5);
        }
      }),
      { numRuns: 6 },
    );
  });

  it.each(kinds)('of %s: at 1 as without, at 0 as if it were not there', (_, steps) => {
    const same = (a: Float32Array, b: Float32Array) =>
      a.forEach((v, i) => i % 5 || expect(Math.abs(v - b[i])).toBeLessThan(1e-6));
    same(numbers([...before, ...inGroup(steps), ...after], 1), numbers([...before, ...steps, ...after]));
    same(numbers([...before, ...inGroup(steps), ...after], 0), numbers([...before, ...after]));
  });

  it('lets the colour of the photograph through a conversion that stands in it', () => {
    const coloured = paint(20, 10, () => [0.7, 0.3, 0.2]);
    const t = read(
      [
        { kind: 'mono', group: 'g' },
        { ...curve(0.1), group: 'g' },
      ],
      {
        groups: [{ id: 'g', name: 'G', strength: 0.5 }],
      },
    );
    const [r, g] = treatedNumbers(t, coloured);
    expect(r).toBeGreaterThan(g + 0.15);
  });

  it('is baked where each of its steps sees colours alone, goes out as a colour table, and has a key of its own', () => {
    const t = (strength: number) =>
      read([...before, ...inGroup(kinds[0][1])], { groups: [{ id: 'g', name: 'G', strength }] });
    const plan = (strength: number) => createPlanner()(t(strength), { grey: false, pixels: 1e9 });
    expect(plan(0.5).passes.every(p => p.kind === 'points')).toBe(true);
    expect(plan(0.5).key).not.toBe(plan(0.6).key);
    const cube = (strength: number) => cubeOf(t(strength), 5).values;
    const [none, half, whole] = [cube(0), cube(0.5), cube(1)];
    half.forEach((v, i) => expect(Math.abs(v - (none[i] + whole[i]) / 2)).toBeLessThan(1e-3));
  });

  it('changed alone, starts from what its steps made', () => {
    const steps = [...before, ...inGroup(kinds[1][1]), ...after];
    const plan = (strength: number) =>
      createPlanner()(read(steps, { groups: [{ id: 'g', name: 'G', strength }] }), {
        grey: false,
        pixels: 100,
      });
    const [one, other] = [plan(0.3), plan(0.7)].map(p => p.passes.map(q => q.key));
    const changed = one.findIndex((key, i) => key !== other[i]);
    expect(changed).toBe(one.findIndex(key => key.startsWith('close')));
  });
});
