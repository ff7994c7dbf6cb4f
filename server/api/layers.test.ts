import { strFromU8, unzipSync } from 'fflate';
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

/** Layers sent out, read back by unzip and ImageMagick. */

const run = promisify(execFile);
let server: TestServer;
let folder: string;
beforeAll(async () => {
  server = await testServer();
  folder = await mkdtemp(join(tmpdir(), 'lampwash-layers-'));
});
afterAll(async () => {
  await server.close();
  await rm(folder, { recursive: true, force: true });
});
const { http, newSeries, photographIn, sent } = asking(() => server);

const masks = [
  {
    id: 'm',
    name: 'Hull & <keel>',
    parts: [{ kind: 'oval', centre: [0.5, 0.5], radii: [0.3, 0.3], feather: 0.4 }],
  },
];
const wash = (colour: string, more: object) => ({
  kind: 'wash',
  mask: 'm',
  settings: { pigment: { kind: 'flat', colour } },
  ...more,
});
const steps = [
  { kind: 'mono' },
  { kind: 'split-tone', settings: { shadows: { hue: 220, saturation: 0.5 } } },
  wash('#8c3f2c', { mix: 'multiply', strength: 0.7 }),
  wash('#d0a060', { mix: 'soft-light' }),
  wash('#4060a0', { mix: 'screen', strength: 0.4 }),
];

/** Layers of a photograph of many colours. */
async function layered(treatment: object, settings: object = {}) {
  const series = await newSeries('Layers');
  const picture = await png8(120, 80, (x, y) => [40 + x * 200, 220 - y * 180, 128 + 80 * Math.sin(9 * x)]);
  const { currentTakeId } = await photographIn(series.id, picture);
  await http().put(`/api/takes/${currentTakeId}/treatment`).send({ revision: 1, treatment });
  const { file, row } = await sent(series.id, currentTakeId, { format: 'layers', ...settings });
  const path = join(folder, row.fileName);
  await writeFile(path, file);
  return { file, path, note: row.note };
}

/** The attributes of the elements of a stack, in order. */
const elements = (xml: string) =>
  Array.from(xml.matchAll(/<(layer|stack|image)\s([^>]*?)\/?>/g), ([, element, text]) => ({
    element,
    ...Object.fromEntries(
      Array.from(text.matchAll(/([\w-]+)="([^"]*)"/g), ([, name, value]) => [name, value]),
    ),
  })) as Record<string, string>[];

const treatment = parseTreatment({ format: 'lampwash-treatment', version: 1, steps, masks });

/** Mixes as ImageMagick calls them. */
const compositions: Record<string, string> = {
  'svg:src-over': 'Over',
  'svg:multiply': 'Multiply',
  'svg:soft-light': 'SoftLight',
  'svg:screen': 'Screen',
};

/** RGB codes of what ImageMagick makes. */
const imageMagick = async (...asked: string[]) =>
  (await run('convert-im6.q16', [...asked, '-depth', '8', 'rgb:-'], { encoding: 'buffer' })).stdout;

const difference = (a: Uint8Array, b: Uint8Array) => {
  expect(a.length).toBe(b.length);
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += Math.abs(a[i] - b[i]);
  return sum / a.length;
};

describe('layers', () => {
  it('are a file that others open: what it is first, the stack, each picture whole, all together, a thumbnail', async () => {
    const { file, path, note } = await layered(treatment, { dpi: 240 });
    expect(path).toMatch(/\.ora$/);
    await run('unzip', ['-tq', path]);
    // As the standard asks: the first entry, at its place, not packed.
    expect(file.subarray(30, 38 + 16).toString('latin1')).toBe('mimetypeimage/openraster');
    const parts = unzipSync(file);
    const [image, ...layers] = elements(strFromU8(parts['stack.xml']));
    expect(image).toMatchObject({ w: '120', h: '80', xres: '240', yres: '240' });
    expect(layers.map(l => [l.name, l['composite-op'], l.opacity])).toEqual([
      ['Wash on Hull &amp; &lt;keel&gt;', 'svg:screen', '0.4'],
      ['Wash on Hull &amp; &lt;keel&gt;', 'svg:soft-light', '1'],
      ['Oxide wash on Hull &amp; &lt;keel&gt;', 'svg:multiply', '0.7'],
      ['Mono, split tone', 'svg:src-over', '1'],
      ['As it came', 'svg:src-over', '1'],
    ]);
    for (const { src } of layers) {
      expect(await sharp(Buffer.from(parts[src])).metadata()).toMatchObject({
        width: 120,
        height: 80,
        format: 'png',
      });
    }
    const thumbnail = await sharp(Buffer.from(parts['Thumbnails/thumbnail.png'])).metadata();
    expect([thumbnail.width, thumbnail.height]).toEqual([120, 80]);
    expect(note).toMatch(/^5 layers, together 0\.\d of 255 from the picture, [0-3] at most$/);
  });

  it('put together by another program are the picture', async () => {
    const { file } = await layered(treatment);
    const png = await layered(treatment, { format: 'png' });
    const picture = await sharp(png.file).raw().toBuffer();
    const parts = unzipSync(file);
    const layers = elements(strFromU8(parts['stack.xml']))
      .filter(e => e.element === 'layer')
      .toReversed();
    const inFolder = await Promise.all(
      layers.map(async ({ src }, i) => {
        await writeFile(join(folder, `${i}.png`), parts[src]);
        return join(folder, `${i}.png`);
      }),
    );
    const laid = layers.flatMap(({ opacity, 'composite-op': mode }, i) => {
      const faded = ['(', inFolder[i], '-channel', 'A', '-evaluate', 'multiply', opacity, '+channel', ')'];
      return i ? [...faded, '-compose', compositions[mode], '-composite'] : [inFolder[i]];
    });
    const together = await imageMagick(...laid, '-alpha', 'off');
    expect(difference(together, picture)).toBeLessThan(0.5);
    // And what another program takes for the picture is what is sent out.
    const merged = Buffer.from(unzipSync(file)['mergedimage.png']);
    expect(difference(await sharp(merged).raw().toBuffer(), picture)).toBe(0);
  });

  it('of a treatment in part lie in a group over the photograph', async () => {
    const { file, note } = await layered({ ...treatment, strength: 0.5 });
    const all = elements(strFromU8(unzipSync(file)['stack.xml']));
    const group = all.find(e => e.element === 'stack' && e.name);
    expect(group).toMatchObject({ name: 'The whole treatment', opacity: '0.5', isolation: 'isolate' });
    expect(Number(note!.match(/together ([\d.]+)/)![1])).toBeLessThan(0.6);
  });

  it('of a bare photograph are one, and sizes hold', async () => {
    const { file, note } = await layered(treatmentOf(), { size: { by: 'long-edge', pixels: 60 } });
    expect(elements(strFromU8(unzipSync(file)['stack.xml']))[0]).toMatchObject({ w: '60', h: '40' });
    expect(note).toMatch(/^One layer/);
  });

  it('are of 8 bits in sRGB', async () => {
    const series = await newSeries('Layers');
    const { currentTakeId } = await photographIn(series.id);
    const ask = (settings: object) =>
      http()
        .post('/api/send-outs')
        .send({ series: series.id, takes: [currentTakeId], settings: { format: 'layers', ...settings } });
    expect((await ask({ bits: 16 })).body.detail).toContain('an OpenRaster file has 8 bits');
    expect((await ask({ profile: 'wide' })).status).toBe(400);
  });
});
