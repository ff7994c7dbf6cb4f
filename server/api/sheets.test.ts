import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { asking, treatmentOf } from '../testing/asking';
import { png8 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';

/** Sheets to print, read back by Poppler's programs. */

const run = promisify(execFile);
let server: TestServer;
let folder: string;
let series: { id: string };
const takes: string[] = [];
beforeAll(async () => {
  server = await testServer();
  folder = await mkdtemp(join(tmpdir(), 'lampwash-sheets-'));
  series = await newSeries('Low water, “the keeper’s”');
  for (let i = 0; i < 7; i++) {
    const photograph = await photographIn(series.id, await png8(90, 60, () => [200, 40 + i * 20, 40]));
    takes.push(photograph.currentTakeId);
    const treatment = treatmentOf({ kind: 'mono' });
    await http().put(`/api/takes/${takes[i]}/treatment`).send({ revision: 1, treatment });
  }
  await http().patch(`/api/takes/${takes[1]}`).send({ name: 'Aged paper' });
});
afterAll(async () => {
  await server.close();
  await rm(folder, { recursive: true, force: true });
});
const { http, newSeries, photographIn } = asking(() => server);

async function sheetOf(settings: object, ids = takes) {
  const answer = await http()
    .post(`/api/series/${series.id}/contact-sheet`)
    .send({ takes: ids, settings })
    .responseType('blob');
  expect(answer.status).toBe(200);
  const path = join(folder, 'sheet.pdf');
  await writeFile(path, answer.body as Buffer);
  const [info, text, fonts, images] = await Promise.all([
    run('pdfinfo', [path]),
    run('pdftotext', ['-layout', path, '-']),
    run('pdffonts', [path]),
    run('pdfimages', ['-list', path]),
  ]);
  /** A page as a picture, 36 dots an inch. */
  const page = async (n: number) => {
    await run('pdftoppm', [
      '-r',
      '36',
      '-f',
      `${n}`,
      '-l',
      `${n}`,
      '-png',
      '-singlefile',
      path,
      join(folder, 'page'),
    ]);
    return sharp(join(folder, 'page.png')).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  };
  return {
    name: answer.headers['content-disposition'],
    info: info.stdout,
    text: text.stdout,
    fonts: fonts.stdout.trim().split('\n').slice(2),
    images: images.stdout.trim().split('\n').slice(2),
    page,
  };
}

/** How much of a page has colour, and how much is darker than paper. */
const inked = ({ data }: { data: Buffer }) => {
  let colour = 0;
  let dark = 0;
  for (let i = 0; i < data.length; i += 3) {
    const [r, g, b] = data.subarray(i, i + 3);
    if (Math.max(r, g, b) - Math.min(r, g, b) > 60) colour++;
    if (g < 220) dark++;
  }
  return { colour: colour / (data.length / 3), dark: dark / (data.length / 3) };
};

describe('a contact sheet', () => {
  it('has the title, the pictures in rows, and captions as text in fonts that it carries', async () => {
    const { info, text, fonts, images, page, name } = await sheetOf({ columns: 3 });
    expect(name).toContain('low-water-the-keepers-contact-sheet.pdf');
    expect(info).toMatch(/Pages:\s+1\n/);
    expect(info).toMatch(/595\.\d+ x 841\.\d+ pts \(A4\)/);
    expect(text).toContain('Low water, “the keeper’s”');
    expect(text).toContain('Take A, Aged paper');
    expect(text.match(/Picture/g)).toHaveLength(7);
    // Each font is in the file, a part of it.
    expect(fonts).toHaveLength(2);
    for (const line of fonts) expect(line).toMatch(/ yes (yes|no )/);
    expect(images).toHaveLength(7);
    const { colour, dark } = inked(await page(1));
    expect(colour).toBe(0);
    expect(dark).toBeGreaterThan(0.15);
  });

  it('goes on over pages, on other papers, without captions', async () => {
    const { info, text, page } = await sheetOf({ columns: 1, lying: true, paper: 'letter', captions: false });
    expect(info).toMatch(/Pages:\s+7\n/);
    expect(info).toMatch(/792 x 612 pts/);
    expect(text).not.toContain('Picture');
    expect(text).toContain('7 of 7');
    expect(inked(await page(7)).dark).toBeGreaterThan(0.3);
  });

  it('sets each beside its bare photograph', async () => {
    const { images, text, page, name } = await sheetOf({ kind: 'before-after', columns: 3 });
    expect(name).toContain('before-and-after');
    expect(images).toHaveLength(14);
    expect(text.match(/As it came/g)).toHaveLength(7);
    // Half of what is printed is still in colour.
    const { colour, dark } = inked(await page(1));
    expect(colour).toBeGreaterThan(0.1);
    expect(dark).toBeGreaterThan(colour * 1.3);
  });

  it('is of takes of this series, at least one', async () => {
    const other = await photographIn((await newSeries()).id);
    const ask = (ids: string[]) =>
      http().post(`/api/series/${series.id}/contact-sheet`).send({ takes: ids, settings: {} });
    expect((await ask([other.currentTakeId])).status).toBe(404);
    expect((await ask([])).status).toBe(400);
    expect((await ask([takes[0], takes[0]])).status).toBe(400);
  });
});
