import { spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from 'esbuild';
import { ensureBuilt, ensurePackages, root } from './ensure.mjs';
import { chromiumOptions, ensureChromium } from './temporary.mjs';

/**
 * `npm run bench`: how fast the engine is, as ratios against a reference measured in the same run. Whole processes,
 * from start to finished file, each several times in turn; the medians count.
 */

ensurePackages();
ensureBuilt();
ensureChromium();
const { benchJpeg } = await import('./bench-pictures.mjs');

const folder = mkdtempSync(join(tmpdir(), 'lampwash-bench-'));
const rounds = Number(process.argv[2] ?? 5);
const median = list => list.toSorted((a, b) => a - b)[Math.floor(list.length / 2)];
const seconds = ms => `${(ms / 1000).toFixed(2)} s`;

/** Runs a process to its end: milliseconds, and the most memory that it held (MiB). */
function timed(args) {
  return new Promise((done, fail) => {
    const began = performance.now();
    const child = spawn(process.execPath, args, { stdio: ['ignore', 'inherit', 'inherit'] });
    let peak = 0;
    const watch = setInterval(() => {
      try {
        const status = readFileSync(`/proc/${child.pid}/status`, 'utf8');
        peak = Math.max(peak, Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024);
      } catch {
        // Ended meanwhile.
      }
    }, 50);
    child.once('exit', code => {
      clearInterval(watch);
      if (code === 0) done({ ms: performance.now() - began, peak });
      else fail(new Error(`a measured process ended with ${code}`));
    });
  });
}

function treatment(name, steps, more = {}) {
  const path = join(folder, `${name}.treatment.json`);
  writeFileSync(path, JSON.stringify({ format: 'lampwash-treatment', version: 1, steps, ...more }));
  return path;
}

const pointSteps = count => {
  const pattern = [
    { kind: 'light', stage: 'ground', settings: { exposure: 0.2, shadows: 0.3, contrast: 0.2 } },
    { kind: 'white-balance', stage: 'ground', settings: { warmth: 0.1 } },
    { kind: 'colour-bands', stage: 'ground', settings: { blue: { saturation: -0.3 } } },
    { kind: 'mono', stage: 'mono', settings: { method: 'response', response: { blue: -0.5, orange: 0.3 } } },
    {
      kind: 'curve',
      stage: 'tone',
      settings: {
        points: {
          all: [
            [0, 0.05],
            [0.4, 0.38],
            [1, 0.97],
          ],
        },
      },
    },
    { kind: 'levels', stage: 'tone', settings: { gamma: 1.05 } },
    {
      kind: 'split-tone',
      stage: 'tone',
      settings: { shadows: { hue: 220, saturation: 0.3 }, highlights: { hue: 40, saturation: 0.3 } },
    },
    { kind: 'filter', stage: 'tone', settings: { density: 0.2 } },
    { kind: 'baths', stage: 'tone', strength: 0.5, settings: { baths: [{ toner: 'sepia', time: 0.4 }] } },
    { kind: 'gradient-map', stage: 'tone', strength: 0.2, settings: {} },
  ];
  if (count === 2) return [pattern[3], pattern[6]];
  return Array.from({ length: count / 10 }, () => pattern)
    .flat()
    .sort((a, b) => order[a.stage] - order[b.stage]);
};
const order = { ground: 0, mono: 1, tone: 2 };

/** The same with a conversion that looks at nothing but the colour. */
const withWeights = steps =>
  steps.map(step =>
    step.kind === 'mono'
      ? { ...step, settings: { method: 'channels', channels: { red: 0.5, green: 0.4, blue: 0.1 } } }
      : step,
  );

const washes = {
  masks: Array.from({ length: 6 }, (_, i) => ({
    id: `m${i}`,
    feather: i % 2 ? 0.004 : 0,
    parts: [
      { kind: 'oval', centre: [0.15 + 0.14 * i, 0.5], radii: [0.07, 0.12], feather: 0.3 },
      {
        kind: 'brush',
        strokes: [
          {
            radius: 0.02,
            hardness: 0.4,
            flow: 0.6,
            points: [
              [0.1 + 0.14 * i, 0.3, 1],
              [0.2 + 0.13 * i, 0.7, 0.8],
            ],
          },
        ],
      },
    ],
  })),
};

const run = (script, ...args) => timed([join(root, 'dist/server', `${script}.mjs`), ...args]);
const render = (picture, file, out, ...more) =>
  run('render', picture, '--treatment', file, '--out', out, ...more);

async function reference(picture, out) {
  const script = `
    import sharp from ${JSON.stringify(join(root, 'node_modules/sharp/dist/index.mjs'))};
    await sharp(${JSON.stringify(picture)}).recomb([[.3,.6,.1],[.3,.6,.1],[.3,.6,.1]])
      .jpeg({ quality: 90, chromaSubsampling: '4:4:4' }).toFile(${JSON.stringify(out)});`;
  const path = join(root, 'node_modules', '.lampwash-bench-reference.mjs');
  writeFileSync(path, script.replace(/import sharp from .*;/, "import sharp from 'sharp';"));
  try {
    return await timed([path]);
  } finally {
    rmSync(path, { force: true });
  }
}

/** Each piece of work once a round, in turn, so that a slow moment of the machine hits all alike. */
async function compare(work) {
  const times = Object.fromEntries(Object.keys(work).map(name => [name, []]));
  let peak = 0;
  for (let round = 0; round < rounds; round++) {
    for (const [name, start] of Object.entries(work)) {
      const result = await start();
      times[name].push(result.ms);
      peak = Math.max(peak, result.peak);
    }
  }
  return { ...Object.fromEntries(Object.entries(times).map(([name, list]) => [name, median(list)])), peak };
}

/** The engine as the browser runs it: in a web worker of headless Chromium, warm, milliseconds a megapixel. */
async function inBrowser() {
  const { outputFiles } = await build({
    entryPoints: [join(root, 'scripts/bench-worker.ts')],
    bundle: true,
    format: 'iife',
    write: false,
    logLevel: 'warning',
  });
  const { chromium } = await import('@playwright/test');
  const browser = await chromium.launch(chromiumOptions);
  try {
    const page = await browser.newPage();
    return await page.evaluate(
      code =>
        new Promise((done, fail) => {
          const worker = new Worker(URL.createObjectURL(new Blob([code], { type: 'text/javascript' })));
          worker.onmessage = event => done(event.data);
          worker.onerror = event => fail(new Error(event.message));
        }),
      outputFiles[0].text,
    );
  } finally {
    await browser.close();
  }
}

/** The demo's photographs sent out at once by a server, and one after another by sharp. */
async function batchThroughServer() {
  const { withServer } = await import('./temporary.mjs');
  const { default: sharp } = await import('sharp');
  let result;
  await withServer(async url => {
    const api = async (path, body) => {
      const response = await fetch(url + path, {
        ...(body && {
          method: 'POST',
          body: JSON.stringify(body),
          headers: { 'Content-Type': 'application/json' },
        }),
      });
      if (!response.ok) throw new Error(await response.text());
      return response.json();
    };
    const list = await api('/api/series');
    const series = await api(`/api/series/${list.find(s => s.title === 'Saltmarsh Ferry').id}`);
    const takes = series.photographs.map(p => p.currentTakeId);
    // What is fetched and read for the first time is not what is measured.
    await new Promise(done => setTimeout(done, 3000));
    const began = performance.now();
    await api('/api/send-outs', { series: series.id, takes, settings: {} });
    for (;;) {
      const rows = await api(`/api/send-outs?series=${series.id}`);
      const failed = rows.find(row => row.state === 'failed');
      if (failed) throw new Error(failed.problem);
      if (rows.filter(row => row.state === 'done').length === takes.length) break;
      await new Promise(done => setTimeout(done, 20));
    }
    const server = performance.now() - began;
    const files = readdirSync(join(root, 'demo/photographs')).filter(name => name.endsWith('.jpg'));
    const plainBegan = performance.now();
    for (const name of files.slice(0, takes.length)) {
      await sharp(join(root, 'demo/photographs', name))
        .recomb([
          [0.3, 0.6, 0.1],
          [0.3, 0.6, 0.1],
          [0.3, 0.6, 0.1],
        ])
        .jpeg({ quality: 90, chromaSubsampling: '4:4:4' })
        .toBuffer();
    }
    result = { server, plain: performance.now() - plainBegan };
  });
  return result;
}

try {
  const eighteen = join(folder, 'eighteen.jpg');
  writeFileSync(eighteen, await benchJpeg(5184, 3456));
  const out = join(folder, 'out.jpg');
  const t = {
    two: treatment('two', pointSteps(2)),
    ten: treatment('ten', pointSteps(10)),
    twenty: treatment('twenty', pointSteps(20)),
    plainTwo: treatment('plain-two', withWeights(pointSteps(2))),
    plainTen: treatment('plain-ten', withWeights(pointSteps(10))),
    plainTwenty: treatment('plain-twenty', withWeights(pointSteps(20))),
    washes: treatment(
      'washes',
      [
        { kind: 'mono' },
        ...washes.masks.map((m, i) => ({
          kind: 'wash',
          mask: m.id,
          settings: {
            pigment: {
              kind: 'flat',
              colour: ['#b5793c', '#4a7a4a', '#7aa0c0', '#a05050', '#d0b080', '#806090'][i],
            },
          },
        })),
      ],
      washes,
    ),
    contrast: treatment('contrast', [
      { kind: 'local-contrast', settings: { coarse: 0.5, medium: 0.5, fine: 0.3 } },
      { kind: 'mono' },
    ]),
    sharp: treatment('sharp', [
      { kind: 'mono' },
      { kind: 'sharpen', settings: { amount: 1 } },
      { kind: 'grain', settings: { amount: 0.3 } },
    ]),
  };
  const r = await compare({
    reference: () => reference(eighteen, out),
    two: () => render(eighteen, t.two, out),
    ten: () => render(eighteen, t.ten, out),
    twenty: () => render(eighteen, t.twenty, out),
    plainTwo: () => render(eighteen, t.plainTwo, out),
    plainTen: () => render(eighteen, t.plainTen, out),
    plainTwenty: () => render(eighteen, t.plainTwenty, out),
    washes: () => render(eighteen, t.washes, out),
    contrast: () => render(eighteen, t.contrast, out),
    sharpen: () => render(eighteen, t.sharp, out),
  });
  const line = (name, ms, against, bar) =>
    console.log(`${name}: ${seconds(ms)}, ratio ${(ms / against).toFixed(2)}${bar ? ` (bar ${bar})` : ''}`);
  console.log(`18 megapixels, JPEG to JPEG, whole processes, median of ${rounds}`);
  console.log(`sharp's recomb of the same file: ${seconds(r.reference)}, the reference`);
  line('ten point steps, a response by hue among them', r.ten, r.reference);
  line('ten point steps, channel weights in its place', r.plainTen, r.reference, 1.2);
  line('twenty point steps against two', r.twenty, r.two, 1.3);
  line('the same with channel weights', r.plainTwenty, r.plainTwo, 1.3);
  line('a mono and six masked washes', r.washes, r.reference, 2);
  line('local contrast at three scales and a mono', r.contrast, r.reference, 2);
  line('a mono, sharpening and grain', r.sharpen, r.reference, 1.8);
  console.log(`most memory: ${r.peak.toFixed(0)} MiB`);

  const hundred = join(folder, 'hundred.jpg');
  writeFileSync(hundred, await benchJpeg(12240, 8160));
  const plain = await reference(hundred, out);
  const large = await render(hundred, t.ten, out);
  const heavy = await render(hundred, t.sharp, out);
  console.log(`100 megapixels (${(statSync(hundred).size / 1e6).toFixed(0)} MB)`);
  console.log(`sharp's recomb: ${seconds(plain.ms)}, ${plain.peak.toFixed(0)} MiB`);
  console.log(
    `ten point steps: ${seconds(large.ms)}, ratio ${(large.ms / plain.ms).toFixed(2)}, ${large.peak.toFixed(0)} MiB (bar 1536 MiB)`,
  );
  console.log(
    `a mono, sharpening and grain: ${seconds(heavy.ms)}, ratio ${(heavy.ms / plain.ms).toFixed(2)} (bar 2.5), ${heavy.peak.toFixed(0)} MiB (bar 1536 MiB)`,
  );

  const batch = await batchThroughServer();
  console.log(
    `twelve demo photographs sent out by the server: ${seconds(batch.server)}, twelve recombs by sharp in one process: ${seconds(batch.plain)}, ratio ${(batch.server / batch.plain).toFixed(2)} (bar 1.5)`,
  );

  console.log(
    'in a web worker of headless Chromium, one core, warm (reference: a copy of the same pixels through a 2D canvas)',
  );
  for (const row of await inBrowser()) {
    console.log(
      `${row.name} at ${row.megapixels} megapixels: ${row.perMegapixel.toFixed(1)} ms a megapixel, ratio ${row.ratio.toFixed(2)}`,
    );
  }

  // Within the project, so that its packages are found.
  const finding = join(root, 'data', 'bench-finding.mjs');
  await build({
    entryPoints: [join(root, 'scripts', 'bench-finding.ts')],
    outfile: finding,
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
  });
  await timed([finding]);
  rmSync(finding);
} finally {
  rmSync(folder, { recursive: true, force: true });
}
