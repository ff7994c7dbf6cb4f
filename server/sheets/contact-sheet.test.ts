import fc from 'fast-check';
import { PDFDocument } from 'pdf-lib';
import sharp from 'sharp';
import { expect, it } from 'vitest';
import { contactSheet } from './contact-sheet';

it('is made whatever things are called, and is a PDF that can be read', async () => {
  const jpeg = await sharp({ create: { width: 30, height: 20, channels: 3, background: '#888' } })
    .jpeg()
    .toBuffer();
  const how = { paper: 'a4', lying: false, margin: 10, columns: 2, captions: true, shape: 1.5 } as const;
  const text = fc.string({
    unit: fc.constantFrom(...'aÄß“…', 'ф', '漢', '🛶', '\u0000', '\n', '\u202e'),
    maxLength: 200,
  });
  await fc.assert(
    fc.asyncProperty(text, text, text, async (title, called, note) => {
      const pictures = [{ jpeg, number: '1', title: called, note }];
      const pdf = await contactSheet({ title, date: '27 November 2026', pictures }, how);
      expect((await PDFDocument.load(pdf)).getPageCount()).toBe(1);
    }),
    { numRuns: 25 },
  );
});
