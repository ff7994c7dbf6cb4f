import fc from 'fast-check';
import { PDFDocument } from 'pdf-lib';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { contactSheet } from './contact-sheet';
import { broken, cutTo, loadFaces, type Faces } from './faces';
import { pdfPaper, picturePaper } from './paper';
import { treatmentCard } from './treatment-card';

const jpeg = await sharp({ create: { width: 30, height: 20, channels: 3, background: '#888' } })
  .jpeg()
  .toBuffer();
const text = fc.string({
  unit: fc.constantFrom(...'aÄß“… ', 'ф', '漢', '🛶', '\u0000', '\n', '\u202e', '<', '&'),
  maxLength: 200,
});
let faces: Faces;
beforeAll(async () => {
  faces = await loadFaces();
});

describe('text on paper', () => {
  it('is cut and broken within its width, and loses no word that fits', () => {
    fc.assert(
      fc.property(text, fc.double({ min: 30, max: 400, noNaN: true }), (written, width) => {
        expect(faces.width(cutTo(faces, written, 'serif', 12, width), 'serif', 12)).toBeLessThanOrEqual(
          width,
        );
        const lines = broken(faces, written, 'sans', 9, width);
        for (const line of lines) expect(faces.width(line, 'sans', 9)).toBeLessThanOrEqual(width);
        const words = faces.known(written, 'sans').split(/\s+/).filter(Boolean);
        if (words.every(word => faces.width(word, 'sans', 9) <= width)) {
          expect(lines.join(' ')).toBe(words.join(' '));
        }
      }),
    );
  });
});

describe('a sheet', () => {
  const how = { paper: 'a4', lying: false, margin: 10, columns: 2, captions: true, shape: 1.5 } as const;

  it('is made whatever things are called, as a PDF and as a picture that can be read', async () => {
    await fc.assert(
      fc.asyncProperty(text, text, text, async (title, called, note) => {
        const sheet = {
          title,
          date: '27 November 2026',
          pictures: [{ jpeg, number: '1', title: called, note }],
        };
        const pdf = await pdfPaper(title);
        await contactSheet(pdf, faces, sheet, how);
        const [{ bytes }] = await pdf.finish();
        expect((await PDFDocument.load(bytes)).getPageCount()).toBe(1);
        const picture = picturePaper(faces, 50, 'png');
        await contactSheet(picture, faces, sheet, how);
        const [file] = await picture.finish();
        const { width, height, density } = await sharp(file.bytes).metadata();
        expect([width, height, density]).toEqual([413, 585, 50]);
      }),
      { numRuns: 20 },
    );
  });

  it('has the same ink at the same places as a PDF and as a picture', async () => {
    const sheet = {
      title: 'Low water',
      date: '27 November 2026',
      pictures: [{ jpeg, number: '1', title: 'Hull', note: 'Take A' }],
    };
    const picture = picturePaper(faces, 72, 'png');
    await contactSheet(picture, faces, sheet, how);
    const [{ bytes }] = await picture.finish();
    const { data, info } = await sharp(bytes).greyscale().raw().toBuffer({ resolveWithObject: true });
    const inkIn = (left: number, top: number, width: number, height: number) => {
      let ink = 0;
      for (let y = top; y < top + height; y++)
        for (let x = left; x < left + width; x++) ink += 255 - data[y * info.width + x];
      return ink / width / height;
    };
    // The title at the upper left, the date at the upper right, the picture beneath, and nothing in the margins.
    expect(inkIn(28, 30, 90, 24)).toBeGreaterThan(15);
    expect(inkIn(500, 40, 66, 16)).toBeGreaterThan(8);
    expect(inkIn(40, 90, 200, 100)).toBeGreaterThan(100);
    expect(inkIn(0, 0, 595, 26)).toBe(0);
    expect(inkIn(0, 300, 595, 500)).toBe(0);
  });
});

describe('a treatment card', () => {
  it('has all steps, on as many pages as they take, whatever they say', async () => {
    const told = fc.record({
      name: text,
      value: text,
      colours: fc.option(fc.array(fc.constant('#8c3f2c'), { maxLength: 30 }), { nil: undefined }),
      curve: fc.constant<[number, number][] | undefined>([
        [0, 0.1],
        [1, 1],
      ]),
    });
    const step = fc.record({
      name: text,
      stage: fc.constant('Tone'),
      area: fc.option(text),
      told: fc.array(told, { maxLength: 12 }),
      jpeg: fc.constantFrom(jpeg, null),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(step, { maxLength: 14 }), async steps => {
        const pdf = await pdfPaper('card');
        const card = {
          series: 's',
          title: 't',
          take: 'Take A',
          date: 'd',
          bare: jpeg,
          finished: jpeg,
          whole: [],
          steps,
        };
        await treatmentCard(pdf, faces, card, { paper: 'a4', margin: 15 });
        const [{ bytes }] = await pdf.finish();
        const pages = (await PDFDocument.load(bytes)).getPageCount();
        expect(pages).toBeGreaterThanOrEqual(1);
        expect(pages).toBeLessThanOrEqual(1 + steps.length);
      }),
      { numRuns: 15 },
    );
  });
});
