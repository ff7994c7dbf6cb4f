import { LUMINANCE } from '../colour/srgb';
import { toEncoded, toLinear } from '../colour/transfer';

/**
 * The spaces that files go out in. Colours are worked out in encoded sRGB, not clipped, so that a wider space holds what lies beyond
 * sRGB. Sources of the matrices: CSS Color 4 (lin_sRGB to XYZ, XYZ to lin_P3); ITU-R BT.2087 (BT.709 to BT.2020).
 */
export interface OutputSpace {
  /** Linear sRGB to its own linear primaries, row by row; of a grey one none. */
  matrix?: readonly number[];
  /** Of a grey one: the power that its codes are raised to for light; null for the tone curve of sRGB. */
  gamma?: number | null;
}

/** As a profile's numbers hold 2.2: in steps of 1/256. */
export const GAMMA = 563 / 256;

export const outputSpaces = {
  srgb: {},
  'display-p3': {
    matrix: [
      0.8224619688, 0.1775380312, 0, 0.0331941989, 0.9668058011, 0, 0.0170826307, 0.0723974407, 0.9105199286,
    ],
  },
  wide: {
    matrix: [
      0.6274038959, 0.3292830384, 0.0433130657, 0.0690972894, 0.9195403951, 0.0113623156, 0.0163914389,
      0.0880133079, 0.8955952532,
    ],
  },
  grey: { gamma: null },
  'grey-gamma': { gamma: GAMMA },
} as const satisfies Record<string, OutputSpace>;
export type SpaceName = keyof typeof outputSpaces;

export const spaceOf = (name: SpaceName): OutputSpace => outputSpaces[name];

export const isGreySpace = (name: SpaceName): boolean => spaceOf(name).gamma !== undefined;

/** Encoded sRGB to the encoding of a space of other primaries and the same curve, in place. */
export function toPrimaries(rgb: Float32Array, matrix: readonly number[]): void {
  const [rr, rg, rb, gr, gg, gb, br, bg, bb] = matrix;
  for (let i = 0; i < rgb.length; i += 3) {
    const r = toLinear(rgb[i]);
    const g = toLinear(rgb[i + 1]);
    const b = toLinear(rgb[i + 2]);
    rgb[i] = toEncoded(rr * r + rg * g + rb * b);
    rgb[i + 1] = toEncoded(gr * r + gg * g + gb * b);
    rgb[i + 2] = toEncoded(br * r + bg * g + bb * b);
  }
}

const [R, G, B] = LUMINANCE;
const clip = (v: number) => Math.min(1, Math.max(0, v));

/** Encoded sRGB to the grey of equal luminance with a plain power as its curve, the same in all three channels, in place. */
export function toGreyGamma(rgb: Float32Array, gamma: number): void {
  const power = 1 / gamma;
  for (let i = 0; i < rgb.length; i += 3) {
    const y = R * toLinear(clip(rgb[i])) + G * toLinear(clip(rgb[i + 1])) + B * toLinear(clip(rgb[i + 2]));
    rgb[i] = rgb[i + 1] = rgb[i + 2] = y ** power;
  }
}

/** The first channel of RGB codes. */
export function firstOf<A extends Uint8Array | Uint16Array>(codes: A): A {
  const out = codes.slice(0, codes.length / 3) as A;
  for (let i = 0; i < out.length; i++) out[i] = codes[i * 3];
  return out;
}
