import type * as Lcms from 'lcms-wasm';
import { profileToSrgb } from '../../core/kernels/profile-codes';
import { PictureError } from './bounds';

/**
 * Profiles of any kind, read through Little CMS. It is asked for tables, exactly and once a file; whole pictures go through
 * it only where a profile's channels do not simply add up in light.
 */

type Engine = Awaited<ReturnType<typeof Lcms.instantiate>>;

let started: Promise<{ engine: Engine; types: typeof Lcms }> | undefined;

/** Starts the engine when it is first needed. */
function start() {
  started ??= import('lcms-wasm').then(async types => ({ engine: await types.instantiate(), types }));
  return started;
}

const FULL = 65536;
/** The largest profile that is read. */
const MOST_PROFILE = 4 * 1024 * 1024;

/** Formats of the engine, in single precision: with whole numbers it would go by way of 16 bits of XYZ. */
const float = (space: number, channels: number) => (1 << 22) | (space << 16) | (channels << 3) | 4;
const GREY = float(3, 1);
const RGB = float(4, 3);
const XYZ = float(9, 3);

/** Relative colorimetric: the perceptual intent of version 4 would move black. */
const COLORIMETRIC = 1;

/** What a profile makes of a file's codes. */
export type Conversion =
  /** Grey codes to sRGB-encoded 16-bit codes, by code. */
  | { channels: 1; table: Uint16Array }
  /** RGB codes to sRGB-encoded ones. */
  | { channels: 3; convert: (codes: Uint16Array) => Uint16Array };

/** Linear light of D50 XYZ in sRGB, from what the engine's own sRGB profile gives for its primaries. */
function inverse(m: number[][]): number[][] {
  const [[a, b, c], [d, e, f], [g, h, i]] = m;
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  return [
    [e * i - f * h, c * h - b * i, b * f - c * e],
    [f * g - d * i, a * i - c * g, c * d - a * f],
    [d * h - e * g, b * g - a * h, a * e - b * d],
  ].map(row => row.map(v => v / det));
}

/** Random colours by which it is seen whether a profile's channels add up. */
const PROBES = 400;
/** Light (of 1) by which they may be off and still do: less than a 16-bit code of the darkest tones. */
const ADDS_UP = 2e-5;

/** Opens a profile. Throws a PictureError where it is none. */
function opened(engine: Engine, icc: Buffer): { profile: number; space: string | undefined } {
  if (icc.length > MOST_PROFILE) throw new PictureError('has a colour profile of more than 4 MB');
  const profile = engine.cmsOpenProfileFromMem(new Uint8Array(icc), icc.length);
  if (!profile) throw new PictureError('has a colour profile that is broken');
  return { profile, space: engine.cmsGetColorSpaceASCII(profile)?.trim() };
}

/** What the engine does; where it fails beyond its own errors, another is started for the next file. */
async function asked<T>(work: (engine: Engine, types: typeof Lcms) => T): Promise<T> {
  const { engine, types } = await start();
  try {
    return work(engine, types);
  } catch (error) {
    if (error instanceof PictureError) throw error;
    started = undefined;
    throw new PictureError('has a colour profile that cannot be read');
  }
}

/**
 * How the codes of a file with a profile become sRGB. Throws a PictureError where the profile does not fit the file, or
 * cannot be read.
 * @param channels of the file, without alpha
 */
export const conversionOf = (icc: Buffer, channels: 1 | 3): Promise<Conversion> =>
  asked((engine, types) => convertedBy(engine, types, icc, channels));

function convertedBy(engine: Engine, types: typeof Lcms, icc: Buffer, channels: 1 | 3): Conversion {
  const { profile, space } = opened(engine, icc);
  try {
    if (space !== 'RGB' && !(space === 'GRAY' && channels === 1)) {
      throw new PictureError(misfit(channels === 1 ? 'grey' : 'colour', space));
    }
    const from = space === 'GRAY' ? GREY : RGB;
    const srgb = engine.cmsCreate_sRGBProfile();
    const direct = engine.cmsCreateTransform(
      profile,
      from,
      srgb,
      RGB,
      COLORIMETRIC,
      types.cmsFLAGS_NOOPTIMIZE,
    );
    if (!direct) throw new PictureError('has a colour profile that cannot be read');
    const through = (values: Float32Array, count: number) => engine.cmsDoTransform(direct, values, count);
    const code = (v: number) => Math.round(Math.min(1, Math.max(0, v)) * 65535);
    if (channels === 1) {
      const per = space === 'GRAY' ? 1 : 3;
      const ramp = Float32Array.from({ length: FULL * per }, (_, i) => Math.floor(i / per) / 65535);
      const rgb = through(ramp, FULL);
      // The middle channel: a neutral has three that are equal but for rounding.
      return { channels: 1, table: Uint16Array.from({ length: FULL }, (_, i) => code(rgb[i * 3 + 1])) };
    }
    const adding = sharesOf(engine, types, profile, srgb);
    return {
      channels: 3,
      convert: codes => {
        const out = new Uint16Array(codes.length);
        if (adding) {
          profileToSrgb(codes, adding, out);
          return out;
        }
        // A part at a time: the engine copies what it is given.
        const PART = 1 << 20;
        for (let at = 0; at < codes.length; at += PART * 3) {
          const part = Float32Array.from(codes.subarray(at, at + PART * 3), v => v / 65535);
          const made = through(part, part.length / 3);
          for (let i = 0; i < made.length; i++) out[at + i] = code(made[i]);
        }
        return out;
      },
    };
  } finally {
    engine.cmsCloseProfile(profile);
  }
}

/** Throws a PictureError where a profile is broken, or is not one for colour pictures. */
export const conversionFits = (icc: Buffer): Promise<void> =>
  asked(engine => {
    const { profile, space } = opened(engine, icc);
    engine.cmsCloseProfile(profile);
    if (space !== 'RGB') throw new PictureError(misfit('colour', space));
  });

const misfit = (what: 'grey' | 'colour', space: string | undefined) =>
  `is in ${what}, and its profile is for ${space === 'GRAY' ? 'grey' : (space ?? 'something else')}`;

/** By channel, what each code gives of linear sRGB; null where the channels of the profile do not add up. */
function sharesOf(
  engine: Engine,
  types: typeof Lcms,
  profile: number,
  srgb: number,
): [Float32Array, Float32Array, Float32Array] | null {
  const xyz = engine.cmsCreateXYZProfile();
  const lightOf = (of: number, values: Float32Array) => {
    const transform = engine.cmsCreateTransform(of, RGB, xyz, XYZ, COLORIMETRIC, types.cmsFLAGS_NOOPTIMIZE);
    const light = engine.cmsDoTransform(transform, values, values.length / 3);
    engine.cmsDeleteTransform(transform);
    return light;
  };
  const primaries = lightOf(srgb, Float32Array.of(1, 0, 0, 0, 1, 0, 0, 0, 1));
  const toLinear = inverse([0, 1, 2].map(row => [0, 1, 2].map(column => primaries[column * 3 + row])));
  const linear = (light: ArrayLike<number>, at: number, row: number) =>
    toLinear[row][0] * light[at] + toLinear[row][1] * light[at + 1] + toLinear[row][2] * light[at + 2];

  const black = lightOf(profile, new Float32Array(3));
  const shares = [0, 1, 2].map(channel => {
    const values = new Float32Array(FULL * 3);
    for (let i = 0; i < FULL; i++) values[i * 3 + channel] = i / 65535;
    const light = lightOf(profile, values);
    const share = new Float32Array(FULL * 3);
    for (let i = 0; i < FULL; i++) {
      for (let row = 0; row < 3; row++) {
        // Black, where it has any light, is counted once.
        share[i * 3 + row] = linear(light, i * 3, row) - (channel === 0 ? 0 : linear(black, 0, row));
      }
    }
    return share;
  }) as [Float32Array, Float32Array, Float32Array];

  const probes = Uint16Array.from({ length: PROBES * 3 }, (_, i) => (i * 40503 + ((i * i) % 7919)) % FULL);
  const light = lightOf(
    profile,
    Float32Array.from(probes, v => v / 65535),
  );
  for (let i = 0; i < PROBES; i++) {
    for (let row = 0; row < 3; row++) {
      const added = shares.reduce((sum, share, k) => sum + share[probes[i * 3 + k] * 3 + row], 0);
      if (Math.abs(added - linear(light, i * 3, row)) > ADDS_UP) return null;
    }
  }
  return shares;
}
