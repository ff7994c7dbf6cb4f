import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { geometryOf } from '../../core/frame/geometry';
import { frameSchema } from '../../core/frame/schema';
import { coverageOf } from '../../core/masks/coverage';
import { emptyMask, type Mask } from '../../core/masks/mask';
import type { MaskPart } from '../../core/masks/parts';
import { SIGHT_EDGE, sightOf, type Sight } from '../../core/masks/finding/sight';
import type { Stroke } from '../../core/settings/fields';
import { paintedOver, roughStrokes } from './strokes';

/**
 * What is found by rough strokes on the demo's photographs, in colour and in mono, against the exact areas of the things that their
 * scenes give.
 */

const EDGE = 1200;

interface Seen {
  width: number;
  height: number;
  codes: Uint8Array;
  rgb: Float32Array;
}

async function photographAt(name: string, edge: number, mono: boolean): Promise<Seen> {
  const { data, info } = await sharp(`demo/photographs/${name}.jpg`)
    .resize(edge, edge, { fit: 'inside' })
    .toColourspace('srgb')
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const codes = new Uint8Array(data);
  for (let i = 0; mono && i < codes.length; i += 3) {
    codes[i] = Math.round(0.2126 * codes[i] + 0.7152 * codes[i + 1] + 0.0722 * codes[i + 2]);
    codes[i + 1] = codes[i + 2] = codes[i];
  }
  const rgb = new Float32Array(codes.length);
  for (let i = 0; i < rgb.length; i++) rgb[i] = codes[i] / 255;
  return { width: info.width, height: info.height, codes, rgb };
}

interface Photograph {
  small: Seen;
  large: Seen;
  sight: Sight;
}

async function photograph(name: string, mono: boolean): Promise<Photograph> {
  const small = await photographAt(name, SIGHT_EDGE, mono);
  return {
    small,
    large: await photographAt(name, EDGE, mono),
    sight: sightOf(small.codes, small.width, small.height, mono),
  };
}

/** The coverage of a part over a photograph. */
function coverage(
  part: MaskPart,
  { small, large, sight }: Photograph,
  shape: Partial<Mask> = {},
): Float32Array {
  const { survey, of } = coverageOf('m', [{ ...emptyMask('m', ''), ...shape, parts: [part] }], 0);
  const frame = frameSchema.parse({});
  const whole = ({ width, height }: Seen) => ({ x: 0, y: 0, width, height });
  const looked = { beneath: small.rgb, ground: small.rgb, sight };
  const surveyed = survey?.(whole(small), geometryOf(small, frame), looked);
  const input = { beneath: large.rgb, ground: large.rgb };
  const covered = of(whole(large), geometryOf(large, frame), input, surveyed);
  const values = new Float32Array(large.width * large.height);
  if (!covered) return values;
  for (let y = 0; y < covered.height; y++) {
    const row = covered.values.subarray(y * covered.width, (y + 1) * covered.width);
    values.set(row, (covered.y + y) * large.width + covered.x);
  }
  return values;
}

const foundBy = (strokesIn: Stroke[], strokesOut: Stroke[]): MaskPart => ({
  kind: 'found',
  op: 'add',
  strokesIn,
  strokesOut,
});

/** The share that two areas have in common of what they cover together. */
function likeness(values: Float32Array, exact: Uint8Array): number {
  let both = 0;
  let either = 0;
  values.forEach((v, i) => {
    const [a, b] = [v > 0.5, exact[i] > 127];
    if (a && b) both++;
    if (a || b) either++;
  });
  return both / either;
}

const exactly = async (name: string) =>
  new Uint8Array(await sharp(`demo/objects/${name}.png`).greyscale().raw().toBuffer());

const known = new Map<string, Promise<Photograph>>();
function seen(name: string, mono: boolean): Promise<Photograph> {
  const key = `${name} ${mono}`;
  const made = known.get(key) ?? photograph(name, mono);
  known.set(key, made);
  return made;
}

const all = Object.entries(roughStrokes).flatMap(([name, given]) =>
  (given.photograph === 'keepers-chair' ? [true] : [false, true]).map(mono => ({ name, mono, ...given })),
);

describe('what rough strokes find', () => {
  const found: { name: string; mono: boolean; share: number }[] = [];
  beforeAll(async () => {
    for (const { name, mono, photograph, strokesIn, strokesOut } of all) {
      const values = coverage(foundBy(strokesIn, strokesOut), await seen(photograph, mono));
      found.push({ name, mono, share: likeness(values, await exactly(name)) });
    }
  }, 120_000);

  it('is never asked with more than three strokes', () => {
    for (const { strokesIn, strokesOut } of all) {
      expect(strokesIn.length + strokesOut.length).toBeLessThanOrEqual(3);
    }
  });

  it('is the thing, to 95 of 100 parts, in every photograph in colour', () => {
    const wrong = found.filter(f => !f.mono && f.share < 0.95);
    expect(wrong).toEqual([]);
  });

  it('is the thing in mono too, to 95 of 100 parts in the middle of all, and nowhere below 85', () => {
    const mono = found.filter(f => f.mono).map(f => f.share);
    mono.sort((a, b) => a - b);
    expect(mono[Math.floor(mono.length / 2)]).toBeGreaterThan(0.945);
    expect(mono[0]).toBeGreaterThan(0.85);
  });
});

describe('a stroke that mends', () => {
  it('changes nothing further than a fifth of the picture from it, but where an edge leads there', async () => {
    for (const { photograph, strokesIn, strokesOut } of all.filter(a => a.strokesOut.length === 2)) {
      const on = await seen(photograph, false);
      const before = coverage(foundBy(strokesIn, strokesOut.slice(0, 1)), on);
      const after = coverage(foundBy(strokesIn, strokesOut), on);
      const { width, height } = on.large;
      const far = 0.2 * Math.max(width, height);
      const points = strokesOut[1].points;
      let changed = 0;
      before.forEach((v, i) => {
        if (Math.abs(after[i] - v) < 0.1) return;
        const [x, y] = [i % width, Math.floor(i / width)];
        if (points.every(([u, w]) => Math.hypot(u * width - x, w * height - y) > far)) changed++;
      });
      expect(changed / before.length).toBeLessThan(0.0005);
    }
  }, 120_000);
});

/** Where along them strokes lie within the thing: not on the jug's thin handle, nor on the boat's waterline. */
const along: Record<string, [number, number]> = { jug: [5, Infinity], boat: [0, 6] };

describe('a stroke that keeps to edges', () => {
  it('spills at most 2 of 100 parts of itself', async () => {
    const shares: Record<string, number> = {};
    for (const { name, mono, photograph, strokesIn } of all.filter(
      a => !a.mono || a.photograph === 'keepers-chair',
    )) {
      const on = await seen(photograph, mono);
      const exact = await exactly(name);
      // As a hand paints along a thing, three times as wide as what surely lies on it.
      const [from, to] = along[name] ?? [0, Infinity];
      const painted: Stroke = {
        ...strokesIn[0],
        points: strokesIn[0].points.slice(from, to),
        radius: 3 * strokesIn[0].radius,
        hardness: 0.8,
        keepEdges: 0.8,
      };
      const values = coverage({ kind: 'brush', op: 'add', strokes: [painted] }, on);
      let [sum, beside] = [0, 0];
      values.forEach((v, i) => {
        sum += v;
        if (exact[i] < 20) beside += v;
      });
      shares[name] = beside / sum;
    }
    expect(Object.entries(shares).filter(([, share]) => share > 0.02)).toEqual([]);
  }, 120_000);
});

describe('an edge that is found anew', () => {
  it('is off by half as much as the painted one, or less, on reeds and on wires, in colour and in mono', async () => {
    const shares: Record<string, number> = {};
    for (const [name, { photograph, strokes, fine, within }] of Object.entries(paintedOver)) {
      for (const mono of [false, true]) {
        const on = await seen(photograph, mono);
        const exact = await exactly(name);
        const { width, height } = on.large;
        const [left, top, right, bottom] = within;
        const isIn = (i: number) => {
          const [x, y] = [(i % width) / width, Math.floor(i / width) / height];
          return x >= left && x < right && y >= top && y < bottom;
        };
        const off = (values: Float32Array) =>
          values.reduce((sum, v, i) => (isIn(i) ? sum + Math.abs(v - exact[i] / 255) : sum), 0);
        const painted: MaskPart = { kind: 'brush', op: 'add', strokes };
        const ratio = off(coverage(painted, on, { fine })) / off(coverage(painted, on));
        shares[`${name} in ${mono ? 'mono' : 'colour'}`] = ratio;
      }
    }
    expect(Object.entries(shares).filter(([, share]) => share > 0.5)).toEqual([]);
  }, 120_000);
});
