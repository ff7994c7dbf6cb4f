import type { Font } from '@pdf-lib/fontkit';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';

/** The two typefaces that ship with the application, to write on paper and on pictures. */

const require = createRequire(import.meta.url);
const files = {
  serif: '@fontsource/instrument-serif/files/instrument-serif-latin-400-normal.woff',
  sans: '@fontsource/instrument-sans/files/instrument-sans-latin-400-normal.woff',
};
export type Face = keyof typeof files;

/** The file of a typeface. */
export const faceFile = (face: Face): Promise<Buffer> => readFile(require.resolve(files[face]));

const known = new Map<Face, Promise<Font>>();
/** The reader of typefaces is large, and few servers write anything before they have served for a while. */
async function read(face: Face): Promise<Font> {
  const [bytes, { default: fontkit }] = await Promise.all([faceFile(face), import('@pdf-lib/fontkit')]);
  return fontkit.create(bytes);
}
const faceOf = (face: Face): Promise<Font> => {
  let font = known.get(face);
  if (!font) known.set(face, (font = read(face)));
  return font;
};

/** Both typefaces, to measure and to draw with. */
export interface Faces {
  /** A text without what the typeface has no letters for. */
  known: (text: string, face: Face) => string;
  width: (text: string, face: Face, size: number) => number;
  /** The outlines of a text as SVG, its baseline from the origin to the right, in the colour of what it stands in. */
  outlines: (text: string, face: Face, size: number) => string;
}

export async function loadFaces(): Promise<Faces> {
  const fonts = { serif: await faceOf('serif'), sans: await faceOf('sans') };
  const laid = (text: string, face: Face) => fonts[face].layout(text);
  const scaled = (face: Face, size: number) => size / fonts[face].unitsPerEm;
  return {
    known: (text, face) =>
      [...text].filter(c => fonts[face].hasGlyphForCodePoint(c.codePointAt(0)!)).join(''),
    width: (text, face, size) =>
      laid(text, face).positions.reduce((sum, { xAdvance }) => sum + xAdvance, 0) * scaled(face, size),
    outlines: (text, face, size) => {
      const { glyphs, positions } = laid(text, face);
      let x = 0;
      const letters = glyphs.map((glyph, i) => {
        const { xAdvance, xOffset, yOffset } = positions[i];
        const letter = `<path transform="translate(${x + xOffset} ${yOffset})" d="${glyph.path.toSVG()}"/>`;
        x += xAdvance;
        return letter;
      });
      // The letters' own coordinates go upwards.
      const scale = scaled(face, size);
      return `<g transform="scale(${scale} ${-scale})">${letters.join('')}</g>`;
    },
  };
}

/** A text no longer than so many points: cut off with dots where it is longer. */
export function cutTo(faces: Faces, text: string, face: Face, size: number, width: number): string {
  const written = faces.known(text, face);
  if (faces.width(written, face, size) <= width) return written;
  const letters = [...written];
  const cut = (count: number) => `${letters.slice(0, count).join('').trimEnd()}…`;
  const fits = (count: number) => faces.width(cut(count), face, size) <= width;
  // By halves: measuring is slow, and a text may be long. No letters at all are the least that is left.
  let [least, most] = [0, letters.length];
  while (most - least > 1) {
    const middle = (least + most) >> 1;
    if (fits(middle)) least = middle;
    else most = middle;
  }
  return cut(least);
}

/** A text in lines of no more than so many points, broken between words. */
export function broken(faces: Faces, text: string, face: Face, size: number, width: number): string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of faces.known(text, face).split(/\s+/).filter(Boolean)) {
    const longer = line ? `${line} ${word}` : word;
    if (line && faces.width(longer, face, size) > width) {
      lines.push(line);
      line = word;
    } else line = longer;
  }
  if (line) lines.push(line);
  return lines.map(each => cutTo(faces, each, face, size, width));
}
