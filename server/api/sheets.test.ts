import { unzipSync } from 'fflate';
import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parseTreatment } from '../../core/treatment/schema';
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

  it('is made as a picture too: of several pages a zip of pictures', async () => {
    const ask = (settings: object) =>
      http().post(`/api/series/${series.id}/contact-sheet`).send({ takes, settings }).responseType('blob');
    const png = await ask({ as: 'png', columns: 3 });
    expect(png.headers['content-type']).toBe('image/png');
    expect(png.headers['content-disposition']).toContain('contact-sheet.png');
    const page = await sharp(png.body as Buffer)
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([page.info.width, page.info.height]).toEqual([2480, 3508]);
    expect(inked(page).dark).toBeGreaterThan(0.15);
    const many = await ask({ as: 'jpeg', columns: 1, lying: true });
    const files = unzipSync(new Uint8Array(many.body as Buffer));
    expect(Object.keys(files)).toHaveLength(7);
    expect(Object.keys(files)[6]).toMatch(/contact-sheet-07\.jpg$/);
    expect(await sharp(Object.values(files)[0]).metadata()).toMatchObject({ format: 'jpeg', density: 300 });
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

describe('a treatment card', () => {
  it('has the picture beside every step that is at work, with its values', async () => {
    const photograph = await photographIn(series.id, await png8(90, 60, x => [x * 2, 80, 200 - x]));
    const treatment = parseTreatment({
      format: 'lampwash-treatment',
      version: 1,
      strength: 0.9,
      steps: [
        { kind: 'light', settings: { exposure: 0.35 } },
        { kind: 'mono' },
        { kind: 'tint', enabled: false },
        {
          kind: 'wash',
          name: 'Rust',
          mask: 'm',
          mix: 'multiply',
          settings: { pigment: { kind: 'flat', colour: '#9c5f3c' } },
        },
      ],
      masks: [{ id: 'm', name: 'Hull', parts: [{ kind: 'oval' }] }],
    });
    await http().put(`/api/takes/${photograph.currentTakeId}/treatment`).send({ revision: 1, treatment });
    const { text, images, info, name } = await sheetOf({ kind: 'card' }, [photograph.currentTakeId]);
    expect(name).toContain('picture-treatment-card.pdf');
    expect(info).toMatch(/Pages:\s+1\n/);
    for (const said of [
      'Exposure',
      '+0.35 EV',
      'As it is set out.',
      'Rust',
      'On Hull (oval)',
      '#9c5f3c',
      'Multiply',
    ])
      expect(text).toContain(said);
    expect(text).toMatch(/Strength of the whole\s+90/);
    expect(text).not.toContain('Tint');
    // The picture, as it came, and after each of three steps.
    expect(images).toHaveLength(5);
  });
});

describe('a test strip on paper', () => {
  /** A take of its own, which the sheets of the others do not show. */
  let own = '';
  beforeAll(async () => {
    const { treatment, photographId } = (await http().get(`/api/takes/${takes[0]}`)).body as {
      treatment: { steps: object[] };
      photographId: string;
    };
    const light = { id: 'l', kind: 'light', stage: 'ground' };
    const made = await http()
      .post(`/api/photographs/${photographId}/takes`)
      .send({ treatment: { ...treatment, steps: [light, ...treatment.steps] } });
    own = (made.body as { id: string }).id;
    await http().patch(`/api/photographs/${photographId}`).send({ currentTakeId: takes[0] });
  });
  const ask = (body: object) => http().post(`/api/takes/${own}/strip-sheet`).send(body);

  it('has a picture of each value, which differ as the values do', async () => {
    const pictures = [-1, 0, 1].map(value => [{ name: 'Exposure', value }]);
    const answer = await ask({ step: 'l', pictures, settings: { columns: 3, as: 'png' } }).responseType(
      'blob',
    );
    expect(answer.status).toBe(200);
    const page = sharp(answer.body as Buffer);
    const { width = 0 } = await page.metadata();
    const tones = await Promise.all(
      [0.2, 0.5, 0.8].map(async at => {
        const spot = { left: Math.round(width * at) - 40, top: 560, width: 80, height: 40 };
        const codes = await page.clone().extract(spot).greyscale().raw().toBuffer();
        return codes.reduce((sum, code) => sum + code, 0) / codes.length;
      }),
    );
    expect(tones[0]).toBeLessThan(tones[1] - 20);
    expect(tones[1]).toBeLessThan(tones[2] - 20);
  });

  it('refuses what is no setting or no value of it', async () => {
    const of = (pictures: object[][], step = 'l') => ask({ step, pictures, settings: {} });
    expect((await of([[{ name: 'Exposure', value: 0 }]], 'nothing')).status).toBe(404);
    expect((await of([[{ name: 'Loudness', value: 1 }]])).body.title).toContain('Loudness');
    expect((await of([[{ name: 'Exposure', value: 99 }]])).status).toBe(400);
    expect((await of([[{ name: 'Mix', value: 'whisk' }]])).status).toBe(400);
    expect((await of([])).status).toBe(400);
  });
});
