import fc from 'fast-check';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { geometryOf } from '../frame/geometry';
import { paint, picture, pixelAt, read, rendered } from '../testing/pictures';
import { frameSchema } from '../frame/schema';
import type { Mask } from './mask';
import { maskSchema } from './schema';
import { carry } from '../formats/carried';
import { coverageOf } from './coverage';
import { kindOfPart, type MaskPart } from './parts';
import { readGreyPng, writeGreyPng } from '../formats/grey-png';

const SIZE = { width: 120, height: 80 };
const whole = { x: 0, y: 0, ...SIZE };

/** Coverage of a mask over the whole of a grey picture, as a function of fractions. */
function covered(parts: object[], mask: object = {}, others: object[] = []) {
  const masks = [{ id: 'm', parts, ...mask }, ...others].map(m => maskSchema.parse(m)) as Mask[];
  const source = picture(SIZE.width, SIZE.height);
  const rgb = Float32Array.from(source.codes, v => v / 65535);
  const geometry = geometryOf(SIZE, frameSchema.parse({}));
  const coverage = coverageOf('m', masks, 0);
  const input = { beneath: rgb, ground: rgb };
  const survey = coverage.survey?.(whole, geometry, input);
  const found = coverage.of(whole, geometry, input, survey);
  return (x: number, y: number) => {
    if (!found) return 0;
    const column = Math.floor(x * SIZE.width) - found.x;
    const row = Math.floor(y * SIZE.height) - found.y;
    if (column < 0 || row < 0 || column >= found.width || row >= found.height) return 0;
    return found.values[row * found.width + column];
  };
}
const brush = (points: number[][], more: object = {}) => ({
  kind: 'brush',
  strokes: [{ points: points.map(p => [...p, 1].slice(0, 3)), radius: 0.1, hardness: 0.6, flow: 1, ...more }],
});
const oval = (more: object = {}) => ({
  kind: 'oval',
  centre: [0.5, 0.5],
  radii: [0.2, 0.2],
  feather: 0.2,
  ...more,
});

describe('parts', () => {
  it('a mask starts empty, or full when its first part takes away', () => {
    expect(covered([])(0.5, 0.5)).toBe(0);
    const inverse = covered([oval({ op: 'subtract' })]);
    expect(inverse(0.5, 0.5)).toBe(0);
    expect(inverse(0.05, 0.05)).toBe(1);
  });

  it('an oval is whole in the middle, none outside, and its outside is the rest', () => {
    const at = covered([oval()]);
    expect(at(0.5, 0.5)).toBe(1);
    expect(at(0.1, 0.5)).toBe(0);
    const outside = covered([oval({ outside: true })]);
    for (const x of [0.2, 0.33, 0.36, 0.5]) expect(outside(x, 0.5)).toBeCloseTo(1 - at(x, 0.5), 6);
  });

  it('a straight gradient falls from its first to its second point', () => {
    const at = covered([{ kind: 'linear', from: [0, 0.5], to: [1, 0.5] }]);
    expect(at(0.01, 0.5)).toBeGreaterThan(0.99);
    expect(at(0.5, 0.2)).toBeCloseTo(0.5, 1);
    expect(at(0.99, 0.9)).toBeLessThan(0.01);
  });

  it('tones and hues are read from the picture', () => {
    const tones = covered([{ kind: 'tones', range: [0.5, 0.6, 1, 1] }]);
    expect(tones(0.95, 0.95)).toBe(1);
    expect(tones(0.03, 0.1)).toBe(0);
    const hues = covered([{ kind: 'hues', centre: 0, width: 40, softness: 0.2 }]);
    expect(hues(0.97, 0.05)).toBeGreaterThan(0.5);
    expect(hues(0.05, 0.95)).toBe(0);
  });

  it('a gradient is as soft as it is told, from a hard edge at its middle to its whole length', () => {
    for (const softness of [0, 0.1, 0.4, 1]) {
      const at = covered([{ kind: 'linear', from: [0, 0.5], to: [1, 0.5], softness }]);
      const rows = Array.from({ length: SIZE.width }, (_, i) => at((i + 0.5) / SIZE.width, 0.5));
      rows.slice(1).forEach((v, i) => expect(v).toBeLessThanOrEqual(rows[i] + 1e-6));
      const soft = rows.filter(v => v > 0.001 && v < 0.999).length;
      expect(Math.abs(soft - Math.max(1, softness * SIZE.width))).toBeLessThan(SIZE.width * 0.06 + 2);
      if (softness < 0.9) expect(at(0.5 - softness / 2 - 0.03, 0.5)).toBeGreaterThan(0.999);
    }
  });

  it('hues leave out the near-greys below their least colour, softly', () => {
    // From grey to a full red, the same hue all along.
    const strip = (colour: number) => {
      const rgb = new Float32Array(101 * 3);
      for (let i = 0; i <= 100; i++) rgb.set([0.4 + 0.005 * i, 0.4, 0.4], i * 3);
      const part = { kind: 'hues', op: 'add', centre: 0, width: 30, softness: 0.2, colour } as const;
      const kind = kindOfPart(part);
      if (kind.reads === 'place') throw new Error('hues are seen');
      const region = { x: 0, y: 0, width: 101, height: 1 };
      const on = { region, geometry: geometryOf(region, frameSchema.parse({})), found: undefined };
      return kind.see(part, { beneath: rgb, ground: rgb }, 101, on);
    };
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 0.28, noNaN: true }), colour => {
        const seen = strip(colour);
        seen.forEach((v, i) => {
          const chroma = 0.005 * i;
          if (chroma < colour * 0.33) expect(v).toBe(0);
          if (chroma > colour * 1.7) expect(v).toBeGreaterThan(0.999);
          // No step from one to the next: nothing is cut out hard.
          if (i) expect(v - seen[i - 1]).toBeLessThan(Math.min(0.25, 0.0065 / colour + 0.01) + 0.06);
          if (i) expect(v).toBeGreaterThanOrEqual(seen[i - 1] - 1e-6);
        });
      }),
    );
  });

  it('shapes are measured and set in numbers, and turned by a handle about their middle', () => {
    const size = { width: 300, height: 200 };
    const length = fc.double({ min: 0.05, max: 1.5, noNaN: true });
    const turned = fc.double({ min: -179, max: 179, noNaN: true });
    const gradient: MaskPart = { kind: 'linear', op: 'add', from: [0.3, 0.2], to: [0.5, 0.9], softness: 1 };
    const round: MaskPart = {
      kind: 'oval',
      op: 'add',
      centre: [0.4, 0.6],
      radii: [0.2, 0.1],
      angle: 10,
      feather: 0.3,
      outside: false,
    };
    fc.assert(
      fc.property(length, turned, (v, angle) => {
        for (const start of [gradient, round]) {
          const kind = kindOfPart(start);
          for (const { name, unit } of kind.measures!(start, size)) {
            const of = (part: MaskPart) => kind.measures!(part, size).find(m => m.name === name)!;
            const wanted = unit === 'length' ? v : angle;
            const made = { ...start, ...of(start).set(wanted) } as MaskPart;
            expect(of(made).value).toBeCloseTo(wanted, 6);
            // The others stay.
            for (const other of kind.measures!(start, size)) {
              if (other.name === name) continue;
              const now = kind.measures!(made, size).find(m => m.name === other.name)!;
              expect(now.value).toBeCloseTo(other.value, 6);
            }
          }
          const handles = kind.handles!(start, size);
          const handle = handles.find(h => h.name.startsWith('Turn'))!;
          const middle = handles.find(h => h.name.startsWith('Middle'))!;
          const moved = {
            ...start,
            ...handle.move([
              middle.at[0] + (Math.cos(angle) * 60) / size.width,
              middle.at[1] + (Math.sin(angle) * 60) / size.height,
            ]),
          } as MaskPart;
          const back = kind.handles!(moved, size).find(h => h.name.startsWith('Middle'))!;
          expect(back.at[0]).toBeCloseTo(middle.at[0], 6);
          expect(back.at[1]).toBeCloseTo(middle.at[1], 6);
          for (const m of kind.measures!(start, size)) {
            if (m.unit !== 'length') continue;
            expect(kind.measures!(moved, size).find(n => n.name === m.name)!.value).toBeCloseTo(m.value, 6);
          }
        }
      }),
    );
  });

  it('a picture is a grey PNG of 8 or 16 bits', async () => {
    const raw = (bits: 8 | 16) => {
      const values = Array.from({ length: 12 * 8 }, (_, i) => (i % 12 < 6 ? 0 : bits === 8 ? 255 : 65535));
      const data = bits === 8 ? Uint8Array.from(values) : Uint16Array.from(values);
      return sharp(data, { raw: { width: 12, height: 8, channels: 1 } })
        .toColourspace(bits === 8 ? 'b-w' : 'grey16')
        .png()
        .toBuffer();
    };
    for (const bits of [8, 16] as const) {
      const at = covered([{ kind: 'picture', png: carry(await raw(bits)) }]);
      expect(at(0.1, 0.5)).toBe(0);
      expect(at(0.9, 0.5)).toBe(1);
    }
  });

  it('one mask stands on another, and follows it', () => {
    const other = { id: 'o', parts: [oval()] };
    expect(covered([{ kind: 'mask', mask: 'o' }], {}, [other])(0.5, 0.5)).toBe(1);
    expect(covered([{ kind: 'mask', mask: 'o' }], {}, [{ ...other, invert: true }])(0.5, 0.5)).toBe(0);
    const less = covered([{ kind: 'whole' }, { kind: 'mask', mask: 'o', op: 'subtract' }], {}, [other]);
    expect(less(0.5, 0.5)).toBe(0);
    expect(less(0.05, 0.5)).toBe(1);
  });
});

it('a mask that is read from the picture keeps its softness where another stands on it', () => {
  const tones = (more: object) => ({
    id: 'o',
    parts: [{ kind: 'tones', range: [0.45, 0.45, 1, 1] }],
    ...more,
  });
  const along = (more: object) => {
    const at = covered([{ kind: 'mask', mask: 'o' }], {}, [tones(more)]);
    return Array.from({ length: 40 }, (_, i) => at((i + 0.5) / 40, 0.45));
  };
  const steepest = (values: number[]) => Math.max(...values.slice(1).map((v, i) => Math.abs(v - values[i])));
  expect(steepest(along({}))).toBeGreaterThan(0.9);
  expect(steepest(along({ feather: 0.15 }))).toBeLessThan(0.4);
});

describe('brush', () => {
  it('taking away after adding leaves nothing', () => {
    const parts = fc.constantFrom(
      oval({ feather: 0.9 }),
      brush(
        [
          [0.2, 0.3],
          [0.8, 0.7],
        ],
        { flow: 0.3, hardness: 0.1 },
      ),
      { kind: 'linear' },
    );
    fc.assert(
      fc.property(parts, part => {
        const at = covered([
          { ...part, op: 'add' },
          { ...part, op: 'subtract' },
        ]);
        for (let x = 0.02; x < 1; x += 0.07) for (let y = 0.02; y < 1; y += 0.07) expect(at(x, y)).toBe(0);
      }),
    );
  });

  it('flow builds up, stroke upon stroke, and erasing takes away', () => {
    const stroke = {
      points: [
        [0.2, 0.5, 1],
        [0.8, 0.5, 1],
      ],
      radius: 0.1,
      hardness: 1,
      flow: 0.1,
    };
    const strokes = (count: number, more: object[] = []) =>
      covered([{ kind: 'brush', strokes: [...Array(count).fill(stroke), ...more] }])(0.5, 0.5);
    expect(strokes(1)).toBeGreaterThan(0.2);
    expect(strokes(2)).toBeGreaterThan(strokes(1) + 0.1);
    expect(strokes(2)).toBeLessThan(1);
    expect(strokes(2, [{ ...stroke, flow: 1, erase: true }])).toBeLessThan(0.01);
  });

  it('a soft one falls off, a hard one does not, and pressure makes it lighter', () => {
    const soft = covered([brush([[0.5, 0.5]], { hardness: 0 })]);
    const hard = covered([brush([[0.5, 0.5]], { hardness: 1 })]);
    expect(soft(0.57, 0.5)).toBeLessThan(hard(0.57, 0.5));
    const light = covered([
      { kind: 'brush', strokes: [{ points: [[0.5, 0.5, 0.3]], radius: 0.1, hardness: 1, flow: 1 }] },
    ]);
    expect(light(0.5, 0.5)).toBeCloseTo(0.3, 2);
  });

  it('a line of points is the same as one stroke through them: replayed is painted', () => {
    const straight = covered([
      brush(
        [
          [0.1, 0.5],
          [0.9, 0.5],
        ],
        { flow: 0.4 },
      ),
    ]);
    const inSteps = covered([
      brush(
        [
          [0.1, 0.5],
          [0.3, 0.5],
          [0.55, 0.5],
          [0.9, 0.5],
        ],
        { flow: 0.4 },
      ),
    ]);
    for (let x = 0.02; x < 1; x += 0.03) expect(inSteps(x, 0.5)).toBeCloseTo(straight(x, 0.5), 5);
  });
});

describe('shaping', () => {
  it('feather softens the edge and keeps its place; grow moves it', () => {
    const hard = covered([oval({ feather: 0 })]);
    const soft = covered([oval({ feather: 0 })], { feather: 0.08 });
    expect(hard(0.34, 0.5)).toBe(1);
    expect(soft(0.34, 0.5)).toBeLessThan(0.95);
    expect(soft(0.3, 0.5)).toBeCloseTo(0.5, 0);
    expect(covered([oval({ feather: 0 })], { grow: 0.06 })(0.26, 0.5)).toBeGreaterThan(0.9);
    expect(covered([oval({ feather: 0 })], { grow: -0.06 })(0.33, 0.5)).toBeLessThan(0.1);
  });

  it('refine draws the edge to that of the thing beneath', () => {
    // A red disc on grey; the mask is an oval somewhat too large for it.
    const source = paint(240, 160, (x, y) =>
      Math.hypot((x - 0.5) * 1.5, y - 0.5) < 0.3 ? [0.8, 0.2, 0.2] : [0.5, 0.5, 0.5],
    );
    const masks = (refine: number) => [
      {
        id: 'm',
        refine,
        parts: [{ kind: 'oval', centre: [0.5, 0.5], radii: [0.212, 0.212], feather: 0.02 }],
      },
    ];
    const t = (refine: number) =>
      read(
        [
          { kind: 'saturation', mask: 'm', stage: 'ground', settings: { amount: -1 } },
          { kind: 'light', stage: 'ground', mask: 'm', settings: { exposure: 1 } },
        ],
        { masks: masks(refine) },
      );
    const spill = (refine: number) =>
      pixelAt(rendered(t(refine), source), 240 * 0.5 + 160 * 0.3 + 1.5, 80)[0] - 0.5;
    expect(spill(0)).toBeGreaterThan(0.1);
    expect(spill(1)).toBeLessThan(spill(0) * 0.6);
  });

  it('bleed blurs a wash outwards and inwards', () => {
    const wash = (bleed: number) =>
      rendered(
        read(
          [
            {
              kind: 'wash',
              mix: 'normal',
              mask: 'm',
              settings: { bleed, pigment: { kind: 'flat', colour: '#000000' } },
            },
          ],
          {
            masks: [{ id: 'm', parts: [oval({ feather: 0 })] }],
          },
        ),
        paint(120, 80, () => [1, 1, 1]),
      );
    expect(pixelAt(wash(0), 30, 40)[0]).toBe(1);
    expect(pixelAt(wash(0.1), 33, 40)[0]).toBeLessThan(0.95);
    expect(pixelAt(wash(0.1), 40, 40)[0]).toBeGreaterThan(0.03);
  });
});

describe('a grey PNG', () => {
  it('is written as it is read', () => {
    const values = Uint8Array.from({ length: 35 }, (_, i) => i * 7);
    const file = writeGreyPng(values, 7, 5);
    const read = readGreyPng(file);
    expect([read.width, read.height]).toEqual([7, 5]);
    expect(read.values).toEqual(values);
  });
});
