import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { familyNames } from '../colour/hues';
import type { Tile } from '../frame/framing';
import { isPointStep, contextOf } from '../engine/lay';
import { cubeOf } from '../engine/cube';
import { paint, pixelAt, read, rendered } from '../testing/pictures';
import { treatedNumbers } from '../testing/pictures';

/** The response at its ends, on pictures as they come: with noise, with the halved colour of a JPEG. */

const ends = (values: Record<string, number>) =>
  read([{ kind: 'mono', settings: { method: 'response', response: values } }]);
const alternating = (sign: number) =>
  ends(Object.fromEntries(familyNames.map((name, i) => [name, sign * (i % 2 ? -1 : 1)])));
const darkSky = ends({ blue: -1, cyan: -1 });

/** A sky from pale to deep blue, grey clouds' light in it, as an 8-bit JPEG with halved colour gives it back. */
async function jpegSky(width: number, height: number, quality: number): Promise<Tile> {
  let seed = 5;
  const noise = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return (seed / 2 ** 32 - 0.5) * 3;
  };
  const codes = new Uint8Array(width * height * 3);
  for (let y = 0, o = 0; y < height; y++) {
    for (let x = 0; x < width; x++, o += 3) {
      const t = y / height + (0.05 * x) / width;
      const n = noise();
      codes[o] = 105 + 75 * t + n;
      codes[o + 1] = 150 + 50 * t + n;
      codes[o + 2] = 205 + 20 * t + n;
    }
  }
  const { data } = await sharp(
    await sharp(codes, { raw: { width, height, channels: 3 } })
      .jpeg({ quality, chromaSubsampling: '4:2:0' })
      .toBuffer(),
  )
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { codes: Uint16Array.from(data, v => v * 257), width, height, x: 0, y: 0 };
}

const greys = (treatment: Parameters<typeof treatedNumbers>[0], tile: Tile) =>
  treatedNumbers(treatment, tile).filter((_, i) => i % 3 === 0);

/** The standard deviation of numbers about their mean. */
const spread = (values: ArrayLike<number>) => {
  const list = Array.from(values);
  const mean = list.reduce((a, b) => a + b) / list.length;
  return Math.sqrt(list.reduce((a, v) => a + (v - mean) ** 2, 0) / list.length);
};

describe('response at its ends', () => {
  it.each([60, 80, 92])('draws no blocks and no edges in the sky of a JPEG of quality %i', async quality => {
    const sky = await jpegSky(480, 320, quality);
    const plain = greys(read([{ kind: 'mono' }]), sky);
    const dark = greys(darkSky, sky);
    const at = (values: Float32Array, x: number, y: number) => values[y * 480 + x] * 255;
    // Mean steps from pixel to pixel across the borders of the blocks of colour, beside those within them.
    const steps = (values: Float32Array, across: boolean) => {
      let sum = 0;
      let count = 0;
      for (let y = 40; y < 280; y++) {
        for (let x = 32; x < 448; x++) {
          if ((x % 16 === 0) !== across) continue;
          sum += at(values, x, y) - at(values, x - 1, y);
          count++;
        }
      }
      return Math.abs(sum / count);
    };
    expect(steps(dark, true)).toBeLessThan(0.4);
    // The sky is dark, and as even as it was: row by row, since it runs from top to bottom.
    let before = 0;
    let after = 0;
    for (let y = 40; y < 280; y++) {
      before += spread(plain.subarray(y * 480 + 32, y * 480 + 448));
      after += spread(dark.subarray(y * 480 + 32, y * 480 + 448));
    }
    expect(after / before).toBeLessThan(1.6);
    expect(at(dark, 240, 60)).toBeLessThan(at(plain, 240, 60) * 0.55);
    // No row steps against the run of the sky by more than the eye sees.
    const rows = Array.from({ length: 240 }, (_, i) => {
      const row = dark.subarray((40 + i) * 480 + 32, (40 + i) * 480 + 448);
      return (row.reduce((a, b) => a + b) / row.length) * 255;
    });
    rows.slice(1).forEach((v, i) => expect(v - rows[i]).toBeGreaterThan(-0.35));
    rows.slice(1).forEach((v, i) => expect(v - rows[i]).toBeLessThan(2));
  });

  it.each([1, -1])('does not blow up the noise of near-greys, alternating from %i', sign => {
    const levels = [0.25, 0.5, 0.75];
    const tints = [0.008, 0.02, 0.04, 0.08];
    // A patch of each level and tint, in one picture: its table is made once.
    const side = 96;
    let seed = 7;
    const noise = () => {
      seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
      return (seed / 2 ** 32 - 0.5) * (10 / 255);
    };
    const tile = paint(tints.length * side, levels.length * side, (x, y) => {
      const level = levels[Math.floor(y * levels.length)];
      const tint = tints[Math.floor(x * tints.length)];
      return [level + tint + noise(), level + noise(), level - tint + noise()];
    });
    const [treated, luma] = [rendered(alternating(sign), tile), rendered(read([{ kind: 'mono' }]), tile)];
    const noiseOf = (of: Pick<Tile, 'codes' | 'width'>, column: number, row: number) => {
      const values = [];
      // Away from the patches beside it.
      for (let y = row * side + 16; y < (row + 1) * side - 16; y++) {
        for (let x = column * side + 16; x < (column + 1) * side - 16; x++) {
          values.push(of.codes[(y * of.width + x) * 3]);
        }
      }
      return spread(values);
    };
    for (let row = 0; row < levels.length; row++) {
      for (let column = 0; column < tints.length; column++) {
        const growth = noiseOf(treated, column, row) / noiseOf(luma, column, row);
        expect(growth, `${levels[row]} ${tints[column]}`).toBeLessThan(1.6);
      }
    }
  });

  it('keeps the edges of colours that luminance makes one', () => {
    const red = [0.75, 0.36, 0.36];
    const green = [0.2, 0.535, 0.3];
    const tile = paint(120, 60, x => (x < 0.5 ? red : green));
    const out = rendered(ends({ red: -1, green: 1 }), tile);
    const far = pixelAt(out, 118, 30)[0] - pixelAt(out, 2, 30)[0];
    const near = pixelAt(out, 60, 30)[0] - pixelAt(out, 59, 30)[0];
    expect(far).toBeGreaterThan(0.3);
    expect(near).toBeGreaterThan(far * 0.85);
  });

  it('is part of a colour table without it, colour by colour', () => {
    const step = darkSky.steps[0];
    expect(isPointStep(step, contextOf(darkSky))).toBe(false);
    const cube = cubeOf(darkSky, 17);
    expect(cube.size).toBe(17);
    const flat = paint(40, 40, () => [4 / 16, 8 / 16, 14 / 16]);
    const [v] = pixelAt(rendered(darkSky, flat), 20, 20);
    expect(cube.values[(14 * 289 + 8 * 17 + 4) * 3]).toBeCloseTo(v, 2);
  });

  it('in part, through a mask or at less than whole strength, lets the rest of the colour through as it is', () => {
    const source = paint(200, 120, (x, y) => [0.3 + 0.4 * x, 0.5, 0.7 - 0.4 * y]);
    const numbers = (more: object, pixels: number) =>
      treatedNumbers(
        read(
          [{ kind: 'mono', settings: { method: 'response', response: { blue: -1, cyan: -1 } }, ...more }],
          {
            masks: [{ id: 'm', parts: [{ kind: 'oval', radii: [0.3, 0.3], feather: 0.4 }] }],
          },
        ),
        source,
        { pixels },
      );
    const bare = Float32Array.from(source.codes, v => v / 65535);
    const whole = numbers({}, 1);
    for (const pixels of [1, 1e9]) {
      const part = numbers({ strength: 0.8 }, pixels);
      for (let i = 0; i < part.length; i += 11) {
        expect(Math.abs(part[i] - (bare[i] + 0.8 * (whole[i] - bare[i]))) * 255).toBeLessThan(1);
      }
      const masked = numbers({ mask: 'm' }, pixels);
      const middle = (60 * 200 + 100) * 3;
      expect(Math.abs(masked[middle] - whole[middle]) * 255).toBeLessThan(1);
      expect(masked[0]).toBeCloseTo(bare[0], 5);
    }
  });
});
