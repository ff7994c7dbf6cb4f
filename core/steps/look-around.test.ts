import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { luma } from '../colour/srgb';
import { oklch } from '../testing/own';
import { paint, picture, pixelAt, read, rendered } from '../testing/pictures';

/** Steps that look at neighbours, or at where a pixel lies. */

const spread = (codes: ArrayLike<number>) => {
  const values = Array.from({ length: codes.length / 3 }, (_, i) => codes[i * 3] / 65535);
  const mean = values.reduce((a, b) => a + b) / values.length;
  return Math.sqrt(values.reduce((a, v) => a + (v - mean) ** 2, 0) / values.length);
};
const isGrey = (codes: Uint16Array) => codes.every((v, i) => i % 3 === 0 || v === codes[i - (i % 3)]);

describe.each([
  ['local-contrast', { coarse: 0.8, medium: -0.5, fine: 1, haze: 0.4 }],
  ['sharpen', { amount: 3, radius: 0.004 }],
  ['glow', { amount: 0.8 }],
  ['vignette', { amount: -0.7, centre: { x: 0.4, y: 0.6 } }],
  ['grain', { amount: 0.6 }],
  ['local-light', { coarse: 0.5, medium: 0.5, exposure: 0.4 }],
])('%s', (kind, settings) => {
  it('keeps a grey picture grey', () => {
    const source = picture(60, 40, true);
    const out = rendered(read([{ kind, settings }]), source).codes;
    expect(isGrey(out)).toBe(true);
    expect(out).not.toEqual(source.codes);
  });
});

describe('local contrast', () => {
  const SIZE = { width: 720, height: 480 };
  /** Patches of a size (pixels) in two tones, sharp, by a checkered hash. */
  const texture = (size: number, deep: number) =>
    paint(SIZE.width, SIZE.height, (x, y) => {
      const cell = Math.floor((x * SIZE.width) / size) * 7 + Math.floor((y * SIZE.height) / size) * 13;
      return Array(3).fill(0.45 + (cell % 2 ? deep : -deep));
    });
  const local = (settings: object) => read([{ kind: 'local-contrast', settings }]);
  /** How much of a texture is left, away from the borders. */
  const kept = (settings: object, source: ReturnType<typeof paint>) => {
    const part = { x: 120, y: 120, width: 480, height: 240 };
    return (
      spread(rendered(local(settings), source, { part }).codes) /
      spread(rendered(read([]), source, { part }).codes)
    );
  };
  const scales = { fine: 2, medium: 8, coarse: 36 } as const;
  const names = ['fine', 'medium', 'coarse'] as const;

  it.each(names)('%s raises and calms its own scale, and lowers none', name => {
    const own = texture(scales[name], 0.05);
    expect(kept({ [name]: 1 }, own)).toBeGreaterThan(1.5);
    expect(kept({ [name]: -1 }, own)).toBeLessThan(0.75);
    for (const other of names) {
      const source = texture(scales[other], 0.05);
      expect(kept({ [name]: 1 }, source)).toBeGreaterThan(0.995);
      expect(kept({ [name]: -1 }, source)).toBeLessThan(1.005);
      // Each has the most of its own scale.
      if (other !== name) expect(kept({ [name]: 1 }, source)).toBeLessThan(kept({ [name]: 1 }, own) * 1.1);
    }
  });

  it('doubles the spread of strong texture with all three at 1', () => {
    expect(kept({ fine: 1, medium: 1, coarse: 1 }, texture(9, 0.1))).toBeGreaterThan(2);
  });

  it('stays between black and white, leaves both as they are, and never turns a tone scale round', () => {
    fc.assert(
      fc.property(
        fc.record({
          fine: fc.double({ min: -1, max: 1, noNaN: true }),
          medium: fc.double({ min: -1, max: 1, noNaN: true }),
          coarse: fc.double({ min: -1, max: 1, noNaN: true }),
        }),
        settings => {
          const clipped = paint(160, 100, (x, y) => {
            if (x > 0.7) return [1, 1, 1];
            if (x < 0.3) return [0, 0, 0];
            return Array(3).fill(0.2 + 0.6 * Math.abs(Math.sin(90 * x) * Math.cos(70 * y)));
          });
          const out = rendered(local({ ...settings, fine: Math.abs(settings.fine) }), clipped).codes;
          expect(Math.max(...out)).toBeLessThanOrEqual(65535);
          // Well inside what is clipped nothing has come back.
          expect(pixelAt({ codes: out, width: 160 }, 150, 50)[0]).toBeCloseTo(1, 3);
          expect(pixelAt({ codes: out, width: 160 }, 8, 50)[0]).toBeCloseTo(0, 3);
          const wide = paint(400, 30, x => Array(3).fill(x));
          const ramp = rendered(local(settings), wide).codes;
          let last = -1;
          for (let x = 0; x < 400; x += 4) {
            const [v] = pixelAt({ codes: ramp, width: 400 }, x, 15);
            expect(v).toBeGreaterThan(last - 0.02);
            last = v;
          }
        },
      ),
      { numRuns: 8 },
    );
  });

  it('makes no halo along a hard edge', () => {
    const source = paint(400, 40, x => Array(3).fill(x < 0.5 ? 0.25 : 0.75));
    const out = rendered(local({ coarse: 1, medium: 1, fine: 1 }), source);
    // Beyond a fine radius from the edge the two tones stay what they were.
    for (let x = 0; x < 400; x++) {
      if (Math.abs(x - 199.5) < 3) continue;
      expect(Math.abs(pixelAt(out, x, 20)[0] - (x < 200 ? 0.25 : 0.75)) * 255).toBeLessThan(5);
    }
  });

  it('clears haze: a veil laid over a picture is taken off again', () => {
    const clear = (x: number, y: number) => [
      0.1 + 0.8 * x,
      0.2 + 0.5 * y,
      Math.floor(x * 20) % 2 ? 0.05 : 0.5,
    ];
    const hazy = paint(200, 140, (x, y) => clear(x, y).map(v => v * 0.5 + 0.45));
    const out = rendered(read([{ kind: 'local-contrast', settings: { haze: 1 } }]), hazy).codes;
    const veiled = rendered(read([{ kind: 'local-contrast', settings: { haze: -1 } }]), hazy).codes;
    expect(spread(out)).toBeGreaterThan(spread(hazy.codes) * 1.3);
    expect(spread(veiled)).toBeLessThan(spread(hazy.codes) * 0.8);
  });
});

describe('mono that keeps local contrast', () => {
  /** Two colours of equal luminance, side by side in patches. */
  const equal = paint(240, 160, (x, y) =>
    (Math.floor(x * 6) + Math.floor(y * 4)) % 2 ? [0.75, 0.36, 0.36] : [0.2, 0.535, 0.3],
  );
  const mono = (local: object) => read([{ kind: 'mono', settings: { method: 'local-contrast', local } }]);

  it('keeps apart what luminance makes one', () => {
    const luminance = rendered(read([{ kind: 'mono' }]), equal);
    const kept = rendered(mono({ radius: 0.2, amount: 1 }), equal);
    const gap = (out: typeof kept) => Math.abs(pixelAt(out, 20, 20)[0] - pixelAt(out, 60, 20)[0]);
    expect(gap(luminance)).toBeLessThan(0.02);
    expect(gap(kept)).toBeGreaterThan(0.12);
  });

  /** Two colours side by side, of half the picture each, or in patches of some size. */
  const two = (first: readonly number[], second: readonly number[], patches: number) =>
    paint(160, 100, (x, y) => ((Math.floor(x * patches) + Math.floor(y * patches)) % 2 ? first : second));
  const lightnessOf = (rgb: readonly number[]) => oklch(rgb).L;
  /** How far apart two colours come out, as OKLab lightness: the middles of two patches. */
  const gapOf = (t: ReturnType<typeof read>, source: ReturnType<typeof paint>, patches: number) => {
    const out = rendered(t, source);
    const at = (n: number) => lightnessOf(pixelAt(out, (160 * (n + 0.5)) / patches, (100 * 0.5) / patches));
    return Math.abs(at(0) - at(1));
  };
  const apartInColour = (p: readonly number[], q: readonly number[]) => {
    const [f, g] = [oklch(p), oklch(q)];
    return Math.hypot(
      f.L - g.L,
      f.chroma * Math.cos(f.hue) - g.chroma * Math.cos(g.hue),
      f.chroma * Math.sin(f.hue) - g.chroma * Math.sin(g.hue),
    );
  };
  const muted = fc.tuple(
    fc.double({ min: 0.3, max: 0.75, noNaN: true }),
    fc.double({ min: 0.3, max: 0.75, noNaN: true }),
    fc.double({ min: 0.3, max: 0.75, noNaN: true }),
  );

  it('parts colours that luminance merges by their difference times the amount, and narrows no two', () => {
    fc.assert(
      fc.property(
        muted,
        muted,
        fc.constantFrom(1, 2, 5),
        fc.double({ min: 0.02, max: 0.5, noNaN: true }),
        fc.double({ min: 0.2, max: 1, noNaN: true }),
        (first, raw, patches, radius, amount) => {
          // The second is brought to the first's luminance in half of the cases.
          const gain = Math.round(raw[0] * 1e6) % 2 ? luma(...first) / luma(...raw) : 1;
          const second = raw.map(v => v * gain) as [number, number, number];
          fc.pre(Math.max(...second) < 0.85);
          const source = two(first, second, patches * 2);
          const merged = gapOf(read([{ kind: 'mono' }]), source, patches * 2);
          const kept = gapOf(mono({ radius, amount, grain: 0.5 }), source, patches * 2);
          expect(kept).toBeGreaterThan(merged - 0.004);
          if (merged < 0.02) expect(kept).toBeGreaterThan(apartInColour(first, second) * amount - 0.01);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('amount 0 is luminance, and a grey picture stays', () => {
    const source = picture(80, 60);
    const plain = rendered(read([{ kind: 'mono' }]), source).codes;
    rendered(mono({ amount: 0 }), source).codes.forEach((v, i) =>
      expect(Math.abs(v - plain[i]) / 257).toBeLessThan(0.5),
    );
    const grey = picture(80, 60, true);
    rendered(mono({ amount: 1 }), grey).codes.forEach((v, i) =>
      expect(Math.abs(v - grey.codes[i])).toBeLessThan(40),
    );
  });

  it('grain is felt: the finest colour is left out at 0 and comes through more and more', () => {
    let seed = 5;
    const noisy = paint(160, 120, () => {
      seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
      const n = (seed / 2 ** 32 - 0.5) * 0.08;
      return [0.5 + n, 0.5, 0.5 - n];
    });
    const noise = (grain: number) => spread(rendered(mono({ amount: 1, grain }), noisy).codes);
    expect(noise(0.3)).toBeGreaterThan(noise(0) * 1.3);
    expect(noise(1) * 255).toBeGreaterThan(noise(0) * 255 + 4);
  });
});

describe('sharpen', () => {
  it('raises an edge on lightness alone, and leaves what is below the threshold', () => {
    const edge = paint(200, 20, x => (x < 0.5 ? [0.3, 0.4, 0.5] : [0.6, 0.7, 0.8]));
    const out = rendered(read([{ kind: 'sharpen', settings: { amount: 1, radius: 0.01 } }]), edge);
    const [r, g, b] = pixelAt(out, 101, 10);
    expect(r).toBeGreaterThan(0.62);
    expect([g - r, b - g]).toEqual([expect.closeTo(0.1, 3), expect.closeTo(0.1, 3)]);
    const held = rendered(
      read([{ kind: 'sharpen', settings: { amount: 1, radius: 0.01, threshold: 1 } }]),
      edge,
    );
    expect(pixelAt(held, 101, 10)[0]).toBeLessThan(0.61);
  });
});

describe('glow', () => {
  const lamp = paint(200, 200, (x, y) => Array(3).fill(Math.hypot(x - 0.5, y - 0.5) < 0.06 ? 1 : 0.2));

  it('spreads the lights and never the darks', () => {
    const out = rendered(read([{ kind: 'glow', settings: { amount: 1, radius: 0.03 } }]), lamp);
    expect(pixelAt(out, 116, 100)[0]).toBeGreaterThan(0.3);
    expect(pixelAt(out, 10, 10)[0]).toBeCloseTo(0.2, 2);
    const dark = paint(50, 50, () => [0.1, 0.1, 0.1]);
    expect(rendered(read([{ kind: 'glow', settings: { amount: 1 } }]), dark).codes).toEqual(dark.codes);
  });

  it('halation is warm', () => {
    const out = rendered(read([{ kind: 'glow', settings: { halation: 1, radius: 0.03 } }]), lamp);
    const [r, g, b] = pixelAt(out, 116, 100);
    expect(r).toBeGreaterThan(g + 0.03);
    expect(g).toBeGreaterThan(b);
  });
});

describe('vignette', () => {
  const flat = paint(300, 200, () => [0.6, 0.6, 0.6]);
  const corner = (settings: object, x = 2, y = 2) =>
    pixelAt(rendered(read([{ kind: 'vignette', settings }]), flat), x, y)[0];

  it('darkens or lightens the edges and leaves the middle', () => {
    expect(corner({ amount: -1 })).toBeLessThan(0.4);
    expect(corner({ amount: 1 })).toBeGreaterThan(0.75);
    expect(corner({ amount: -1 }, 150, 100)).toBeCloseTo(0.6, 4);
  });

  it('roundness goes from a rectangle to a circle', () => {
    // Half way along the long side a circle has begun where the frame's ellipse has not.
    const settings = { amount: -1, size: 0.45, feather: 0.2 };
    expect(corner({ ...settings, roundness: 1 }, 270, 100)).toBeLessThan(
      corner({ ...settings, roundness: 0 }, 270, 100),
    );
    expect(corner({ ...settings, roundness: -1 }, 245, 160)).toBeGreaterThan(
      corner({ ...settings, roundness: 0 }, 245, 160),
    );
  });

  it('follows the crop and spares the highlights', () => {
    const t = read([{ kind: 'vignette', settings: { amount: -1 } }], {
      frame: { crop: { x: 0.4, y: 0.4, width: 0.3, height: 0.3 } },
    });
    expect(pixelAt(rendered(t, flat), 1, 1)[0]).toBeLessThan(0.4);
    const light = paint(90, 60, () => [0.95, 0.95, 0.95]);
    const spared = (spareHighlights: number) =>
      pixelAt(
        rendered(read([{ kind: 'vignette', settings: { amount: -1, spareHighlights } }]), light),
        1,
        1,
      )[0];
    expect(spared(1)).toBeGreaterThan(spared(0) + 0.2);
  });
});

describe('grain', () => {
  const flat = (v: number) => paint(300, 200, () => [v, v, v]);
  const grain = (settings: object, v = 0.5) =>
    rendered(read([{ kind: 'grain', settings: { amount: 1, character: 'coarse', ...settings } }]), flat(v))
      .codes;

  it('is strongest in the midtones and none at the ends', () => {
    expect(spread(grain({}, 0.5))).toBeGreaterThan(spread(grain({}, 0.9)));
    expect(grain({}, 0)).toEqual(flat(0).codes);
    expect(grain({}, 1)).toEqual(flat(1).codes);
    expect(spread(grain({}))).toBeGreaterThan(0.015);
  });

  it('keeps the mean, differs by seed, size and character, and is the same every time', () => {
    const codes = grain({});
    const mean = codes.reduce((a, b) => a + b) / codes.length / 65535;
    expect(mean).toBeCloseTo(0.5, 1);
    expect(grain({})).toEqual(codes);
    for (const other of [{ seed: 2 }, { size: 0.9 }, { character: 'soft' }, { clumping: 1 }]) {
      expect(grain(other)).not.toEqual(codes);
    }
  });

  it('is weaker where a pixel is wider than a grain', () => {
    const at = (width: number) => {
      const source = paint(width, width, () => [0.5, 0.5, 0.5]);
      return spread(rendered(read([{ kind: 'grain', settings: { amount: 1 } }]), source).codes);
    };
    expect(at(60)).toBeLessThan(at(600) * 0.6);
  });
});

describe('any size gives the same picture', () => {
  const scene = (x: number, y: number) => {
    const v = 0.5 + 0.35 * Math.sin(7 * x) * Math.cos(5 * y);
    return [v, v * 0.8 + 0.1, 0.9 - v * 0.7];
  };
  it.each([
    ['local-contrast', { coarse: 1, medium: 0.5 }],
    ['vignette', { amount: -0.8 }],
    ['glow', { amount: 0.8, radius: 0.03 }],
    ['sharpen', { amount: 2, radius: 0.01 }],
  ])('%s', (kind, settings) => {
    const t = read([{ kind, settings }], {
      masks: [{ id: 'm', feather: 0.05, parts: [{ kind: 'oval', centre: [0.4, 0.5], radii: [0.3, 0.2] }] }],
    });
    t.steps[0].mask = 'm';
    const small = rendered(t, paint(150, 100, scene));
    const large = rendered(t, paint(600, 400, scene));
    let worst = 0;
    for (let y = 2; y < 98; y++) {
      for (let x = 2; x < 148; x++) {
        const a = pixelAt(small, x, y);
        const b = [0, 1, 2].map(k => {
          let sum = 0;
          for (const dy of [1, 2]) for (const dx of [1, 2]) sum += pixelAt(large, x * 4 + dx, y * 4 + dy)[k];
          return sum / 4;
        });
        worst = Math.max(worst, ...a.map((v, k) => Math.abs(v - b[k])));
      }
    }
    expect(worst * 255).toBeLessThan(5);
  });
});

describe('keep colour', () => {
  it('gives back the photograph with its Ground steps, under a conversion', () => {
    const source = picture(40, 30);
    const ground = { kind: 'light', settings: { exposure: -0.4 } };
    const only = rendered(read([ground]), source).codes;
    const kept = rendered(
      read([
        ground,
        { kind: 'mono' },
        {
          kind: 'curve',
          settings: {
            points: {
              all: [
                [0, 0.2],
                [1, 0.8],
              ],
            },
          },
        },
        { kind: 'keep-colour' },
      ]),
      source,
    ).codes;
    kept.forEach((v, i) => expect(Math.abs(v - only[i]) / 257).toBeLessThan(1));
    // The same behind a step that looks around, where the ground is kept as a picture.
    const behind = rendered(
      read([
        ground,
        { kind: 'mono' },
        { kind: 'local-contrast', stage: 'tone', settings: { coarse: 1 } },
        { kind: 'keep-colour' },
      ]),
      source,
    ).codes;
    behind.forEach((v, i) => expect(Math.abs(v - only[i]) / 257).toBeLessThan(1));
  });

  it('by hue family, the rest mono, boosted', () => {
    const source = paint(40, 20, x => (x < 0.5 ? [0.8, 0.3, 0.25] : [0.2, 0.4, 0.8]));
    const t = read([{ kind: 'mono' }, { kind: 'keep-colour', mask: 'reds', settings: { saturation: 0.2 } }], {
      masks: [{ id: 'reds', parts: [{ kind: 'hues', centre: 5, width: 60 }] }],
    });
    const out = rendered(t, source);
    expect(oklch(pixelAt(out, 5, 5)).chroma).toBeGreaterThan(oklch(pixelAt(source, 5, 5)).chroma);
    expect(oklch(pixelAt(out, 35, 5)).chroma).toBeLessThan(1e-4);
  });
});

describe('wash', () => {
  const grey = picture(60, 40, true);
  it('in mix color keeps the luma of the format, shading and grain beneath', () => {
    const lum = ([r, g, b]: number[]) => 0.3 * r + 0.59 * g + 0.11 * b;
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 0xffffff }), n => {
        const colour = `#${n.toString(16).padStart(6, '0')}`;
        const out = rendered(
          read([{ kind: 'wash', settings: { pigment: { kind: 'flat', colour } } }]),
          grey,
          { grey: true },
        );
        for (let i = 0; i < 2400; i += 97) {
          const x = i % 60;
          const y = Math.floor(i / 60);
          expect(lum(pixelAt(out, x, y))).toBeCloseTo(pixelAt(grey, x, y)[0], 2);
        }
      }),
      { numRuns: 20 },
    );
  });

  it('a ramp follows the tone beneath', () => {
    const stops = [
      { at: 0, colour: '#402018' },
      { at: 1, colour: '#f0c8a8' },
    ];
    const t = read([{ kind: 'wash', mix: 'normal', settings: { pigment: { kind: 'ramp', stops } } }]);
    const out = rendered(t, grey, { grey: true });
    expect(luma(...pixelAt(out, 3, 5))).toBeLessThan(luma(...pixelAt(out, 55, 5)) - 0.4);
  });

  it('a ground colour beneath leaves the washes above it as they are', () => {
    const wash = (colour: string, mask: string | null, mix = 'normal') => ({
      kind: 'wash',
      mix,
      mask,
      settings: { pigment: { kind: 'flat', colour } },
    });
    const masks = [{ id: 'm', parts: [{ kind: 'oval', radii: [0.2, 0.2], feather: 0 }] }];
    const alone = rendered(read([wash('#b07030', 'm')], { masks }), grey);
    const over = rendered(read([wash('#e8d8b0', null, 'soft-light'), wash('#b07030', 'm')], { masks }), grey);
    expect(pixelAt(over, 30, 20)).toEqual(pixelAt(alone, 30, 20));
    expect(pixelAt(over, 2, 2)).not.toEqual(pixelAt(alone, 2, 2));
  });
});
