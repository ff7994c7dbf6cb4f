import sharp from 'sharp';
import type { Faces } from './faces';
import { fitted, layOutSheet, type Asked } from './layout';
import type { Finishing } from './paper';
import { GREY, INK, NOTE, TITLE, writeWithin } from './type';

/** Sheets to print: pictures in rows, with captions. */

/** A picture of a sheet: a JPEG, and what is written beneath. */
export interface Pictured {
  jpeg: Uint8Array;
  /** Before the title: its number in the series. */
  number: string;
  title: string;
  /** Small, beneath the title. */
  note: string;
}

/** A size as a picture is drawn on paper. */
export async function sizeOf(jpeg: Uint8Array): Promise<{ width: number; height: number }> {
  const { width = 1, height = 1 } = await sharp(jpeg).metadata();
  return { width, height };
}

const CAPTION = 12.5;

/**
 * Lays pictures on paper, in rows; pairs stand beside one another where columns are even.
 * @param title of the series; with the date behind it on the first page
 */
export async function contactSheet(
  paper: Finishing,
  faces: Faces,
  { title, date, pictures }: { title: string; date: string; pictures: readonly Pictured[] },
  how: Omit<Asked, 'caption' | 'title'> & { captions: boolean },
): Promise<void> {
  const sheet = layOutSheet(pictures.length, { ...how, caption: how.captions ? 30 : 0, title: 40 });
  const sans = { face: 'sans', size: NOTE, colour: GREY } as const;
  for (const [n, { cells }] of sheet.pages.entries()) {
    paper.page(sheet.width, sheet.height);
    const { x, y, width } = sheet.title;
    if (n === 0) {
      const dated = { ...sans, size: NOTE + 1 };
      const wide = faces.width(faces.known(date, 'sans'), 'sans', dated.size);
      const serif = { face: 'serif', size: TITLE, colour: INK } as const;
      writeWithin(paper, faces, title, { x, y: y + TITLE, width: width - wide - 12 }, serif);
      writeWithin(paper, faces, date, { x: x + width - wide, y: y + TITLE, width: wide + 1 }, dated);
    }
    for (const { index, picture, caption } of cells) {
      const { jpeg, number, title: called, note } = pictures[index];
      await paper.picture(jpeg, fitted(picture, await sizeOf(jpeg)));
      if (!how.captions) continue;
      const from = { x: caption.x, y: caption.y + 14, width: caption.width };
      const before = number ? writeWithin(paper, faces, number, from, sans) + 6 : 0;
      const beside = { ...from, x: from.x + before, width: from.width - before };
      writeWithin(paper, faces, called, beside, { face: 'serif', size: CAPTION, colour: INK });
      writeWithin(paper, faces, note, { ...from, y: caption.y + 25 }, sans);
    }
    if (sheet.pages.length > 1) {
      const foot = { x, y: sheet.height - 14, width };
      writeWithin(paper, faces, `${n + 1} of ${sheet.pages.length}`, foot, sans);
    }
  }
}
