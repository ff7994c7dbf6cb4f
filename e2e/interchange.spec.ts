import { expect, type Page } from '@playwright/test';
import { unzipSync, strFromU8 } from 'fflate';
import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { layerModes } from '../core/engine/layers';
import type { App } from '../server/testing/running';
import { test } from './app';
import { colourAt, differs, pictureOn } from './picture';
import { openBench, panelOf, saved } from './work';

/** What goes from here to other programs, and what comes back by being laid down. */

/** Lays files down on the screen, as a hand does that drags them there. */
async function layDown(page: Page, ...files: { name: string; bytes: Buffer }[]): Promise<void> {
  const given = files.map(({ name, bytes }) => ({ name, base64: bytes.toString('base64') }));
  await page.evaluate(all => {
    const carried = new DataTransfer();
    for (const { name, base64 } of all) {
      const bytes = Uint8Array.from(atob(base64), c => c.charCodeAt(0));
      carried.items.add(new File([bytes], name));
    }
    for (const type of ['dragenter', 'dragover', 'drop']) {
      document.body.dispatchEvent(
        new DragEvent(type, { dataTransfer: carried, bubbles: true, cancelable: true }),
      );
    }
  }, given);
}

/** A file that a press on something downloads. */
async function downloaded(page: Page, press: () => Promise<void>): Promise<{ name: string; bytes: Buffer }> {
  const downloading = page.waitForEvent('download');
  await press();
  const download = await downloading;
  return { name: download.suggestedFilename(), bytes: readFileSync(await download.path()) };
}

const otherFile = async (page: Page, name: string) => {
  await page.getByRole('button', { name: 'More for this take' }).click();
  await page.getByRole('menuitem', { name, exact: true }).click();
};

const masks = [
  { id: 'm', name: 'Hull', parts: [{ kind: 'oval', centre: [0.4, 0.5], radii: [0.25, 0.2], feather: 0.3 }] },
  { id: 'n', name: 'Sky', parts: [{ kind: 'linear', from: [0.5, 0.1], to: [0.5, 0.6] }] },
];
const toned = [
  { kind: 'mono' },
  {
    kind: 'split-tone',
    settings: { shadows: { hue: 230, saturation: 0.5 }, highlights: { hue: 45, saturation: 0.5 } },
  },
];

/** A series with one photograph of many colours, treated. */
async function oneTreated(
  app: App,
  treatment: object,
): Promise<{ series: string; photograph: string; take: string }> {
  const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'Low water' });
  const codes = Buffer.alloc(300 * 200 * 3);
  for (let i = 0; i < 300 * 200; i++) {
    const [x, y] = [i % 300, Math.floor(i / 300)];
    codes.set([60 + (x * 180) / 300, 200 - (y * 150) / 200, 128 + 90 * Math.sin(x / 30 + y / 20)], i * 3);
  }
  const file = await sharp(codes, { raw: { width: 300, height: 200, channels: 3 } })
    .png()
    .toBuffer();
  const { id, currentTakeId } = await app.bringIn(series.id, file, 'quay.png');
  await app.api('PUT', `/api/takes/${currentTakeId}/treatment`, { revision: 1, treatment });
  return { series: series.id, photograph: id, take: currentTakeId };
}

const treatmentOf = (steps: object[]) => ({ format: 'lampwash-treatment', version: 1, masks, steps });

test('layers of every mix, put together by the browser, are the picture', async ({ page, app }) => {
  const washes = layerModes.map((mix, i) => ({
    kind: 'wash',
    mix,
    strength: 0.5 + 0.03 * i,
    mask: i % 2 ? 'm' : 'n',
    settings: { pigment: { kind: 'flat', colour: ['#a05a3c', '#3c6aa0', '#c8a050'][i % 3] } },
  }));
  const { series } = await oneTreated(app, treatmentOf([...toned, ...washes]));
  await page.goto(`${app.url}/series/${series}/send-out`);
  await page.getByRole('button', { name: /^Layers/ }).click();
  const queue = page.getByRole('complementary', { name: 'Going out' });
  await expect(queue.getByText(/16 layers, together 0\.\d of 255 from the picture/)).toBeVisible({
    timeout: 60_000,
  });
  const { name, bytes } = await downloaded(page, () =>
    queue.getByRole('link', { name: /^Download/ }).click(),
  );
  expect(name).toMatch(/\.ora$/);

  const files = unzipSync(bytes);
  const images = Object.fromEntries(
    Object.entries(files)
      .filter(([file]) => file.endsWith('.png'))
      .map(([file, png]) => [file, Buffer.from(png).toString('base64')]),
  );
  // The browser's own canvas knows these mixes by the same names.
  const apart = await page.evaluate(
    async ({ xml, all }) => {
      const picture = async (file: string) => {
        const bytes = Uint8Array.from(atob(all[file]), c => c.charCodeAt(0));
        return createImageBitmap(new Blob([bytes], { type: 'image/png' }));
      };
      const codes = async (draw: (context: OffscreenCanvasRenderingContext2D) => Promise<void>) => {
        const context = new OffscreenCanvas(300, 200).getContext('2d')!;
        await draw(context);
        return context.getImageData(0, 0, 300, 200).data;
      };
      const stack = new DOMParser().parseFromString(xml, 'application/xml');
      const together = await codes(async context => {
        for (const layer of [...stack.querySelectorAll('layer')].reverse()) {
          const operator = layer
            .getAttribute('composite-op')!
            .replace('svg:', '')
            .replace('src-over', 'source-over');
          context.globalCompositeOperation = operator as GlobalCompositeOperation;
          if (context.globalCompositeOperation !== operator) throw new Error(`no ${operator}`);
          context.globalAlpha = Number(layer.getAttribute('opacity'));
          context.drawImage(await picture(layer.getAttribute('src')!), 0, 0);
        }
      });
      const merged = await codes(async context => context.drawImage(await picture('mergedimage.png'), 0, 0));
      return together.reduce((sum, v, i) => sum + Math.abs(v - merged[i]), 0) / (300 * 200 * 3);
    },
    { xml: strFromU8(files['stack.xml']), all: images },
  );
  expect(apart).toBeLessThan(1);
});

test('layers laid down on a photograph are areas again', async ({ page, app }) => {
  const wash = { kind: 'wash', mask: 'm', settings: { pigment: { kind: 'flat', colour: '#a05a3c' } } };
  const first = await oneTreated(app, treatmentOf([...toned, wash]));
  await page.goto(`${app.url}/photographs/${first.photograph}`);
  await pictureOn(page);
  await otherFile(page, 'Layers');
  const queue = page.getByRole('complementary', { name: 'Going out' });
  const layers = await downloaded(page, () =>
    queue.getByRole('link', { name: /^Download/ }).click({ timeout: 60_000 }),
  );

  const second = await oneTreated(app, treatmentOf(toned));
  await page.goto(`${app.url}/photographs/${second.photograph}`);
  await pictureOn(page);
  await layDown(page, { name: 'quay.ora', bytes: layers.bytes });
  await expect(page.getByText('One area from quay.ora.')).toBeVisible();
  await saved(page);
  const { treatment } = await app.api<{
    treatment: { masks: { name: string; parts: { kind: string }[] }[] };
  }>('GET', `/api/takes/${second.take}`);
  const area = treatment.masks.at(-1)!;
  expect([area.name, area.parts[0].kind]).toEqual(['Wash on Hull', 'picture']);

  // An area as a picture is laid on as one, or is a photograph: that is asked.
  await page.goto(`${app.url}/photographs/${first.photograph}`);
  await pictureOn(page);
  const zip = await downloaded(page, () => otherFile(page, 'Areas as pictures'));
  const [[name, png]] = Object.entries(unzipSync(zip.bytes));
  await page.goto(`${app.url}/photographs/${second.photograph}`);
  await pictureOn(page);
  await layDown(page, { name, bytes: Buffer.from(png) });
  await page.getByRole('dialog').getByRole('button', { name: 'Lay it on as an area' }).click();
  await expect(page.getByText('quay-a-hull is an area now')).toBeVisible();
  await saved(page);

  // A broken one is said, and nothing changes.
  await layDown(page, { name: 'torn.ora', bytes: layers.bytes.subarray(0, 400) });
  await expect(page.getByText(/^torn\.ora was not taken in: it ends too early/)).toBeVisible();
});

test('a look written as a table gives another photograph the same, within what was stated', async ({
  page,
  app,
}) => {
  const { photograph, series } = await oneTreated(app, treatmentOf(toned));
  await page.goto(`${app.url}/photographs/${photograph}`);
  const wanted = await pictureOn(page);
  await otherFile(page, 'Colour table');
  const dialog = page.getByRole('dialog');
  const said = await dialog.getByText(/On this photograph it is ΔE/).innerText();
  const stated = Number(/ΔE ([\d.]+)/.exec(said)![1]);
  const table = await downloaded(page, () => dialog.getByRole('button', { name: 'Save the table' }).click());
  expect(table.bytes.toString('utf8', 0, 60)).toContain('TITLE "Quay, take A"');

  const other = await oneTreated(app, treatmentOf([]));
  await page.goto(`${app.url}/photographs/${other.photograph}`);
  const bare = await pictureOn(page);
  await layDown(page, { name: 'any.cube', bytes: table.bytes });
  await expect(panelOf(page, 'Colour table')).toBeVisible();
  await saved(page);
  const now = await pictureOn(page);
  // 1 ΔE is some 2 to 3 of 255.
  expect(differs(now, wanted)).toBeLessThan(3 * stated + 1);
  expect(differs(now, bare)).toBeGreaterThan(10);
  // It kept its title, and is there for every photograph.
  const tables = await app.api<{ name: string }[]>('GET', '/api/tables');
  expect(tables.map(t => t.name)).toContain('Quay, take A');

  // Laid down elsewhere it is kept alone.
  await page.goto(`${app.url}/series/${series}/send-out`);
  await expect(page.getByRole('region', { name: 'Settings' })).toBeVisible();
  await layDown(page, { name: 'broken.cube', bytes: Buffer.from('LUT_3D_SIZE 2\n0 0') });
  await expect(page.getByText(/^broken\.cube was not taken in:/)).toBeVisible();
});

test('a treatment laid down is laid on one photograph, or on all of a sheet', async ({ page, app }) => {
  const { photograph, series } = await oneTreated(app, treatmentOf(toned));
  await page.goto(`${app.url}/photographs/${photograph}`);
  await pictureOn(page);
  const file = await downloaded(page, () => otherFile(page, 'Treatment'));
  expect(file.name).toBe('quay-a.treatment.json');

  const shot = await openBench(page, app);
  await layDown(page, file);
  const asked = page.getByRole('dialog');
  await asked.getByRole('button', { name: 'Lay on' }).click();
  await saved(page);
  expect(differs(await pictureOn(page), shot)).toBeGreaterThan(5);

  const other = await app.bringIn(series, await sharp({ create: { width: 60, height: 40, channels: 3, background: '#a06040' } }).png().toBuffer(), 'reed.png'); // prettier-ignore
  await page.goto(`${app.url}/series/${series}`);
  await expect(page.getByRole('row', { name: 'Reed' })).toBeVisible();
  await layDown(page, file);
  const many = page.getByRole('dialog', { name: 'Lay on a treatment' });
  await expect(many.getByText('To two photographs.')).toBeVisible();
  await many.getByRole('button', { name: 'Lay on' }).click();
  await expect
    .poll(async () => {
      const { photographs } = await app.api<{
        photographs: { id: string; takes: { steps: string[] }[] }[];
      }>('GET', `/api/series/${series}`);
      return photographs.find(p => p.id === other.id)!.takes.at(-1)!.steps;
    })
    .toEqual(['mono', 'split-tone']);

  // Where none can be laid on it is said where it can.
  await page.goto(`${app.url}/series/${series}/send-out`);
  await expect(page.getByRole('region', { name: 'Settings' })).toBeVisible();
  await layDown(page, file);
  await expect(page.getByText(/is a treatment: lay it down on a photograph, or on a sheet/)).toBeVisible();
  expect(page.url()).toContain('/send-out');
});

test('a card, a contact sheet and a test strip are made as pictures that show what they should', async ({
  page,
  app,
}) => {
  const wash = {
    kind: 'wash',
    name: 'Rust',
    mask: 'm',
    settings: { pigment: { kind: 'flat', colour: '#d03020' } },
  };
  const { photograph, series } = await oneTreated(app, treatmentOf([...toned, wash]));
  await page.goto(`${app.url}/series/${series}/send-out`);
  const dialog = page.getByRole('dialog');
  const made = async (name: RegExp) => {
    await page.getByRole('button', { name }).click();
    await dialog.getByRole('radio', { name: 'PNG' }).click();
    const file = await downloaded(page, () =>
      dialog.getByRole('button', { name: 'Make the picture' }).click(),
    );
    const { data, info } = await sharp(file.bytes).raw().toBuffer({ resolveWithObject: true });
    const at = (x: number, y: number) => [
      ...data.subarray((y * info.width + x) * info.channels).subarray(0, 3),
    ];
    return { name: file.name, info, at };
  };
  const sheet = await made(/^Contact sheet/);
  expect([sheet.name, sheet.info.width, sheet.info.height]).toEqual([
    'low-water-contact-sheet.png',
    2480,
    3508,
  ]);
  expect(sheet.at(20, 1700)).toEqual([255, 255, 255]);
  expect(Math.max(...sheet.at(500, 600))).toBeLessThan(250);

  const card = await made(/^Treatment card/);
  expect(card.name).toBe('quay-treatment-card.png');
  // The pigment's own colour stands on it.
  let swatch = 0;
  for (let y = 0; y < card.info.height; y += 4)
    for (let x = 0; x < card.info.width; x += 4) {
      const [r, g, b] = card.at(x, y);
      if (r === 0xd0 && g === 0x30 && b === 0x20) swatch++;
    }
  expect(swatch).toBeGreaterThan(20);

  await page.goto(`${app.url}/photographs/${photograph}`);
  await pictureOn(page);
  await page.getByRole('button', { name: /^Rust/ }).first().click();
  await page.getByRole('button', { name: 'Test strip', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Strength', exact: true }).click();
  await page.getByRole('group', { name: 'Test strip' }).getByRole('button', { name: 'On paper' }).click();
  await expect(dialog).toContainText('Seven pictures');
  const strip = await downloaded(page, () =>
    dialog.getByRole('button', { name: 'Make the picture' }).click(),
  );
  expect(strip.name).toBe('quay-test-strip.png');
  expect(await sharp(strip.bytes).metadata()).toMatchObject({ width: 2480, height: 3508 });
});

test('a gradient goes out as CSS that the browser paints as it is here, and comes in again', async ({
  page,
  app,
}) => {
  const stops = [
    { at: 0.05, colour: '#14202c' },
    { at: 0.5, colour: '#a0603c' },
    { at: 0.9, colour: '#f4e8d0' },
  ];
  const ramp = { kind: 'gradient-map', settings: { stops, interpolation: 'oklab' } };
  const shot = await openBench(page, app, [{ kind: 'mono' }, ramp]);
  const tray = page.getByRole('region', { name: 'Treatment, in working order' });
  await tray.getByRole('button', { name: /^Gradient map/ }).click();
  const panel = panelOf(page, 'Gradient map');
  const menu = async (what: string) => {
    await panel.getByRole('button', { name: 'More for the gradient' }).click();
    await page.getByRole('menuitem', { name: what }).click();
  };
  const css = (await downloaded(page, () => menu('Save as CSS'))).bytes.toString();
  const [, gradient] = /--gradient-tones: (.*);/.exec(css)!;
  expect(gradient).toContain('in oklab');
  // Painted over a box of 1000 pixels: a tone of the scale above is where its luma says.
  await page.evaluate(background => {
    const box = document.createElement('div');
    box.style.cssText = 'position:fixed;left:0;top:0;width:1000px;height:20px;z-index:9999';
    box.style.background = background;
    document.body.append(box);
    box.id = 'painted';
  }, gradient);
  const painted = await page.locator('#painted').screenshot();
  const { data, info } = await sharp(painted).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  for (const at of [0.2, 0.35, 0.5, 0.65, 0.8]) {
    const here = colourAt(shot, at, 0.25);
    const i = (10 * info.width + Math.round(at * 1000)) * 3;
    for (let k = 0; k < 3; k++) expect(Math.abs(here[k] - data[i + k])).toBeLessThan(5);
  }
  await page.evaluate(() => document.getElementById('painted')!.remove());

  const json = await downloaded(page, () => menu('Save as JSON'));
  const other = JSON.parse(json.bytes.toString()) as { stops: typeof stops };
  expect(other.stops).toEqual(stops);
  other.stops[1].colour = '#2040ff';
  await panel.getByLabel('Bring in a gradient').setInputFiles({
    name: 'blue.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(other)),
  });
  await saved(page);
  const [, , blue] = colourAt(await pictureOn(page), 0.5, 0.25);
  expect(blue).toBeGreaterThan(220);
});
