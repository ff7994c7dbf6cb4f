import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { geometryOf } from '../frame/geometry';
import { anyTreatment } from '../testing/arbitraries';
import { picture, read, rendered } from '../testing/pictures';
import type { Treatment } from '../treatment/treatment';
import { changedArea } from './changes';
import { createPlanner } from './plan';

const source = picture(64, 48);
const planFor = (treatment: Treatment) => createPlanner()(treatment, { grey: false, pixels: 1 });
const areaOf = (before: Treatment, after: Treatment) =>
  changedArea(planFor(before), planFor(after), geometryOf(source, before.frame));

/** A treatment with one thing about it changed. */
const changes: ((t: Treatment, which: number) => Treatment)[] = [
  (t, which) => ({
    ...t,
    steps: t.steps.map((s, i) =>
      i === which % t.steps.length ? { ...s, strength: 1 - 0.9 * s.strength } : s,
    ),
  }),
  (t, which) => ({ ...t, steps: t.steps.filter((_, i) => i !== which % t.steps.length) }),
  (t, which) => ({
    ...t,
    masks: t.masks.map((m, i) =>
      i === which % t.masks.length ? { ...m, feather: m.feather / 2 + 0.01 } : m,
    ),
  }),
  (t, which) => ({
    ...t,
    masks: t.masks.map((m, i) => (i === which % t.masks.length ? { ...m, parts: m.parts.slice(1) } : m)),
  }),
  (t, which) => ({
    ...t,
    groups: t.groups.map((g, i) => (i === which % t.groups.length ? { ...g, strength: 0.4 } : g)),
  }),
];

describe('what a change touches', () => {
  it('holds all pixels that come out otherwise', () => {
    fc.assert(
      fc.property(anyTreatment(), fc.nat(20), fc.nat(changes.length - 1), (before, which, how) => {
        if (!before.steps.length) return;
        const after = changes[how](before, which);
        const area = areaOf(before, after);
        const a = rendered(before, source, { pixels: 1 });
        const b = rendered(after, source, { pixels: 1 });
        for (let i = 0; i < a.codes.length; i++) {
          if (a.codes[i] === b.codes[i]) continue;
          const pixel = Math.floor(i / 3);
          const x = pixel % a.width;
          const y = Math.floor(pixel / a.width);
          const isInside =
            area !== null &&
            x >= area.x &&
            y >= area.y &&
            x < area.x + area.width &&
            y < area.y + area.height;
          expect(isInside).toBe(true);
        }
      }),
      { numRuns: 150 },
    );
  }, 60_000);

  const oval = (centre: [number, number]) => ({
    id: 'm',
    parts: [{ kind: 'oval', centre, radii: [0.1, 0.1], feather: 0.5 }],
  });
  const washed = (strength: number, more: object[] = [], centre: [number, number] = [0.25, 0.25]) =>
    read([{ kind: 'mono' }, { id: 'w', kind: 'wash', mask: 'm', strength }, ...more], {
      masks: [oval(centre)],
    });

  it('of a step on an area is that area, and more where a later step looks at its neighbours', () => {
    const near = areaOf(washed(0.4), washed(0.6))!;
    expect(near.width * near.height).toBeLessThan((64 * 48) / 3);
    const wide = areaOf(
      washed(0.4, [{ kind: 'sharpen', settings: { amount: 1, radius: 0.002 } }]),
      washed(0.6, [{ kind: 'sharpen', settings: { amount: 1, radius: 0.002 } }]),
    )!;
    expect(wide.width).toBeGreaterThan(near.width);
    expect(wide.width).toBeLessThan(64);
  });

  it('of an area that is moved is where it was and where it comes to lie', () => {
    const area = areaOf(washed(0.5), washed(0.5, [], [0.75, 0.25]))!;
    expect(area.x).toBeLessThan(16);
    expect(area.x + area.width).toBeGreaterThan(48);
  });

  it('is all where a later step looks at the whole picture, and nothing where nothing changed', () => {
    const later = [{ kind: 'local-contrast', settings: { coarse: 0.5 } }];
    expect(areaOf(washed(0.4, later), washed(0.6, later))).toEqual({ x: 0, y: 0, width: 64, height: 48 });
    expect(areaOf(washed(0.4), washed(0.4))).toBeNull();
  });
});
