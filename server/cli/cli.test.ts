import { execFile } from 'node:child_process';
import { mkdtemp, readdir, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readCube, applyCube } from '../../core/formats/cube';
import { exactly } from '../../core/engine/lay';
import { parseTreatment } from '../../core/treatment/schema';
import { picture } from '../../core/testing/pictures';
import { png8, tiff16 } from '../testing/pictures';

/** The commands as they are run from a shell. */

let folder: string;
const at = (name: string) => join(folder, name);
const root = fileURLToPath(new URL('../..', import.meta.url));

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lampwash-cli-'));
  await writeFile(at('colour.png'), await png8(90, 60, (x, y) => [x * 2.8, y * 4, 255 - x * 2]));
  await writeFile(at('deep.tif'), await tiff16(40, 30, (x, y) => [x * 1600, y * 2000, 30_000]));
  await writeFile(at('cut.png'), (await readFile(at('colour.png'))).subarray(0, 900));
  await writeFile(at('text.jpg'), 'not a picture');
  await writeFile(at('empty.jpg'), '');
  await treatment('toned', [
    { kind: 'mono' },
    {
      kind: 'split-tone',
      settings: { shadows: { hue: 220, saturation: 0.4 }, highlights: { hue: 40, saturation: 0.4 } },
    },
  ]);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

async function treatment(name: string, steps: unknown, more: object = {}): Promise<string> {
  const path = at(`${name}.treatment.json`);
  await writeFile(path, JSON.stringify({ format: 'lampwash-treatment', version: 1, steps, ...more }));
  return path;
}

interface Ended {
  code: number;
  out: string;
  error: string;
}
function run(command: 'render' | 'cube', ...args: string[]): Promise<Ended> {
  return new Promise(done => {
    execFile(
      'node',
      [join(root, 'dist/server', `${command}.mjs`), ...args],
      { cwd: folder },
      (error, out, stderr) => done({ code: error ? Number(error.code) : 0, out, error: stderr }),
    );
  });
}

/** Runs what must fail: exit 2, one line, nothing written. */
async function refused(command: 'render' | 'cube', ...args: string[]): Promise<string> {
  const before = await readdir(folder);
  const { code, error, out } = await run(command, ...args);
  expect(code).toBe(2);
  expect(out).toBe('');
  expect(error.trim().split('\n')).toHaveLength(1);
  expect(await readdir(folder)).toEqual(before);
  return error;
}

describe('render', () => {
  const toned = 'toned.treatment.json';

  it('never writes over what it reads, nor where a link leads to it', async () => {
    await sharp(at('colour.png')).toFile(at('own.png'));
    await symlink(at('own.png'), at('link.png'));
    const before = await readFile(at('own.png'));
    for (const out of ['own.png', './own.png', 'link.png']) {
      const error = await refused('render', 'own.png', '--treatment', toned, '--out', out);
      expect(error).toContain(`--out: ${out} is read here too`);
    }
    expect(await readFile(at('own.png'))).toEqual(before);
  });

  it.each([
    ['out.jpg', [], { format: 'jpeg', channels: 3 }],
    ['out.png', ['--bits', '16'], { format: 'png', depth: 'ushort' }],
    ['out.tif', ['--bits', '16', '--profile', 'display-p3'], { format: 'tiff', depth: 'ushort' }],
    ['out.tiff', ['--profile', 'grey'], { format: 'tiff', channels: 1 }],
    ['out.webp', ['--quality', '80', '--profile', 'display-p3'], { format: 'webp' }],
    ['out.avif', ['--long-edge', '64'], { format: 'heif', width: 64 }],
    [
      'grey.jpg',
      ['--profile', 'grey', '--long-edge', '45'],
      { format: 'jpeg', channels: 1, width: 45, height: 30 },
    ],
  ])('writes %s %j', async (out, options, expected) => {
    const ended = await run('render', 'colour.png', '--treatment', toned, '--out', out, ...options);
    expect(ended).toEqual({ code: 0, out: '', error: '' });
    const metadata = await sharp(at(out)).metadata();
    expect(metadata).toMatchObject(expected);
    expect(metadata.icc).toBeTruthy();
  });

  it('writes layers, that unzip finds whole', async () => {
    const ended = await run('render', 'colour.png', '--treatment', toned, '--out', 'out.ora');
    expect(ended).toEqual({ code: 0, out: '', error: '' });
    const { stdout } = await promisify(execFile)('unzip', ['-Z1', at('out.ora')]);
    expect(stdout.trim().split('\n')).toEqual(
      expect.arrayContaining(['mimetype', 'stack.xml', 'data/layer1.png', 'mergedimage.png']),
    );
  });

  it('is what the engine makes, frame and all, and the profile does not change the colour', async () => {
    const file = await treatment('framed', [{ kind: 'mono' }, { kind: 'tint' }], {
      frame: { quarterTurns: 1, crop: { x: 0, y: 0.5, width: 1, height: 0.5 } },
    });
    await run('render', 'colour.png', '--treatment', file, '--out', 'srgb.png');
    await run('render', 'colour.png', '--treatment', file, '--out', 'p3.png', '--profile', 'display-p3');
    const pixels = async (name: string) =>
      sharp(at(name)).toColourspace('srgb').removeAlpha().raw().toBuffer({ resolveWithObject: true });
    const [a, b] = [await pixels('srgb.png'), await pixels('p3.png')];
    expect([a.info.width, a.info.height]).toEqual([60, 45]);
    a.data.forEach((v, i) => expect(Math.abs(v - b.data[i])).toBeLessThanOrEqual(2));
  });

  it('a JPEG joined from bands is decoded as one made whole', async () => {
    const source = picture(200, 700);
    await writeFile(
      at('tall.png'),
      await sharp(
        Uint8Array.from(source.codes, v => v / 257),
        { raw: { width: 200, height: 700, channels: 3 } },
      )
        .png()
        .toBuffer(),
    );
    for (const quality of ['95', '70']) {
      await run('render', 'tall.png', '--treatment', toned, '--out', 'tall.jpg', '--quality', quality);
      await run('render', 'tall.png', '--treatment', toned, '--out', 'tall-out.png');
      const joined = await sharp(at('tall.jpg'), { failOn: 'warning' }).raw().toBuffer();
      const whole = await sharp(
        await sharp(at('tall-out.png'))
          .jpeg({ quality: Number(quality), chromaSubsampling: quality === '95' ? '4:4:4' : '4:2:0' })
          .toBuffer(),
      )
        .raw()
        .toBuffer();
      expect(joined.equals(whole)).toBe(true);
    }
  });

  it('helps', async () => {
    const { code, out } = await run('render', '--help');
    expect(code).toBe(0);
    expect(out).toContain('--long-edge');
  });

  it.each([
    [['cut.png', '--treatment', toned, '--out', 'x.png'], 'cut.png: '],
    [['text.jpg', '--treatment', toned, '--out', 'x.png'], 'text.jpg: '],
    [['empty.jpg', '--treatment', toned, '--out', 'x.png'], 'empty.jpg: '],
    [['missing.jpg', '--treatment', toned, '--out', 'x.png'], 'missing.jpg: '],
    [['colour.png', '--treatment', 'missing.json', '--out', 'x.png'], 'missing.json: there is no such file'],
    [['colour.png', '--treatment', 'text.jpg', '--out', 'x.png'], 'text.jpg: not JSON'],
    [['colour.png', '--treatment', toned, '--out', 'x.gif'], 'x.gif: its ending'],
    [['colour.png', '--treatment', toned, '--out', 'x.jpg', '--bits', '16'], 'x.jpg: a JPEG has 8 bits'],
    [['colour.png', '--treatment', toned, '--out', 'nowhere/x.jpg'], 'nowhere/x.jpg: '],
    [['colour.png', '--treatment', toned, '--out', 'x.jpg', '--long-edge', '0'], '--long-edge: '],
    [['colour.png', '--treatment', toned, '--out', 'x.jpg', '--quality', 'high'], '--quality: '],
    [['colour.png', '--treatment', toned, '--out', 'x.jpg', '--profile', 'other'], '--profile: '],
    [['colour.png', '--treatment', toned, '--out', 'x.jpg', '--colour'], '--colour'],
    [['colour.png', 'deep.tif', '--treatment', toned, '--out', 'x.jpg'], 'x.jpg: of several pictures'],
    [['colour.png', '--out', 'x.jpg'], '--treatment: '],
    [['colour.png', '--treatment', toned], '--out: '],
  ])('refuses %j', async (args, message) => {
    expect(await refused('render', ...args)).toContain(message);
  });

  it.each([
    ['kind', [{ kind: 'nosuch' }], {}, 'steps[0].kind: unknown step kind "nosuch"'],
    [
      'setting',
      [{ kind: 'mono', settings: { methd: 'luma' } }],
      {},
      'steps[0].settings.methd: unknown setting',
    ],
    ['range', [{ kind: 'light' }, { kind: 'light', settings: { gamma: 9 } }], {}, 'steps[1].settings.gamma'],
    ['mask', [{ kind: 'mono', mask: 'm9' }], {}, 'steps[0].mask: unknown mask "m9"'],
    [
      'table',
      [{ kind: 'colour-table', settings: { table: 't' } }],
      {},
      'steps[0].settings.table: unknown colour table',
    ],
    ['version', [], { version: 99 }, 'version: version 99 is not known'],
    [
      'points',
      [
        {
          kind: 'curve',
          settings: {
            points: {
              all: [
                [0.5, 0],
                [0.4, 1],
              ],
            },
          },
        },
      ],
      {},
      'steps[0].settings.points.all[1][0]: points must rise',
    ],
    ['cube', [], { tables: { warm: 'LUT_3D_SIZE 2\n1 2\n' } }, 'tables.warm: line 2'],
    [
      'png',
      [],
      { masks: [{ id: 'm', parts: [{ kind: 'picture', png: 'AAAA' }] }] },
      'masks[0].parts[0].png: ',
    ],
    [
      'ring',
      [],
      { masks: [{ id: 'm', parts: [{ kind: 'mask', mask: 'm' }] }] },
      'masks[0].parts[0].mask: the mask stands on itself',
    ],
    [
      'crop',
      [],
      { frame: { crop: { x: 0.5, width: 0.9 } } },
      'frame.crop.width: the crop leaves the picture',
    ],
    ['size', [{ kind: 'sharpen', settings: { radius: 1e99 } }], {}, 'steps[0].settings.radius'],
  ])('refuses a treatment with a wrong %s, naming file and place', async (name, steps, more, message) => {
    const file = await treatment(`wrong-${name}`, steps, more);
    const error = await refused('render', 'colour.png', '--treatment', file, '--out', 'x.png');
    expect(error).toContain(`${file}: ${message}`);
  });

  it('refuses a number that is not one', async () => {
    await writeFile(
      at('nan.json'),
      '{"format":"lampwash-treatment","version":1,"steps":[{"kind":"light","settings":{"exposure":1e999}}]}',
    );
    expect(await refused('render', 'colour.png', '--treatment', 'nan.json', '--out', 'x.png')).toContain(
      'steps[0].settings.exposure',
    );
  });
});

describe('cube', () => {
  it('writes a table that is the treatment', async () => {
    const file = await treatment('look', [
      { kind: 'light', settings: { contrast: 0.3 } },
      { kind: 'mono', strength: 0.9 },
      { kind: 'tint' },
      { kind: 'keep-colour', strength: 0.2 },
    ]);
    expect(await run('cube', '--treatment', file, '--size', '33', '--out', 'look.cube')).toEqual({
      code: 0,
      out: '',
      error: '',
    });
    const apply = applyCube(readCube(await readFile(at('look.cube'), 'utf8')));
    const exact = exactly(parseTreatment(JSON.parse(await readFile(file, 'utf8'))));
    for (const rgb of [
      [0, 0, 0],
      [1, 1, 1],
      [0.25, 0.5, 0.75],
      [0.9, 0.3, 0.2],
    ]) {
      const [a, b] = [Float64Array.from(rgb), Float64Array.from(rgb)];
      apply(a);
      exact(b);
      a.forEach((v, i) => expect(Math.abs(v - b[i])).toBeLessThan(2 / 255));
    }
  });

  it('refuses masks and steps that look around, naming them', async () => {
    const file = await treatment(
      'no-table',
      [
        { kind: 'mono' },
        { kind: 'tint', mask: 'm' },
        { kind: 'glow', name: 'Evening', settings: { amount: 0.5 } },
      ],
      {
        masks: [{ id: 'm', parts: [{ kind: 'whole' }] }],
      },
    );
    const error = await refused('cube', '--treatment', file, '--out', 'x.cube');
    expect(error).toContain('steps[1] (tint) has a mask');
    expect(error).toContain('steps[2] (glow "Evening") looks beyond a single colour');
  });

  it.each([
    [['--treatment', 'toned.treatment.json', '--out', 'x.txt'], 'x.txt: its ending'],
    [['--treatment', 'toned.treatment.json', '--out', 'x.cube', '--size', '1'], '--size: '],
    [['--treatment', 'toned.treatment.json'], '--out: '],
    [['extra', '--treatment', 'toned.treatment.json', '--out', 'x.cube'], 'not understood: extra'],
  ])('refuses %j', async (args, message) => {
    expect(await refused('cube', ...args)).toContain(message);
  });
});
