import sharp from 'sharp';
import type { SendOutSettings } from '../../contract/send-outs';
import { asColours } from '../../core/engine/cube';
import { exactly } from '../../core/engine/lay';
import { printOn, withBorder } from '../../core/kernels/border';
import { write16, write8 } from '../../core/kernels/codes';
import { greyOf } from '../../core/kernels/luminance';
import { firstOf, spaceOf, toGreyGamma, toPrimaries, type SpaceName } from '../../core/kernels/output-space';
import type { Treatment } from '../../core/treatment/treatment';
import { cutTo, loadFaces, type Face, type Faces } from '../sheets/faces';
import type { Rendered } from './renderer';

/** A border about a finished picture, with a line beneath it. */

export type Border = SendOutSettings['border'];

/** What the line says: at the left, and at the right. */
export interface Caption {
  title: string;
  rights: string;
}

/** The size of the title as a share of the long edge; of the rights as a share of that. */
const TITLE = 0.017;
const RIGHTS = 0.62;
/** The line's height, in title sizes; its baseline within it. */
const HEIGHT = 2.6;
const BASELINE = 1.35;
/** Inks: on white as on sheets; on toned paper what the treatment makes of nearly black. */
const INK = 0.11;
const GREY_INK = 0.38;
/** Toned paper is what the treatment makes of a tone just beneath white: white itself takes no colour from most. */
export const PAPER = 0.965;

/** A grey (0..1) after the steps of a treatment that see each colour alone, or as it is. */
function tonedGrey(treatment: Treatment | null, grey: number): number[] {
  const colour = Float64Array.of(grey, grey, grey);
  if (treatment) exactly(asColours(treatment))(colour);
  return [...colour];
}

/** A colour in encoded sRGB as codes of a file's space and bits. */
function codesOf(colour: readonly number[], profile: SpaceName, bits: 8 | 16): number[] {
  const values = Float32Array.from(colour);
  const { matrix, gamma } = spaceOf(profile);
  if (matrix) toPrimaries(values, matrix);
  else if (gamma) toGreyGamma(values, gamma);
  const codes = bits === 8 ? new Uint8Array(3) : new Uint16Array(3);
  // At the place where an even colour is not dithered apart.
  if (codes instanceof Uint8Array) write8(values, 1, codes, 0, 3, 0, 0);
  else write16(values, 1, codes, 0);
  if (gamma === undefined) return [...codes];
  return [...(gamma === null ? greyOf(codes) : firstOf(codes))];
}

/** A line as how much ink it puts on a strip. */
async function inked(
  faces: Faces,
  size: { width: number; height: number },
  lines: { text: string; face: Face; size: number; x: number; ink: number }[],
  baseline: number,
): Promise<Uint8Array> {
  const shapes = lines.map(
    ({ text, face, size: points, x, ink }) =>
      `<g transform="translate(${x} ${baseline})" fill="#fff" fill-opacity="${ink}">${faces.outlines(text, face, points)}</g>`,
  );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${size.width}" height="${size.height}"><rect width="100%" height="100%" fill="#000"/>${shapes.join('')}</svg>`;
  return sharp(Buffer.from(svg), { limitInputPixels: false })
    .removeAlpha()
    .extractChannel(0)
    .raw()
    .toBuffer();
}

/** A rendered picture with its border. */
export async function bordered(
  { codes, width, height }: Rendered,
  { width: share, colour, caption }: Border,
  treatment: Treatment,
  { profile, bits }: { profile: SpaceName; bits: 8 | 16 },
  said: Caption,
): Promise<Rendered> {
  const longEdge = Math.max(width, height);
  const edge = Math.round(share * longEdge);
  const size = TITLE * longEdge;
  const line = caption ? Math.max(0, Math.round(size * HEIGHT) - edge) : 0;
  const toned = colour === 'paper' ? treatment : null;
  const code = (grey: number) => codesOf(tonedGrey(toned, grey), profile, bits);
  const edges = { left: edge, right: edge, top: edge, bottom: edge + line };
  const made = withBorder(codes, { width, height }, edges, code(toned ? PAPER : 1));
  if (!caption) return made;
  const faces = await loadFaces();
  const small = size * RIGHTS;
  const rights = cutTo(faces, said.rights, 'sans', small, width * 0.5);
  const wide = faces.width(rights, 'sans', small);
  const title = cutTo(faces, said.title, 'serif', size, width - (wide ? wide + size : 0));
  const strip = { width: made.width, height: edges.bottom };
  const cover = await inked(
    faces,
    strip,
    [
      { text: title, face: 'serif', size, x: edge, ink: 1 },
      {
        text: rights,
        face: 'sans',
        size: small,
        x: edge + width - wide,
        ink: 1 - (GREY_INK - INK) / (1 - INK),
      },
    ],
    Math.min(size * BASELINE, strip.height - size * 0.3),
  );
  printOn(made.codes, made.width, edge + height, cover, code(INK));
  return made;
}
