import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './ensure.mjs';
import { measureChoosing } from './bench-ui-choosing.mjs';
import { chromiumOptions, withServer } from './temporary.mjs';

/**
 * `npm run bench:ui`: how the Bench feels, in headless Chromium at 1280x800, beside the time of an empty
 * animation frame in the same run.
 */

const median = list => list.toSorted((a, b) => a - b)[Math.floor(list.length / 2)];
const p95 = list => list.toSorted((a, b) => a - b)[Math.floor(list.length * 0.95)];
const ms = v => `${v.toFixed(1)} ms`;

const steps = list => ({ format: 'lampwash-treatment', version: 1, ...list });

/** Eight steps such as a photographer ends with: ground, conversion, tone, finish. */
const eightSteps = steps({
  steps: [
    { kind: 'white-balance', settings: { warmth: 0.1 } },
    { kind: 'light', settings: { exposure: 0.3, contrast: 0.15 } },
    { kind: 'mono', settings: { method: 'response', response: { blue: -0.4, orange: 0.3 } } },
    {
      kind: 'curve',
      settings: {
        points: {
          lightness: [
            [0, 0.05],
            [0.3, 0.26],
            [0.7, 0.76],
            [1, 0.98],
          ],
        },
      },
    },
    {
      kind: 'split-tone',
      settings: { shadows: { hue: 220, saturation: 0.4 }, highlights: { hue: 40, saturation: 0.4 } },
    },
    { kind: 'tint', strength: 0.2 },
    { kind: 'vignette', settings: { amount: -0.3 } },
    { kind: 'grain', settings: { amount: 0.3 } },
  ],
});

/** Six washes over a conversion, each on a painted area of its own. */
const pigments = ['#a3504c', '#3f6d78', '#b7983a', '#5d7039', '#94aec0', '#7c5c40'];
const sixWashes = steps({
  masks: pigments.map((_, i) => ({
    id: `m${i + 1}`,
    name: `Area ${i + 1}`,
    parts: [
      {
        kind: 'brush',
        op: 'add',
        strokes: [0, 1, 2].map(k => ({
          points: Array.from({ length: 40 }, (_, j) => [
            0.1 + j * 0.02,
            0.12 + i * 0.14 + k * 0.03 + 0.01 * Math.sin(j / 3),
            1,
          ]),
          radius: 0.03,
          hardness: 0.5,
          flow: 1,
          erase: false,
        })),
      },
    ],
  })),
  steps: [
    { kind: 'mono' },
    { kind: 'split-tone', settings: { highlights: { hue: 42, saturation: 0.3 } } },
    ...pigments.map((colour, i) => ({
      kind: 'wash',
      mask: `m${i + 1}`,
      strength: 0.7,
      settings: { pigment: { kind: 'flat', colour } },
    })),
  ],
});

await withServer(async url => {
  const { chromium } = await import('@playwright/test');
  const { default: sharp } = await import('sharp');
  const { benchJpeg } = await import('./bench-pictures.mjs');
  const api = async (method, path, body) => {
    const response = await fetch(url + path, {
      method,
      ...(body && { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
    });
    if (!response.ok) throw new Error(await response.text());
    return response.json();
  };
  const series = await api('POST', '/api/series', { title: 'Measured' });
  const bringIn = async (bytes, name, treatment) => {
    const form = new FormData();
    form.append('file', new Blob([bytes]), name);
    const sent = await fetch(`${url}/api/series/${series.id}/photographs`, { method: 'POST', body: form });
    const photograph = await sent.json();
    await api('PUT', `/api/takes/${photograph.currentTakeId}/treatment`, { revision: 1, treatment });
    return photograph;
  };
  const demo = await bringIn(
    readFileSync(join(root, 'demo', 'photographs', 'quinces-and-enamel-jug.jpg')),
    'quinces.jpg',
    eightSteps,
  );
  const file = await benchJpeg(5184, 3456);
  const importBegan = performance.now();
  const large = await bringIn(file, 'eighteen.jpg', sixWashes);
  console.log(
    `import of an 18-megapixel JPEG (${(file.length / 1e6).toFixed(1)} MB): ${ms(performance.now() - importBegan)}`,
  );

  const browser = await chromium.launch(chromiumOptions);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const open = async path => {
    await page.goto(url + path);
    await page.waitForFunction(() => {
      const canvas = document.querySelector('canvas[data-picture]');
      return canvas?.dataset.shown && canvas.dataset.shown === canvas.dataset.wanted;
    });
    return page.evaluate(() => performance.getEntriesByName('picture shown')[0].startTime);
  };
  for (const [what, { id }] of Object.entries({
    'a demo photograph, eight steps': demo,
    'eighteen megapixels, six washes': large,
  })) {
    const address = `/photographs/${id}`;
    console.log(`first picture, ${what}, never opened before: ${ms(await open(address))} after navigation`);
    const again = [];
    for (let i = 0; i < 5; i++) again.push(await open(address));
    console.log(`first picture, ${what}, opened before: median ${ms(median(again))} of ${again.length}`);
  }

  /** From the sheet: a press of Enter on a print until its picture hangs. */
  const fromSheet = async () => {
    await page.goto(`${url}/series/${series.id}`);
    const print = page.getByRole('row').first();
    await print.focus();
    await page.waitForTimeout(700);
    await page.evaluate(() => {
      performance.clearMarks();
      addEventListener('keydown', e => (window.opened = e.timeStamp), { capture: true, once: true });
    });
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => performance.getEntriesByName('picture shown').length > 0);
    return page.evaluate(() => performance.getEntriesByName('picture shown')[0].startTime - window.opened);
  };
  const opened = [];
  for (let i = 0; i < 5; i++) opened.push(await fromSheet());
  console.log(
    `from the sheet to the first picture, a demo photograph, eight steps: median ${ms(median(opened))} of ${opened.length}`,
  );
  await open(`/photographs/${demo.id}`);
  await page.waitForTimeout(1500);

  const frame = await page.evaluate(async () => {
    const times = [];
    let last = await new Promise(requestAnimationFrame);
    for (let i = 0; i < 60; i++) {
      const now = await new Promise(requestAnimationFrame);
      times.push(now - last);
      last = now;
    }
    return times;
  });
  console.log(`empty animation frame: median ${ms(median(frame))}, p95 ${ms(p95(frame))}`);

  /** Notes from now on how long each asked picture, or a newer one, takes to be drawn, and long tasks. */
  const watch = () =>
    page.evaluate(() => {
      const canvas = document.querySelector('canvas[data-picture]');
      performance.clearMarks('picture shown');
      window.waits = [];
      window.longTasks = [];
      window.observer = new PerformanceObserver(list =>
        window.longTasks.push(...list.getEntries().map(e => e.duration)),
      );
      window.observer.observe({ type: 'longtask' });
      const asked = new Map();
      window.watcher = new MutationObserver(records => {
        const now = performance.now();
        for (const { attributeName } of records) {
          if (attributeName === 'data-wanted') asked.set(Number(canvas.dataset.wanted), window.moved ?? now);
          else {
            const shown = Number(canvas.dataset.shown);
            for (const [serial, at] of asked) {
              if (serial > shown) continue;
              window.waits.push(now - at);
              asked.delete(serial);
            }
          }
        }
      });
      window.watcher.observe(canvas, { attributes: true, attributeFilter: ['data-wanted', 'data-shown'] });
      // A brush is led by places as they come, a slider by those of each frame.
      for (const type of ['pointerdown', 'pointermove', 'pointerrawupdate', 'pointerup']) {
        addEventListener(type, e => (window.moved = e.timeStamp), true);
      }
    });
  const report = async name => {
    const { waits, longTasks, shown } = await page.evaluate(() => {
      window.watcher.disconnect();
      window.observer.disconnect();
      const shown = performance.getEntriesByName('picture shown').map(e => e.detail);
      return { waits: window.waits, longTasks: window.longTasks, shown };
    });
    const longest = Math.max(0, ...longTasks);
    console.log(
      `${name}: move to new picture median ${ms(median(waits))}, p95 ${ms(p95(waits))} (${waits.length} moves; ${ms(median(shown.map(s => s.took)))} of it rendering ${median(shown.map(s => s.pixels))} pixels); longest main-thread task ${longest ? ms(longest) : 'under 50 ms'}`,
    );
  };

  /** Drags a slider of a step. */
  async function drag(tray, name) {
    await page.locator('[data-tray]').nth(tray).click();
    await page.waitForTimeout(600);
    const track = page
      .locator('[data-kind]')
      .filter({ has: page.getByRole('slider', { name, exact: true }) });
    await track.scrollIntoViewIfNeeded();
    const box = await track.boundingBox();
    await page.mouse.move(box.x + box.width / 2, box.y + 10);
    await page.mouse.down();
    await watch();
    for (let i = 0; i < 90; i++) {
      await page.mouse.move(box.x + box.width * (0.5 + 0.4 * Math.sin(i / 9)), box.y + 10);
      await page.waitForTimeout(16);
    }
    await page.waitForTimeout(300);
    await report(name);
    await page.mouse.up();
    await page.waitForTimeout(1200);
  }
  await drag(4, 'Shadows saturation');
  await drag(2, 'Response by hue blue');
  await drag(1, 'Exposure');

  /** Paints strokes to and fro for a while. */
  async function paint(seconds) {
    const at = await page.locator('[data-print]').boundingBox();
    for (const began = performance.now(); performance.now() - began < seconds * 1000;) {
      const y = at.y + at.height * (0.2 + 0.6 * Math.random());
      await page.mouse.move(at.x + at.width * 0.15, y);
      await page.mouse.down();
      for (let i = 0; i < 60; i++) {
        await page.mouse.move(at.x + at.width * (0.15 + 0.011 * i), y + 14 * Math.sin(i / 5));
        await page.waitForTimeout(12);
      }
      await page.mouse.up();
    }
  }
  await open(`/photographs/${large.id}`);
  await page.locator('[data-tray]').last().click();
  await page.waitForTimeout(2500);
  await paint(2);
  await watch();
  await paint(4);
  await page.waitForTimeout(300);
  await report('Painting, 18 megapixels, six washes');

  /** Waits until what was asked for last is drawn finely. */
  const settled = () =>
    page.waitForFunction(
      () => {
        const { wanted, shown, fine } = document.querySelector('canvas[data-picture]')?.dataset ?? {};
        return shown && wanted === shown && fine === 'true';
      },
      null,
      { polling: 'raf' },
    );
  /** From a key, a press or a turn of the wheel until the picture is fine: medians. */
  async function untilFine(name, times, act, event) {
    const waits = [];
    for (let i = 0; i < times; i++) {
      await page.evaluate(type => {
        performance.clearMarks('picture shown');
        window.began = null;
        addEventListener(type, e => (window.began = e.timeStamp), { capture: true, once: true });
      }, event);
      await act(i);
      await page.waitForTimeout(50);
      await settled();
      const wait = await page.evaluate(() => {
        const fine = performance.getEntriesByName('picture shown').filter(e => e.detail.fine);
        return fine.length ? fine[0].startTime - window.began : null;
      });
      if (wait !== null) waits.push(wait);
      await page.waitForTimeout(700);
    }
    console.log(`${name}: median ${ms(median(waits))} of ${waits.length}`);
  }
  const demoSeries = (await (await fetch(`${url}/api/series`)).json()).find(
    s => s.title === 'Saltmarsh Ferry',
  );
  const ferry = await (await fetch(`${url}/api/series/${demoSeries.id}`)).json();
  await open(`/photographs/${demo.id}`);
  await page.waitForTimeout(2000);
  await page.locator('[data-tray]').nth(4).click();
  await page.waitForTimeout(1500);
  const strength = page.getByRole('textbox', { name: /Strength/ }).first();
  await untilFine(
    'a split tone’s strength typed, at fit, to the fine picture',
    5,
    async i => {
      await strength.fill(String(30 + 7 * i));
      await strength.press('Enter');
    },
    'keydown',
  );
  const stage = page.locator('[data-stage-of-picture]');
  await stage.hover();
  await page.locator('body').click({ position: { x: 700, y: 20 } });
  await page.waitForTimeout(500);
  await untilFine('to natural size, the first time', 1, () => page.keyboard.press('n'), 'keydown');
  await page.keyboard.press('f');
  await settled();

  /** How often what is drawn and the paper stand at different scales while the wheel is turned: none must. */
  const apart = await page.evaluate(async () => {
    const canvas = document.querySelector('canvas[data-picture]');
    const paper = document.querySelector('[data-print]');
    const stage = document.querySelector('[data-stage-of-picture]');
    const context = canvas.getContext('2d');
    const [frames, wrong] = [30, []];
    for (let i = 0; i < frames; i++) {
      const box = stage.getBoundingClientRect();
      stage.dispatchEvent(
        new window.WheelEvent('wheel', {
          deltaY: i < 15 ? -60 : 60,
          clientX: box.x + box.width / 2,
          clientY: box.y + box.height / 2,
          bubbles: true,
          cancelable: true,
        }),
      );
      await new Promise(requestAnimationFrame);
      await new Promise(requestAnimationFrame);
      const print = paper.getBoundingClientRect();
      const y = Math.round(canvas.height / 2);
      const row = context.getImageData(0, y, canvas.width, 1).data;
      let [left, right] = [-1, -1];
      for (let x = 0; x < canvas.width; x++) {
        if (!row[x * 4 + 3]) continue;
        if (left < 0) left = x;
        right = x;
      }
      const wall = canvas.getBoundingClientRect();
      const from = Math.max(0, print.left + 7 - wall.left);
      const to = Math.min(canvas.width, print.right - 7 - wall.left);
      if (Math.abs(left - from) > 1 || Math.abs(right + 1 - to) > 1)
        wrong.push([left - from, right + 1 - to]);
    }
    return { frames, wrong: wrong.length };
  });
  console.log(`zooming: ${apart.wrong} of ${apart.frames} frames in which picture and paper stood apart`);
  await settled();
  await page.keyboard.press('f');
  await settled();

  await page.goto(`${url}/photographs/${ferry.photographs[0].id}`);
  await settled();
  await page.waitForTimeout(4000);
  await untilFine(
    'from the strip to the next photograph',
    3,
    async i => {
      await page.waitForTimeout(2500);
      await page
        .locator('nav[aria-label="Neighbouring photographs"] a')
        .nth(i + 1)
        .click();
    },
    'click',
  );

  await open(`/photographs/${large.id}`);
  await page.waitForTimeout(2500);
  await page.evaluate(() => {
    window.longTasks = [];
    new PerformanceObserver(list => window.longTasks.push(...list.getEntries().map(e => e.duration))).observe(
      {
        type: 'longtask',
      },
    );
  });
  for (const i of [0, 3, 1, 5]) {
    await page.locator('[data-tray]').nth(i).click();
    await page.waitForTimeout(900);
  }
  const chosen = await page.evaluate(() => window.longTasks);
  console.log(
    `choosing a tray: longest main-thread task ${chosen.length ? ms(Math.max(...chosen)) : 'under 50 ms'}`,
  );
  await page.locator('[data-tray]').last().click();
  await page.waitForTimeout(1500);
  const toEdges = page.getByRole('slider', { name: 'To edges' });
  if (await toEdges.count()) {
    await toEdges.focus();
    await untilFine('an area drawn to the edges', 2, () => page.keyboard.press('ArrowRight'), 'keydown');
  }

  if (process.argv.includes('--minute')) {
    const memory = await page.context().newCDPSession(page);
    const heap = async () => {
      await memory.send('HeapProfiler.collectGarbage');
      const { usedSize } = await memory.send('Runtime.getHeapUsage');
      const { nodes, jsEventListeners } = await memory.send('Memory.getDOMCounters');
      return `heap ${(usedSize / 1e6).toFixed(1)} MB, ${nodes} nodes, ${jsEventListeners} listeners`;
    };
    console.log(`before a minute of painting: ${await heap()}`);
    await paint(60);
    await page.waitForTimeout(2000);
    console.log(`after it: ${await heap()}`);
  }
  await measureChoosing(page, open, demo, median(frame));
  await browser.close();

  const began = performance.now();
  const [sent] = await api('POST', '/api/send-outs', {
    series: series.id,
    takes: [large.currentTakeId],
    settings: {},
  });
  for (;;) {
    const [row] = await api('GET', `/api/send-outs?series=${series.id}`);
    if (row.id === sent.id && row.state === 'done') break;
    if (row.state === 'failed') throw new Error(row.problem);
    await new Promise(done => setTimeout(done, 20));
  }
  const took = performance.now() - began;
  const plainBegan = performance.now();
  await sharp(file)
    .recomb([
      [0.3, 0.59, 0.11],
      [0.3, 0.59, 0.11],
      [0.3, 0.59, 0.11],
    ])
    .jpeg({ quality: 90, chromaSubsampling: '4:4:4' })
    .toBuffer();
  const plain = performance.now() - plainBegan;
  console.log(
    `export of the 18-megapixel JPEG, asked to finished: ${ms(took)} (sharp's own recomb and encode of the same file: ${ms(plain)}, ratio ${(took / plain).toFixed(2)})`,
  );
});
