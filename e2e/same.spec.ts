import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { promisify } from 'node:util';
import sharp from 'sharp';
import { ciede2000 } from '../core/colour/ciede2000';
import { rgbToLab } from '../core/colour/lab';
import { tiff16 } from '../server/testing/pictures';
import { expect, test } from './app';
import { pictureOn } from './picture';

/** The browser's worker, the server's threads and the command line make the same picture. */

const run = promisify(execFile);

const scene = () =>
  tiff16(1800, 1200, (x, y) => {
    const [u, v] = [x / 1800, y / 1200];
    const edge = Math.hypot(u - 0.6, v - 0.5) < 0.2 ? 0.3 : 0;
    return [u * 0.7 + edge, v * 0.8, 0.5 + 0.4 * Math.sin(9 * u * v) - edge].map(c =>
      Math.round(Math.min(1, Math.max(0, c)) * 65535),
    ) as [number, number, number];
  });

const masks = [
  {
    id: 'oval',
    name: 'Disc',
    parts: [{ kind: 'oval', centre: [0.6, 0.5], radii: [0.2, 0.18], feather: 0.2 }],
  },
  {
    id: 'brush',
    feather: 0.01,
    parts: [
      {
        kind: 'brush',
        strokes: [
          {
            points: [
              [0.1, 0.2, 1],
              [0.4, 0.7, 0.6],
            ],
            radius: 0.05,
            hardness: 0.3,
            flow: 0.6,
          },
        ],
      },
    ],
  },
  { id: 'found', refine: 0.8, parts: [{ kind: 'tones', range: [0.3, 0.4, 0.7, 0.8] }] },
];

const treatments: Record<string, object> = {
  'a long line of steps': {
    steps: [
      { kind: 'light', settings: { shadows: 0.4, contrast: 0.2 } },
      { kind: 'local-contrast', settings: { coarse: 0.5, medium: 0.4, fine: 0.3 } },
      { kind: 'mono', settings: { method: 'response', response: { blue: -0.6, orange: 0.4 } } },
      {
        kind: 'baths',
        settings: {
          baths: [
            { toner: 'sepia', time: 0.4 },
            { toner: 'selenium', time: 0.8, start: 'shadows' },
          ],
        },
      },
      { kind: 'vignette', settings: { amount: -0.5 } },
    ],
  },
  'areas and kept colour': {
    masks,
    steps: [
      { kind: 'mono', settings: { method: 'local-contrast' } },
      { kind: 'tint', reach: { own: [0, 0, 1, 1], beneath: [0.2, 0.4, 0.8, 1] } },
      {
        kind: 'wash',
        mask: 'oval',
        strength: 0.7,
        settings: { pigment: { kind: 'flat', colour: '#c07830' } },
      },
      {
        kind: 'wash',
        mask: 'brush',
        settings: { bleed: 0.01, pigment: { kind: 'flat', colour: '#406a90' } },
      },
      { kind: 'keep-colour', mask: 'found', settings: { saturation: 0.1 } },
      { kind: 'glow', settings: { amount: 0.4, halation: 0.3 } },
    ],
  },
  'another frame': {
    frame: {
      angle: 4,
      keystone: { vertical: 0.3, horizontal: 0 },
      crop: { x: 0.1, y: 0.1, width: 0.8, height: 0.75 },
    },
    masks,
    steps: [
      { kind: 'mono' },
      {
        kind: 'gradient-map',
        strength: 0.87,
        settings: {
          stops: [
            { at: 0, colour: '#1c2033' },
            { at: 1, colour: '#fff4dc' },
          ],
        },
      },
      { kind: 'wash', mask: 'oval', settings: { pigment: { kind: 'flat', colour: '#c07830' } } },
    ],
  },
};

for (const [name, part] of Object.entries(treatments)) {
  test(`screen, file and command line agree: ${name}`, async ({ page, app }) => {
    const series = await app.api<{ id: string }>('POST', '/api/series', { title: name });
    const original = await scene();
    const photograph = await app.bringIn(series.id, original, 'scene.tif');
    const treatment = { format: 'lampwash-treatment', version: 1, ...part };
    await app.api('PUT', `/api/takes/${photograph.currentTakeId}/treatment`, { revision: 1, treatment });
    await page.goto(`${app.url}/photographs/${photograph.id}`);
    const shot = await pictureOn(page);

    const longEdge = Math.max(shot.width, shot.height);
    const [sent] = await app.api<{ id: string }[]>('POST', '/api/send-outs', {
      series: series.id,
      takes: [photograph.currentTakeId],
      settings: { format: 'png', bits: 16, size: { by: 'long-edge', pixels: longEdge } },
    });
    await expect
      .poll(
        async () => {
          const rows = await app.api<{ id: string; state: string }[]>(
            'GET',
            `/api/send-outs?series=${series.id}`,
          );
          return rows.find(r => r.id === sent.id)?.state;
        },
        { timeout: 60_000 },
      )
      .toBe('done');
    const file = Buffer.from(await (await fetch(`${app.url}/api/send-outs/${sent.id}/file`)).arrayBuffer());

    const folder = await mkdtemp(join(tmpdir(), 'lampwash-same-'));
    const commanded = join(folder, 'out.png');
    await writeFile(join(folder, 'scene.tif'), original);
    await writeFile(join(folder, 't.json'), JSON.stringify(treatment));
    await run('node', [
      resolve('dist/server/render.mjs'),
      join(folder, 'scene.tif'),
      ...['--treatment', join(folder, 't.json'), '--out', commanded],
      ...['--bits', '16', '--long-edge', String(longEdge)],
    ]);
    const pixels = async (bytes: Buffer) => {
      const { data, info } = await sharp(bytes, { ignoreIcc: true })
        .toColourspace('rgb16')
        .raw({ depth: 'ushort' })
        .toBuffer({ resolveWithObject: true });
      return { codes: new Uint16Array(data.buffer, data.byteOffset, data.length / 2), info };
    };
    const [a, b] = [await pixels(file), await pixels(await readFile(commanded))];
    await rm(folder, { recursive: true });
    // The server and the command line to the last bit.
    expect([b.info.width, b.info.height]).toEqual([a.info.width, a.info.height]);
    expect(
      Buffer.compare(
        Buffer.from(a.codes.buffer, a.codes.byteOffset, a.codes.byteLength),
        Buffer.from(b.codes.buffer, b.codes.byteOffset, b.codes.byteLength),
      ),
    ).toBe(0);
    // The screen, which has 8 bits, to the eye.
    expect([shot.width, shot.height]).toEqual([a.info.width, a.info.height]);
    const differences: number[] = [];
    for (let i = 0; i < shot.width * shot.height; i += 11) {
      const onScreen = [0, 1, 2].map(k => shot.data[i * 4 + k] / 255) as [number, number, number];
      const inFile = [0, 1, 2].map(k => a.codes[i * 3 + k] / 65535) as [number, number, number];
      differences.push(ciede2000(rgbToLab(...onScreen), rgbToLab(...inFile)));
    }
    differences.sort((x, y) => x - y);
    expect(differences[Math.floor(differences.length * 0.99)]).toBeLessThan(1);
  });
}
