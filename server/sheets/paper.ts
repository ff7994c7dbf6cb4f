import fontkit from '@pdf-lib/fontkit';
import { LineCapStyle, PDFDocument, rgb, type PDFFont, type PDFPage } from 'pdf-lib';
import sharp, { type OverlayOptions } from 'sharp';
import { faceFile, type Face, type Faces } from './faces';
import type { Box } from './layout';

/** What sheets are laid on: pages with text, pictures and plain shapes, in points from the upper left of a page. */
export interface Paper {
  /** Begins a page of so many points. */
  page: (width: number, height: number) => void;
  /** Writes a line of text, its baseline at a height. */
  write: (
    text: string,
    at: { x: number; y: number },
    how: { face: Face; size: number; colour: string },
  ) => void;
  /** Lays a JPEG into a box of its shape. */
  picture: (jpeg: Uint8Array, box: Box) => Promise<void>;
  /** Fills a box with a colour `#rrggbb`, with a line around it where that is wanted. */
  fill: (box: Box, colour: string, edge?: string) => void;
  /** Draws a line through points. */
  line: (points: readonly (readonly [number, number])[], colour: string, width: number) => void;
}

/** A file of a sheet that is finished. */
export interface PaperFile {
  bytes: Uint8Array;
  ending: 'pdf' | 'png' | 'jpg';
  mediaType: string;
}

export interface Finishing extends Paper {
  /** The files: a PDF of all pages, or a picture of each. */
  finish: () => Promise<PaperFile[]>;
}

const parsed = (colour: string) =>
  rgb(...([1, 3, 5].map(i => parseInt(colour.slice(i, i + 2), 16) / 255) as [number, number, number]));

/** Paper as a PDF: text as text, in fonts that it carries. */
export async function pdfPaper(title: string): Promise<Finishing> {
  const document = await PDFDocument.create();
  document.registerFontkit(fontkit);
  const embed = async (face: Face) => document.embedFont(await faceFile(face), { subset: true });
  const fonts: Record<Face, PDFFont> = { serif: await embed('serif'), sans: await embed('sans') };
  document.setTitle(title);
  document.setCreator('Lamp Wash');
  let page: PDFPage;
  const up = (y: number) => page.getHeight() - y;
  return {
    page: (width, height) => {
      page = document.addPage([width, height]);
    },
    write: (text, { x, y }, { face, size, colour }) =>
      page.drawText(text, { x, y: up(y), font: fonts[face], size, color: parsed(colour) }),
    picture: async (jpeg, { x, y, width, height }) => {
      const image = await document.embedJpg(jpeg);
      page.drawImage(image, { x, y: up(y + height), width, height });
    },
    fill: ({ x, y, width, height }, colour, edge) =>
      page.drawRectangle({
        x,
        y: up(y + height),
        width,
        height,
        color: parsed(colour),
        ...(edge && { borderColor: parsed(edge), borderWidth: 0.5 }),
      }),
    line: (points, colour, thickness) => {
      points.slice(1).forEach(([x, y], i) =>
        page.drawLine({
          start: { x: points[i][0], y: up(points[i][1]) },
          end: { x, y: up(y) },
          thickness,
          color: parsed(colour),
          lineCap: LineCapStyle.Round,
        }),
      );
    },
    finish: async () => [{ bytes: await document.save(), ending: 'pdf', mediaType: 'application/pdf' }],
  };
}

/** What a page of pictures is made of: shapes beneath and above the pictures as SVG, the pictures where they stand. */
interface Drawn {
  width: number;
  height: number;
  shapes: string[];
  pictures: OverlayOptions[];
}

/** Paper as pictures of each page, at so many dots an inch. */
export function picturePaper(faces: Faces, dpi: number, ending: 'png' | 'jpg'): Finishing {
  const dots = dpi / 72;
  const pages: Drawn[] = [];
  const now = () => pages.at(-1)!;
  const draw = (shape: string) => now().shapes.push(shape);
  const made = async ({ width, height, shapes, pictures }: Drawn): Promise<PaperFile> => {
    const size = { width: Math.round(width * dots), height: Math.round(height * dots) };
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${size.width}" height="${size.height}" viewBox="0 0 ${width} ${height}">${shapes.join('')}</svg>`;
    const page = sharp({ create: { ...size, channels: 3, background: '#ffffff' } })
      .composite([...pictures, { input: Buffer.from(svg) }])
      .withMetadata({ density: dpi });
    const bytes = await (
      ending === 'png' ? page.png() : page.jpeg({ quality: 92, chromaSubsampling: '4:4:4' })
    ).toBuffer();
    return { bytes, ending, mediaType: ending === 'png' ? 'image/png' : 'image/jpeg' };
  };
  return {
    page: (width, height) => {
      pages.push({ width, height, shapes: [], pictures: [] });
    },
    write: (text, { x, y }, { face, size, colour }) => {
      draw(`<g transform="translate(${x} ${y})" fill="${colour}">${faces.outlines(text, face, size)}</g>`);
    },
    picture: async (jpeg, { x, y, width, height }) => {
      const input = await sharp(jpeg)
        .resize(Math.max(1, Math.round(width * dots)), Math.max(1, Math.round(height * dots)), {
          fit: 'fill',
        })
        .toBuffer();
      now().pictures.push({ input, left: Math.round(x * dots), top: Math.round(y * dots) });
    },
    fill: ({ x, y, width, height }, colour, edge) => {
      const around = edge ? ` stroke="${edge}" stroke-width="0.5"` : '';
      draw(`<rect x="${x}" y="${y}" width="${width}" height="${height}" fill="${colour}"${around}/>`);
    },
    line: (points, colour, width) => {
      draw(
        `<polyline points="${points.map(p => p.join(',')).join(' ')}" fill="none" stroke="${colour}" stroke-width="${width}" stroke-linecap="round"/>`,
      );
    },
    // One after another: a page of A3 takes a hundred megabytes while it is made.
    finish: async () => {
      const files: PaperFile[] = [];
      for (const page of pages) files.push(await made(page));
      return files;
    },
  };
}
