import { describe, expect, it } from 'vitest';
import { develop, withoutFoot } from './develop';
import { readRadiance, type LinearPicture } from './hdr';
import { board } from './joinery';
import { declared, path, rotated, standing, through, together, tube, turned, type Point } from './mesh';
import { noise, randomFrom, roughness } from './noise';
import { scanOfOldPrint } from './old-print';

/** A Radiance file with each row packed as the format packs it. */
function radiance(width: number, rows: number[][][]): Uint8Array {
  const head = new TextEncoder().encode(
    `#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y ${rows.length} +X ${width}\n`,
  );
  const body: number[] = [];
  for (const row of rows) {
    body.push(2, 2, width >> 8, width & 255);
    for (let channel = 0; channel < 4; channel++) {
      const values = row.map(pixel => pixel[channel]);
      // The first half as a run where it is one, the rest as they are.
      const same = values.slice(0, 8).every(v => v === values[0]);
      if (same) body.push(128 + 8, values[0]);
      else body.push(8, ...values.slice(0, 8));
      body.push(width - 8, ...values.slice(8));
    }
  }
  return Uint8Array.from([...head, ...body]);
}

describe('light of the ray tracer', () => {
  const grey = Array.from({ length: 16 }, () => [128, 64, 32, 129]);
  const bright = Array.from({ length: 16 }, (_, x) => [255, x, 0, 130]);
  it('is read as it was packed', () => {
    const { width, height, light } = readRadiance(radiance(16, [grey, bright]));
    expect([width, height]).toEqual([16, 2]);
    expect([...light.subarray(0, 3)]).toEqual([1, 0.5, 0.25]);
    expect(light[16 * 3]).toBeCloseTo((255 / 256) * 4, 6);
    expect(light[(16 + 15) * 3 + 1]).toBeCloseTo((15 / 256) * 4, 6);
  });
  it('that ends early or is something else is refused', () => {
    const whole = radiance(16, [grey, bright]);
    expect(() => readRadiance(whole.subarray(0, whole.length - 9))).toThrow(/ends before/);
    expect(() => readRadiance(new TextEncoder().encode('P6 12 12'))).toThrow(/not a Radiance/);
  });
});

const flat = (value: number[], width = 60, height = 40): LinearPicture => ({
  width,
  height,
  light: Float32Array.from({ length: width * height * 3 }, (_, i) => value[i % 3]),
});

describe('the photographic finish', () => {
  it('keeps grey grey, and rises with the light without reaching its ends', () => {
    let last = -1;
    for (const light of [0, 0.02, 0.1, 0.3, 0.8, 2]) {
      const { codes, width, height } = develop(flat([light, light, light]), {
        width: 60,
        grain: 0,
        falloff: 0,
      });
      const at = ((height / 2) * width + width / 2) * 3;
      expect(Math.abs(codes[at] - codes[at + 2])).toBeLessThanOrEqual(1);
      expect(codes[at]).toBeGreaterThan(last);
      last = codes[at];
    }
    expect(last).toBeLessThan(65535);
  });
  it('grains the same every time, and darkens the corners', () => {
    const one = develop(flat([0.4, 0.4, 0.4]), { width: 90 });
    expect(develop(flat([0.4, 0.4, 0.4]), { width: 90 }).codes).toEqual(one.codes);
    const quiet = develop(flat([0.4, 0.4, 0.4]), { width: 90, grain: 0 });
    expect(quiet.codes[0]).toBeLessThan(quiet.codes[(30 * 90 + 45) * 3] * 0.95);
    expect(one.codes).not.toEqual(quiet.codes);
  });
  it('cuts the foot and keeps the shape', () => {
    const cut = withoutFoot(flat([1, 2, 3], 100, 60), 0.1);
    expect([cut.width, cut.height]).toEqual([90, 54]);
    expect([...cut.light.subarray(0, 3)]).toEqual([1, 2, 3]);
  });
  it('makes of a picture a grey scan with a paper edge', () => {
    const { codes, width, height } = develop(flat([0.05, 0.05, 0.05], 300, 200), { width: 300, grain: 0 });
    const scan = scanOfOldPrint(codes, width, height, 1);
    expect(scan.codes).toHaveLength(width * height);
    const at = (x: number, y: number) => scan.codes[y * width + x] / 65535;
    expect(at(1, 1)).toBeLessThan(0.2);
    expect(at(9, 100)).toBeGreaterThan(0.6);
    expect(at(150, 110)).toBeLessThan(at(9, 100));
  });
});

describe('meshes', () => {
  const holds = (points: Point[], faces: [number, number, number][]) => {
    expect(points.flat().every(Number.isFinite)).toBe(true);
    expect(Math.max(...faces.flat())).toBeLessThan(points.length);
  };
  it('of boards, vessels and bars are whole, and as large as asked', () => {
    const plank = board({ length: 100, thickness: 3, width: 12, seed: 4 });
    holds(plank.points, plank.faces);
    const span = (axis: number) =>
      Math.max(...plank.points.map(p => p[axis])) - Math.min(...plank.points.map(p => p[axis]));
    expect(span(0)).toBeCloseTo(100, 0);
    expect(span(2)).toBeGreaterThan(11);
    expect(span(2)).toBeLessThan(13);
    const jar = turned(
      [
        [0, 0],
        [3, 0.2],
        [4, 5],
        [2, 9],
      ],
      24,
      20,
    );
    holds(jar.points, jar.faces);
    const rope = tube(
      path(
        [
          [0, 0, 0],
          [1, 2, 0],
          [4, 2, 1],
        ],
        20,
      ),
      0.2,
    );
    holds(rope.points, rope.faces);
    const all = together([plank, jar, rope]);
    holds(all.points, all.faces);
    expect(all.faces).toHaveLength(plank.faces.length + jar.faces.length + rope.faces.length);
    expect(Math.min(...standing(rotated(jar, 30, 20, 10), 5).points.map(p => p[1]))).toBeCloseTo(5, 6);
  });
  it('are declared with a normal for each point', () => {
    const text = declared(
      'Jar',
      turned(
        [
          [1, 0],
          [1, 2],
        ],
        6,
        2,
      ),
    );
    expect(text).toMatch(/^#declare Jar=mesh2\{vertex_vectors\{18,/);
    expect(text).toContain('normal_vectors{18,');
    expect(text).not.toContain('NaN');
  });
  it('follow smooth lines through their points', () => {
    const line: Point[] = [
      [0, 0, 0],
      [1, 3, 0],
      [4, 1, 2],
    ];
    expect(through(line, 0)).toEqual(line[0]);
    expect(through(line, 0.5)).toEqual(line[1]);
    expect(through(line, 1)).toEqual(line[2]);
  });
});

describe('randomness', () => {
  it('is the same for a seed, smooth and bounded', () => {
    const [a, b] = [randomFrom(3), randomFrom(3)];
    expect(Array.from({ length: 5 }, a)).toEqual(Array.from({ length: 5 }, b));
    for (let i = 0; i < 400; i++) {
      const x = i * 0.37;
      expect(Math.abs(noise(x, x * 0.3, 2))).toBeLessThanOrEqual(1.1);
      expect(Math.abs(noise(x, 1, 2) - noise(x + 1e-4, 1, 2))).toBeLessThan(1e-3);
      expect(Number.isFinite(roughness(x, -x, 5))).toBe(true);
    }
  });
});
