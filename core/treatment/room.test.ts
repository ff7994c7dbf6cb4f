import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emptyMask, type Mask } from '../masks/mask';
import { addArea, addInverse, mayStandOn } from './areas';
import { noRoomFor } from './room';
import { bareTreatment, type Treatment } from './treatment';
import { parseTreatment } from './schema';

/** Masks of which each is made of those that are named by number, once for each time that one is named. */
const standing = (beneath: number[][]): Treatment => ({
  ...bareTreatment(),
  masks: beneath.map((others, i): Mask => ({
    ...emptyMask(`m${i}`, `Area ${i}`),
    parts: others.map(other => ({ kind: 'mask', op: 'add', mask: `m${other}` })),
  })),
});

const refusal = (treatment: Treatment): string | null => {
  try {
    parseTreatment(JSON.parse(JSON.stringify(treatment)));
    return null;
  } catch (error) {
    return (error as Error).message;
  }
};

/** Levels of masks, each made of all of the level beneath. */
const levels = (count: number, wide: number) =>
  standing(
    Array.from({ length: count * wide }, (_, i) =>
      i < wide ? [] : Array.from({ length: wide }, (_, k) => (Math.floor(i / wide) - 1) * wide + k),
    ),
  );

describe('areas made of areas', () => {
  it('may stand eight deep, also where each is made of the one before many times', () => {
    const twice = (count: number) =>
      standing(Array.from({ length: count }, (_, i) => (i ? [i - 1, i - 1] : [])));
    expect(refusal(twice(9))).toBeNull();
    expect(refusal(twice(10))).toBe('masks[9].parts: stands on other masks 9 deep; the most is 8');
  });

  it('are refused where the ways down to others double and double', () => {
    expect(refusal(levels(8, 2))).toBeNull();
    expect(refusal(levels(6, 5))).toMatch(/^masks\[25\]\.parts: stands on more than 1000 masks/);
  });

  it('are offered, and taken, just where they can be saved', () => {
    const ways = fc
      .array(fc.array(fc.nat(30), { maxLength: 4 }), { minLength: 2, maxLength: 25 })
      .map(beneath => beneath.map((others, i) => (i ? others.map(other => other % i) : [])));
    fc.assert(
      fc.property(ways, fc.nat(24), fc.nat(24), (beneath, one, other) => {
        const treatment = standing(beneath);
        expect(noRoomFor(treatment) === null).toBe(refusal(treatment) === null);
        fc.pre(noRoomFor(treatment) === null);
        const [a, b] = [one % beneath.length, other % beneath.length];
        const joined = standing(beneath.map((others, i) => (i === a ? [...others, b] : others)));
        expect(mayStandOn(treatment, `m${a}`, `m${b}`)).toBe(refusal(joined) === null);
      }),
      { numRuns: 300 },
    );
  });

  it('say it before an inverse of an inverse goes too deep', () => {
    let { treatment, area } = addArea(bareTreatment());
    for (let i = 0; i < 8; i++) ({ treatment, area } = addInverse(treatment, area));
    expect(noRoomFor(treatment)).toBeNull();
    const deeper = addInverse(treatment, area).treatment;
    expect(noRoomFor(deeper)).toBe('an area that stands on other masks 9 deep; the most is 8');
  });
});

describe('painting', () => {
  const zigzag = (radius: number, count: number, wide: number): Treatment => {
    const points = Array.from({ length: count }, (_, i): [number, number, number] => [
      i % 2 ? wide : 0,
      0.5,
      1,
    ]);
    const strokes = [{ points, radius, hardness: 1, flow: 1, erase: false, keepEdges: 0 }];
    const mask: Mask = { ...emptyMask('m', 'Hull'), parts: [{ kind: 'brush', op: 'add', strokes }] };
    return { ...bareTreatment(), masks: [mask] };
  };

  it.each([
    ['a wide brush over all, back and forth', 0.5, 20_000, 1],
    ['the finest, far beyond the picture', 0, 20_000, 5],
  ])('is bounded: %s', (_, radius, count, wide) => {
    const treatment = zigzag(radius, count, wide);
    expect(refusal(treatment)).toBe('masks: hold more painting than 20000 times the whole picture');
    expect(noRoomFor(treatment)).toBe('more painting than 20000 times the whole picture');
  });

  it('leaves room for a day of it', () => {
    const [mask] = zigzag(0.2, 20, 0.5).masks;
    const [part] = mask.parts;
    if (part.kind !== 'brush') throw new Error('is painted');
    const strokes = Array.from({ length: 1000 }, () => part.strokes[0]);
    expect(noRoomFor({ ...bareTreatment(), masks: [{ ...mask, parts: [{ ...part, strokes }] }] })).toBe(
      'more painting than 20000 times the whole picture',
    );
    expect(
      noRoomFor({
        ...bareTreatment(),
        masks: [{ ...mask, parts: [{ ...part, strokes: strokes.slice(0, 600) }] }],
      }),
    ).toBeNull();
  });
});

describe('room', () => {
  const many = <T>(count: number, make: (i: number) => T) => Array.from({ length: count }, (_, i) => make(i));
  const stroke = { points: [[0.5, 0.5, 1]], radius: 0.1, hardness: 1, flow: 1, erase: false, keepEdges: 0 };

  it.each([
    ['steps', 200, (n: number) => ({ steps: many(n, () => ({ kind: 'mono' })) })],
    ['areas', 200, (n: number) => ({ masks: many(n, i => ({ id: `m${i}` })) })],
    ['parts', 200, (n: number) => ({ masks: [{ id: 'm', parts: many(n, () => ({ kind: 'whole' })) }] })],
    [
      'strokes',
      5000,
      (n: number) => ({ masks: [{ id: 'm', parts: [{ kind: 'brush', strokes: many(n, () => stroke) }] }] }),
    ],
  ])('for %s ends where reading does', (_, most, make) => {
    const whole = (n: number) => ({ format: 'lampwash-treatment', version: 1, ...make(n) });
    const full = parseTreatment(whole(most));
    expect(noRoomFor(full)).toBeNull();
    expect(() => parseTreatment(whole(most + 1))).toThrow();
    // One more of the last, as an edit would leave it.
    const [mask] = full.masks;
    const [part] = mask?.parts ?? [];
    const more: Treatment = {
      ...full,
      steps: full.steps.length ? [...full.steps, full.steps[0]] : full.steps,
      masks: !mask
        ? []
        : full.masks.length > 1
          ? [...full.masks, mask]
          : [
              part?.kind === 'brush'
                ? { ...mask, parts: [{ ...part, strokes: [...part.strokes, part.strokes[0]] }] }
                : { ...mask, parts: [...mask.parts, part] },
            ],
    };
    expect(noRoomFor(more)).toContain(`more than ${most}`);
  });
});

describe('what is found', () => {
  const stroke = { points: [[0.5, 0.5, 1]], radius: 0.01, hardness: 1, flow: 1, erase: false, keepEdges: 0 };
  const many = <T>(count: number, what: T) => Array.from({ length: count }, () => what);
  const asked = (parts: object[]) => ({
    format: 'lampwash-treatment',
    version: 1,
    masks: [{ id: 'm', parts }],
  });

  it('is refused where it would take minutes, and not where a hand has drawn it', () => {
    const found = (count: number) => asked([{ kind: 'found', strokesIn: many(count, stroke) }]);
    expect(() => parseTreatment(found(1300))).not.toThrow();
    expect(() => parseTreatment(found(1400))).toThrow('more painting');
    // Strokes that keep to edges: as many small ones as are painted in a day, and not hundreds as wide as the picture.
    const keeping = (count: number, radius: number) =>
      asked([{ kind: 'brush', strokes: many(count, { ...stroke, radius, keepEdges: 0.5 }) }]);
    expect(() => parseTreatment(keeping(2000, 0.02))).not.toThrow();
    expect(() => parseTreatment(keeping(60, 0.5))).toThrow('more painting');
    // Twelve pigments that spread, of four strokes each.
    const spread = many(12, { kind: 'found', strokesIn: many(4, stroke), strokesOut: many(44, stroke) });
    expect(() => parseTreatment(asked(spread))).not.toThrow();
  });
});
