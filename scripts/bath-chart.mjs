import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { ensureBuilt, root } from './ensure.mjs';

/** `node scripts/bath-chart.mjs`: docs/pictures/baths.png, each toner at three times, made by the engine. */

const TONERS = ['sepia', 'selenium', 'gold', 'copper', 'iron-blue', 'nickel', 'vanadium'];
const TIMES = [0.25, 0.5, 1];
const STARTS = ['highlights', 'shadows'];
const [LABEL, HEAD, WIDTH, HEIGHT, GAP] = [96, 34, 190, 44, 8];

ensureBuilt();
const folder = mkdtempSync(join(tmpdir(), 'lampwash-baths-'));
const ramp = join(folder, 'ramp.png');
const codes = Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) => ((i % WIDTH) / (WIDTH - 1)) * 255);
writeFileSync(
  ramp,
  await sharp(codes, { raw: { width: WIDTH, height: HEIGHT, channels: 1 } })
    .png()
    .toBuffer(),
);

function toned(baths) {
  const treatment = join(folder, 't.json');
  const out = join(folder, 'out.png');
  const steps = [{ kind: 'baths', settings: { baths } }];
  writeFileSync(treatment, JSON.stringify({ format: 'lampwash-treatment', version: 1, steps }));
  execFileSync('node', [join(root, 'dist/server/render.mjs'), ramp, '--treatment', treatment, '--out', out]);
  return sharp(out).removeAlpha().toColourspace('srgb').png().toBuffer();
}

const columns = STARTS.flatMap(start => TIMES.map(time => ({ start, time })));
const width = LABEL + columns.length * (WIDTH + GAP);
const height = HEAD + (TONERS.length + 1) * (HEIGHT + GAP);
const text = (x, y, words) =>
  `<text x="${x}" y="${y}" font-family="sans-serif" font-size="14" fill="#222">${words}</text>`;
const labels = [
  ...columns.map(({ start, time }, i) =>
    text(LABEL + i * (WIDTH + GAP), 22, `${start === 'highlights' ? 'lights' : 'darks'} first, time ${time}`),
  ),
  ...TONERS.map((toner, i) => text(8, HEAD + i * (HEIGHT + GAP) + 27, toner)),
  text(8, HEAD + TONERS.length * (HEIGHT + GAP) + 27, 'two baths'),
];
const parts = [
  {
    input: Buffer.from(`<svg width="${width}" height="${height}">${labels.join('')}</svg>`),
    left: 0,
    top: 0,
  },
];
const at = (row, column) => ({ left: LABEL + column * (WIDTH + GAP), top: HEAD + row * (HEIGHT + GAP) });
for (const [row, toner] of TONERS.entries()) {
  for (const [column, { start, time }] of columns.entries()) {
    parts.push({ input: await toned([{ toner, time, start }]), ...at(row, column) });
  }
}
const pairs = [
  ['sepia', 'selenium'],
  ['sepia', 'iron-blue'],
  ['sepia', 'gold'],
  ['copper', 'iron-blue'],
  ['selenium', 'gold'],
  ['iron-blue', 'sepia'],
];
for (const [column, [first, second]] of pairs.entries()) {
  const baths = [
    { toner: first, time: 0.35, start: 'highlights' },
    { toner: second, time: 1, start: 'even' },
  ];
  parts.push({ input: await toned(baths), ...at(TONERS.length, column) });
}
await sharp({ create: { width, height, channels: 3, background: '#f4f4f4' } })
  .composite(parts)
  .png({ compressionLevel: 9 })
  .toFile(join(root, 'docs/pictures/baths.png'));
rmSync(folder, { recursive: true });
