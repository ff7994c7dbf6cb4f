import { chromiumOptions, withServer } from './temporary.mjs';

/**
 * `npm run bench:ui`: how the Bench feels, in headless Chromium at 1280x800, beside the time of an empty
 * animation frame in the same run.
 */

const median = list => list.toSorted((a, b) => a - b)[Math.floor(list.length / 2)];
const p95 = list => list.toSorted((a, b) => a - b)[Math.floor(list.length * 0.95)];
const ms = v => `${v.toFixed(1)} ms`;

await withServer(async url => {
  const { chromium } = await import('@playwright/test');
  const { default: sharp } = await import('sharp');
  const { benchJpeg } = await import('./bench-pictures.mjs');
  const file = await benchJpeg(5184, 3456);
  const api = async (method, path, body) => {
    const response = await fetch(url + path, {
      method,
      ...(body && { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
    });
    return response.json();
  };
  const series = await api('POST', '/api/series', { title: 'Measured' });
  const form = new FormData();
  form.append('file', new Blob([file]), 'eighteen.jpg');
  const importBegan = performance.now();
  const photograph = await (
    await fetch(`${url}/api/series/${series.id}/photographs`, { method: 'POST', body: form })
  ).json();
  console.log(
    `import of an 18-megapixel JPEG (${(file.length / 1e6).toFixed(1)} MB): ${ms(performance.now() - importBegan)}`,
  );
  await api('PUT', `/api/takes/${photograph.currentTakeId}/treatment`, {
    revision: 1,
    treatment: {
      format: 'lampwash-treatment',
      version: 1,
      steps: [
        { kind: 'light', settings: { exposure: 0.3 } },
        { kind: 'mono', settings: { method: 'response', response: { blue: -0.4, orange: 0.3 } } },
        {
          kind: 'split-tone',
          settings: { shadows: { hue: 220, saturation: 0.4 }, highlights: { hue: 40, saturation: 0.4 } },
        },
      ],
    },
  });

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
  const address = `/photographs/${photograph.id}`;
  console.log(`first picture on the Bench, never opened before: ${ms(await open(address))} after navigation`);
  const again = [];
  for (let i = 0; i < 5; i++) again.push(await open(address));
  console.log(`first picture on the Bench, opened before: median ${ms(median(again))} of ${again.length}`);

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

  /** Drags a slider and times each move until a picture at least as new is drawn. */
  async function drag(tray, name) {
    await page.locator('[data-tray]').nth(tray).click();
    await page.waitForTimeout(600);
    const track = page
      .locator('[data-kind]')
      .filter({ has: page.getByRole('slider', { name, exact: true }) });
    const box = await track.boundingBox();
    await page.mouse.move(box.x + box.width / 2, box.y + 10);
    await page.mouse.down();
    await page.evaluate(() => {
      const canvas = document.querySelector('canvas[data-picture]');
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
      addEventListener('pointermove', e => (window.moved = e.timeStamp), true);
    });
    for (let i = 0; i < 90; i++) {
      await page.mouse.move(box.x + box.width * (0.5 + 0.4 * Math.sin(i / 9)), box.y + 10);
      await page.waitForTimeout(16);
    }
    await page.waitForTimeout(300);
    const result = await page.evaluate(() => {
      window.watcher.disconnect();
      window.observer.disconnect();
      return { waits: window.waits, longTasks: window.longTasks };
    });
    await page.mouse.up();
    await page.waitForTimeout(1200);
    const longest = Math.max(0, ...result.longTasks);
    console.log(
      `${name}: slider to new picture median ${ms(median(result.waits))}, p95 ${ms(p95(result.waits))} (${result.waits.length} moves); longest main-thread task ${longest ? ms(longest) : 'under 50 ms'}`,
    );
  }
  await drag(2, 'Shadows saturation');
  await drag(1, 'Response by hue blue');
  await drag(0, 'Exposure');
  await browser.close();

  const began = performance.now();
  const [sent] = await api('POST', '/api/send-outs', {
    series: series.id,
    takes: [photograph.currentTakeId],
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
