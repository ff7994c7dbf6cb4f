import fontkit from '@pdf-lib/fontkit';
import { PDFDocument, rgb, type PDFFont, type PDFPage } from 'pdf-lib';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { fitted, layOutSheet, type Asked, type Box } from './layout';

/** Sheets to print: pictures in rows, with captions as text in the fonts that ship with the application. */

const require = createRequire(import.meta.url);
const FONTS = {
  serif: '@fontsource/instrument-serif/files/instrument-serif-latin-400-normal.woff',
  sans: '@fontsource/instrument-sans/files/instrument-sans-latin-400-normal.woff',
};

/** A picture of a sheet: a JPEG, and what is written beneath. */
export interface Pictured {
  jpeg: Buffer;
  /** Before the title: its number in the series. */
  number: string;
  title: string;
  /** Small, beneath the title. */
  note: string;
}

const INK = rgb(0.11, 0.11, 0.11);
const GREY = rgb(0.38, 0.38, 0.38);
const TITLE = 24;
const CAPTION = 10.5;
const NOTE = 8;

/** Text that a font has, no longer than so many points: cut off with dots where it is longer. */
function cutTo(text: string, font: PDFFont, size: number, width: number): string {
  const known = new Set(font.getCharacterSet());
  const written = [...text].filter(c => known.has(c.codePointAt(0)!)).join('');
  if (font.widthOfTextAtSize(written, size) <= width) return written;
  let end = [...written];
  while (end.length && font.widthOfTextAtSize(`${end.join('').trimEnd()}…`, size) > width)
    end = end.slice(0, -1);
  return `${end.join('').trimEnd()}…`;
}

/** Writes a line in a box, its baseline so far beneath the box's top; the page counts upwards from its bottom. */
function write(
  page: PDFPage,
  text: string,
  { x, y, width }: Box,
  { font, size, down, colour = INK }: { font: PDFFont; size: number; down: number; colour?: typeof INK },
): number {
  const shown = cutTo(text, font, size, width);
  page.drawText(shown, { x, y: page.getHeight() - y - down, font, size, color: colour });
  return font.widthOfTextAtSize(shown, size);
}

/**
 * A sheet as a PDF.
 * @param title of the series; with the date behind it on the first page
 * @param pairs two pictures beside one another belong together: the caption is written once beneath them
 */
export async function contactSheet(
  { title, date, pictures }: { title: string; date: string; pictures: readonly Pictured[] },
  how: Omit<Asked, 'caption' | 'title'> & { captions: boolean },
): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  document.registerFontkit(fontkit);
  const [serif, sans] = await Promise.all(
    [FONTS.serif, FONTS.sans].map(async file =>
      document.embedFont(await readFile(require.resolve(file)), { subset: true }),
    ),
  );
  document.setTitle(title);
  document.setCreator('Lamp Wash');
  const sheet = layOutSheet(pictures.length, { ...how, caption: how.captions ? 30 : 0, title: 40 });
  for (const [n, { cells }] of sheet.pages.entries()) {
    const page = document.addPage([sheet.width, sheet.height]);
    if (n === 0) {
      const width = sans.widthOfTextAtSize(date, NOTE + 1);
      const { x, y } = sheet.title;
      write(
        page,
        title,
        { ...sheet.title, width: sheet.title.width - width - 12 },
        { font: serif, size: TITLE, down: TITLE },
      );
      const right = { x: x + sheet.title.width - width, y, width: width + 1, height: 0 };
      write(page, date, right, { font: sans, size: NOTE + 1, down: TITLE, colour: GREY });
    }
    for (const { index, picture, caption } of cells) {
      const { jpeg, number, title: called, note } = pictures[index];
      const image = await document.embedJpg(jpeg);
      const place = fitted(picture, image);
      page.drawImage(image, {
        x: place.x,
        y: sheet.height - place.y - place.height,
        width: place.width,
        height: place.height,
      });
      if (!how.captions) continue;
      const before = number
        ? write(page, number, caption, { font: sans, size: NOTE, down: 14, colour: GREY }) + 6
        : 0;
      const beside = { ...caption, x: caption.x + before, width: caption.width - before };
      write(page, called, beside, { font: serif, size: CAPTION + 2, down: 14 });
      write(page, note, caption, { font: sans, size: NOTE, down: 25, colour: GREY });
    }
    if (sheet.pages.length > 1) {
      const foot = { x: sheet.title.x, y: sheet.height - 20, width: sheet.title.width, height: 10 };
      write(page, `${n + 1} of ${sheet.pages.length}`, foot, {
        font: sans,
        size: NOTE,
        down: 6,
        colour: GREY,
      });
    }
  }
  return document.save();
}
