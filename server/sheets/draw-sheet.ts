import { contactSheet, type Pictured } from './contact-sheet';
import { loadFaces } from './faces';
import { pdfPaper, picturePaper, type PaperFile } from './paper';
import { treatmentCard, type Card } from './treatment-card';

/** Of sheets as pictures, dots an inch. */
const DPI = 300;

/** A sheet that is to be drawn, with all its pictures: in rows, or cards of treatments, each on pages of its own. */
export type Sheet = { title: string; as: 'pdf' | 'png' | 'jpeg' } & (
  | {
      what: 'pictures';
      date: string;
      pictures: readonly Pictured[];
      how: Parameters<typeof contactSheet>[3];
    }
  | { what: 'cards'; cards: readonly Card[]; how: Parameters<typeof treatmentCard>[3] }
);

/** Draws a sheet. @returns its files: a PDF of all pages, or a picture of each */
export async function drawSheet(sheet: Sheet): Promise<PaperFile[]> {
  const { title, as } = sheet;
  const faces = await loadFaces();
  const paper = as === 'pdf' ? await pdfPaper(title) : picturePaper(faces, DPI, as === 'png' ? 'png' : 'jpg');
  if (sheet.what === 'cards') {
    for (const card of sheet.cards) await treatmentCard(paper, faces, card, sheet.how);
  } else {
    await contactSheet(paper, faces, sheet, sheet.how);
  }
  return paper.finish();
}
