import { execFile } from 'node:child_process';
import { mkdir, mkdtemp, readdir, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { PDFDocument } from 'pdf-lib';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { png8 } from '../testing/pictures';

/** The commands that take many pictures, as they are run from a shell. */

const root = fileURLToPath(new URL('../..', import.meta.url));
let folder: string;
const at = (...names: string[]) => join(folder, ...names);

const head = { format: 'lampwash-treatment', version: 1 };
const mono = { ...head, steps: [{ kind: 'mono' }] };
const toned = {
  ...head,
  steps: [{ kind: 'tint', settings: { hue: 30, saturation: 1 } }],
};
const withAreas = {
  ...head,
  masks: [
    { id: 'a', name: 'The left', parts: [{ kind: 'linear', from: [0.4, 0.5], to: [0.6, 0.5] }] },
    { id: 'b', name: 'The middle', parts: [{ kind: 'oval', centre: [0.5, 0.5], radii: [0.3, 0.3] }] },
  ],
  steps: [{ kind: 'light', mask: 'a', settings: { exposure: 1 } }],
};
const look = (name: string) => ({ name, group: 'Own', treatment: toned });

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lampwash-many-'));
  await mkdir(at('in'));
  for (const [i, name] of ['b2.png', 'a10.png', 'a9.png'].entries()) {
    await writeFile(at('in', name), await png8(60 + i * 10, 40, (x, y) => [x * 3, y * 5, 200 - x * 2]));
  }
  await writeFile(at('in', 'notes.txt'), 'not a picture, and not taken for one');
  for (const [name, json] of Object.entries({
    'mono.json': mono,
    'areas.json': withAreas,
    'one-look.json': { format: 'lampwash-look', version: 1, looks: [look('Evening')] },
    'two-looks.json': { format: 'lampwash-look', version: 1, looks: [look('Evening'), look('Morning')] },
  })) {
    await writeFile(at(name), JSON.stringify(json));
  }
});
afterAll(() => rm(folder, { recursive: true, force: true }));

interface Ended {
  code: number;
  out: string;
  error: string;
}
const run = (command: 'render' | 'cube' | 'sheet' | 'areas', ...args: string[]) =>
  new Promise<Ended>(done => {
    execFile(
      'node',
      [join(root, 'dist/server', `${command}.mjs`), ...args],
      { cwd: folder },
      (error, out, stderr) => done({ code: error ? Number(error.code) : 0, out, error: stderr }),
    );
  });
const pixels = async (path: string) => new Uint8Array(await sharp(path).raw().toBuffer());
const differs = (a: Uint8Array, b: Uint8Array) =>
  a.reduce((sum, v, i) => sum + Math.abs(v - b[i]), 0) / a.length;

describe('render of many', () => {
  it('makes one file of each picture of a folder, in the order of their names, and says nothing in a pipe', async () => {
    const ended = await run('render', 'in', '--treatment', 'mono.json', '--out', 'out/', '--jobs', '3');
    expect(ended).toEqual({ code: 0, out: '', error: '' });
    expect((await readdir(at('out'))).sort()).toEqual(['a10.jpg', 'a9.jpg', 'b2.jpg']);
    const { width, height } = await sharp(at('out', 'a9.jpg')).metadata();
    expect([width, height]).toEqual([80, 40]);
  });

  it('is the same as of each alone, however many are made at once', async () => {
    await run('render', 'in', '--treatment', 'mono.json', '--out', 'png/', '--format', 'png', '--jobs', '2');
    await run('render', 'in/b2.png', '--treatment', 'mono.json', '--out', 'alone.png');
    expect(Buffer.compare(await readFile(at('png', 'b2.png')), await readFile(at('alone.png')))).toBe(0);
  });

  it('names what could not be made, makes the others, ends with 1, and tells in JSON', async () => {
    await mkdir(at('mixed'));
    await writeFile(at('mixed', 'good.png'), await readFile(at('in', 'b2.png')));
    await writeFile(at('mixed', 'bad.jpg'), 'nothing to see');
    const ended = await run('render', 'mixed', '--treatment', 'mono.json', '--out', 'part/', '--json');
    expect(ended.code).toBe(1);
    expect(ended.error).toMatch(/bad\.jpg: is a text, not a picture/);
    expect(ended.error).toMatch(/1 of 2 could not be made/);
    const told = JSON.parse(ended.out) as {
      written: { file: string; bytes: number }[];
      failed: { picture: string }[];
    };
    expect(told.failed.map(f => f.picture)).toEqual([join('mixed', 'bad.jpg')]);
    expect(told.written).toHaveLength(1);
    expect((await stat(at(told.written[0].file))).size).toBe(told.written[0].bytes);
    expect(await readdir(at('part'))).toEqual(['good.jpg']);
  });

  it('gives pictures of one name files of their own', async () => {
    await mkdir(at('other'));
    await writeFile(at('other', 'b2.png'), await readFile(at('in', 'a9.png')));
    await run('render', 'in/b2.png', 'other/b2.png', '--treatment', 'mono.json', '--out', 'both/');
    expect(await readdir(at('both'))).toHaveLength(2);
  });

  it.each([
    [
      ['in', '--out', 'in/', '--format', 'png'],
      /b2\.png is read here too|a10\.png is read here too|a9\.png is read here too/,
    ],
    [['in', '--out', 'x.jpg'], /x\.jpg|folder/],
    [['in/b2.png', 'in/a9.png', '--out', 'x.jpg'], /of several pictures give a folder/],
    [['in', '--out', 'new/', '--jobs', '0'], /--jobs: must be a whole number from 1 to 32/],
    [['in', '--out', 'new/', '--format', 'tga'], /--format: must be jpg/],
    [['in/b2.png', '--out', 'x.jpg', '--format', 'png'], /--format: is png, but x\.jpg ends otherwise/],
    [['in/b2.png', '--out', 'x.jpg', '--print', 'wide'], /--print: must be a length/],
    [
      ['in/b2.png', '--out', 'x.jpg', '--long-edge', '30', '--short-edge', '20'],
      /the size is given by --long-edge already/,
    ],
    [['in/b2.png', '--out', 'x.jpg', '--metadata', 'some'], /--metadata: /],
    [['in/b2.png', '--out', 'x.jpg', '--sharpen', 'much'], /--sharpen: /],
    [['in/b2.png', '--out', 'x.jpg', '--border', 'red:5'], /--border: /],
    [['in/b2.png', '--out', 'x.jpg', '--strength', '140'], /--strength: must be from 0 to 100/],
    [['nowhere', '--out', 'new/'], /nowhere: there is no such file/],
    [['other2', '--out', 'new/'], /other2: there is no such file/],
  ])('%j is refused, and nothing is written over', async (args, says) => {
    const before = await readFile(at('in', 'b2.png'));
    const ended = await run('render', ...args, '--treatment', 'mono.json');
    expect(ended.code).toBe(2);
    expect(ended.error).toMatch(says);
    expect(ended.error.trim().split('\n')).toHaveLength(1);
    expect(Buffer.compare(await readFile(at('in', 'b2.png')), before)).toBe(0);
  });
});

describe('a look and its strength', () => {
  const rendered = async (name: string, ...args: string[]) => {
    const ended = await run('render', 'in/b2.png', '--out', `${name}.png`, ...args);
    expect(ended).toEqual({ code: 0, out: '', error: '' });
    return pixels(at(`${name}.png`));
  };

  it('is laid on the treatment: nothing of it at 0, half at 50, all at 100', async () => {
    const [bare, none, half, all] = [
      await rendered('l-bare', '--treatment', 'mono.json'),
      await rendered('l0', '--treatment', 'mono.json', '--look', 'one-look.json', '--strength', '0'),
      await rendered('l50', '--treatment', 'mono.json', '--look', 'one-look.json', '--strength', '50'),
      await rendered('l100', '--treatment', 'mono.json', '--look', 'one-look.json'),
    ];
    expect(differs(none, bare)).toBe(0);
    expect(differs(all, bare)).toBeGreaterThan(5);
    expect(differs(half, bare) / differs(all, bare)).toBeCloseTo(0.5, 1);
  });

  it('of several is named; without a treatment it stands alone', async () => {
    const ended = await run('render', 'in/b2.png', '--look', 'two-looks.json', '--out', 'x.png');
    expect([ended.code, ended.error]).toEqual([
      2,
      expect.stringMatching(/It holds Evening, Morning; name one/),
    ]);
    const one = await rendered('named', '--look', 'two-looks.json#Morning');
    expect(differs(one, await rendered('whole', '--look', 'one-look.json'))).toBe(0);
  });

  it('without a look is of the whole treatment', async () => {
    const none = await rendered('s0', '--treatment', 'mono.json', '--strength', '0');
    expect(differs(none, await pixels(at('in', 'b2.png')))).toBeLessThan(0.01);
  });
});

describe('what sending out can, the command can', () => {
  const tool = join(
    createRequire(import.meta.url).resolve('exiftool-vendored.pl/package.json'),
    '../bin/exiftool',
  );
  const told = (path: string) =>
    new Promise<Record<string, unknown>>((done, fail) => {
      execFile('perl', [tool, '-j', path], (error, out) =>
        error ? fail(error) : done((JSON.parse(out) as Record<string, unknown>[])[0]),
      );
    });

  it('metadata, resolution, border, a print’s size, sharpening, chroma', async () => {
    const ended = await run(
      'render',
      'in/b2.png',
      '--treatment',
      'mono.json',
      '--out',
      'sent.jpg',
      '--metadata',
      'rights',
      '--author',
      'Ada Quill',
      '--rights',
      '© 2026 Ada Quill',
      '--dpi',
      '240',
      '--print',
      '0.5cm',
      '--border',
      'white:10',
      '--sharpen',
      'matte:50',
      '--chroma',
      'halved',
      '--progressive',
      '--quality',
      '95',
    );
    expect(ended).toEqual({ code: 0, out: '', error: '' });
    const metadata = await sharp(at('sent.jpg')).metadata();
    // 0.5 cm at 240 dots an inch, and a tenth of that about it.
    expect([metadata.width, metadata.chromaSubsampling, metadata.isProgressive]).toEqual([
      47 + 2 * 5,
      '4:2:0',
      true,
    ]);
    expect(await told(at('sent.jpg'))).toMatchObject({
      Artist: 'Ada Quill',
      Copyright: '© 2026 Ada Quill',
      XResolution: 238.76,
    });
  });

  it('writes layers into a folder', async () => {
    expect(
      (await run('render', 'in', '--format', 'ora', '--treatment', 'mono.json', '--out', 'layers/')).code,
    ).toBe(0);
    expect((await readdir(at('layers'))).sort()).toEqual(['a10.ora', 'a9.ora', 'b2.ora']);
  });
});

describe('areas', () => {
  it('are written each under its name, white where all of it is', async () => {
    const ended = await run('areas', 'in/b2.png', '--treatment', 'areas.json', '--out', 'masks', '--json');
    expect([ended.code, ended.error]).toEqual([0, '']);
    expect((JSON.parse(ended.out) as { written: { area: string }[] }).written.map(w => w.area)).toEqual([
      'The left',
      'The middle',
    ]);
    expect((await readdir(at('masks'))).sort()).toEqual(['the-left.png', 'the-middle.png']);
    const { data, info } = await sharp(at('masks', 'the-left.png'))
      .toColourspace('b-w')
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([info.width, info.height, info.channels]).toEqual([60, 40, 1]);
    const ends = [data[20 * 60 + 2], data[20 * 60 + 57]].sort((a, b) => a - b);
    expect(ends[0]).toBeLessThan(3);
    expect(ends[1]).toBeGreaterThan(252);
  });

  it('of a treatment without any are refused', async () => {
    const ended = await run('areas', 'in/b2.png', '--treatment', 'mono.json', '--out', 'none');
    expect([ended.code, ended.error]).toEqual([
      2,
      expect.stringMatching(/mono\.json: there is no area in it/),
    ]);
  });
});

describe('sheet', () => {
  it('lays a folder on paper, as a PDF', async () => {
    const ended = await run(
      'sheet',
      'in',
      '--out',
      'sheet.pdf',
      '--treatment',
      'mono.json',
      '--columns',
      '2',
    );
    expect(ended).toEqual({ code: 0, out: '', error: '' });
    const pdf = await PDFDocument.load(await readFile(at('sheet.pdf')));
    expect(pdf.getPageCount()).toBe(1);
    expect(Math.round(pdf.getPage(0).getWidth())).toBe(595);
    expect(pdf.getTitle()).toBe('sheet');
  });

  it('as pairs on lying paper, as a picture', async () => {
    const args = ['--look', 'one-look.json', '--pairs', '--lying', '--title', 'Low water', '--json'];
    const ended = await run('sheet', 'in/b2.png', 'in/a9.png', '--out', 'pairs.png', ...args);
    expect(ended.error).toBe('');
    expect(JSON.parse(ended.out)).toEqual({ written: ['pairs.png'], pictures: 2 });
    const { width, height } = await sharp(at('pairs.png')).metadata();
    expect(width).toBeGreaterThan(height);
  });

  it.each([
    [['in', '--out', 'x.gif'], /its ending must be pdf, png or jpg/],
    [['in', '--out', 'x.pdf', '--pairs'], /--pairs: give a treatment/],
    [['in', '--out', 'x.pdf', '--columns', '20'], /--columns: /],
    [['in', '--out', 'x.pdf', '--paper', 'a9'], /--paper: /],
    [['in/b2.png', '--out', 'in/b2.png'], /is read here too/],
    [['in/notes.txt', '--out', 'x.pdf'], /notes\.txt: is a text/],
  ])('%j is refused', async (args, says) => {
    const ended = await run('sheet', ...args);
    expect([ended.code, ended.error]).toEqual([2, expect.stringMatching(says)]);
  });
});

describe('cube', () => {
  it('takes a look too', async () => {
    expect((await run('cube', '--look', 'one-look.json', '--out', 'look.cube', '--size', '5')).error).toBe(
      '',
    );
    expect(await readFile(at('look.cube'), 'utf8')).toMatch(/LUT_3D_SIZE 5/);
  });
});
