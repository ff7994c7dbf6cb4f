import sharp from 'sharp';
import { expect, test } from './app';
import { pictureOn } from './picture';
import { pointAt, saved } from './work';

/** What is painted on a large photograph lies in the file where it lies on the screen. */

const WIDTH = 3000;
const HEIGHT = 2000;

/** A photograph of 6 megapixels whose pixels tell where they are: no red, and the low bits of column and row. */
function whereabouts(): Promise<Buffer> {
  const codes = new Uint8Array(WIDTH * HEIGHT * 3);
  for (let y = 0, p = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++, p += 3) {
      codes[p + 1] = x & 255;
      codes[p + 2] = y & 255;
    }
  }
  return sharp(codes, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
    .png({ compressionLevel: 1 })
    .toBuffer();
}

test('the edge of a stroke lies in the file within a pixel of the view at 1:1', async ({ page, app }) => {
  test.setTimeout(120_000);
  const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'Edges' });
  const photograph = await app.bringIn(series.id, await whereabouts(), 'whereabouts.png');
  const wash = {
    kind: 'wash',
    mask: 'a',
    mix: 'normal',
    settings: { pigment: { kind: 'flat', colour: '#ff3020' } },
  };
  const masks = [{ id: 'a', name: 'Area', parts: [{ kind: 'brush', strokes: [] }] }];
  const treatment = { format: 'lampwash-treatment', version: 1, masks, steps: [wash] };
  await app.api('PUT', `/api/takes/${photograph.currentTakeId}/treatment`, { revision: 1, treatment });
  await page.goto(`${app.url}/photographs/${photograph.id}`);
  await pictureOn(page);

  // A hard brush, by mouse, about the middle of the fitted picture: a zigzag that leaves gaps.
  await page.getByRole('slider', { name: 'Brush hardness' }).focus();
  await page.keyboard.press('End');
  const places: [number, number][] = [
    [0.44, 0.46],
    [0.47, 0.52],
    [0.5, 0.45],
    [0.53, 0.54],
    [0.56, 0.47],
  ];
  const first = await pointAt(page, ...places[0]);
  await page.mouse.move(first.x, first.y);
  for (let i = 0; i < 8; i++) await page.keyboard.press('[');
  await page.mouse.down();
  for (const place of places.slice(1)) {
    const { x, y } = await pointAt(page, ...place);
    await page.mouse.move(x, y, { steps: 8 });
  }
  await page.mouse.up();
  await saved(page);

  await page.getByRole('group', { name: /^The picture/ }).focus();
  await page.keyboard.press('n');
  const shot = await pictureOn(page);
  const [sent] = await app.api<{ id: string }[]>('POST', '/api/send-outs', {
    series: series.id,
    takes: [photograph.currentTakeId],
    settings: { format: 'png', bits: 8 },
  });
  const state = async () => {
    const rows = await app.api<{ id: string; state: string }[]>('GET', `/api/send-outs?series=${series.id}`);
    return rows.find(r => r.id === sent.id)?.state;
  };
  await expect.poll(state, { timeout: 60_000 }).toBe('done');
  const file = Buffer.from(await (await fetch(`${app.url}/api/send-outs/${sent.id}/file`)).arrayBuffer());
  const { data, info } = await sharp(file).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([WIDTH, HEIGHT]);

  // The corner of the view is bare and says where it lies, but for the high bits; it is about the middle.
  const near = (low: number, middle: number) => Math.round((middle - low) / 256) * 256 + low;
  const left = near(shot.data[1], (WIDTH - shot.width) / 2);
  const top = near(shot.data[2], (HEIGHT - shot.height) / 2);
  const isBare = (red: number) => red < 60;
  const inFile = (x: number, y: number) => isBare(data[((top + y) * WIDTH + left + x) * 3]);
  let painted = 0;
  let edges = 0;
  let wrong = 0;
  for (let y = 1; y < shot.height - 1; y++) {
    for (let x = 1; x < shot.width - 1; x++) {
      const here = isBare(shot.data[(y * shot.width + x) * 4]);
      if (!here) painted++;
      let alike = 0;
      for (let j = -1; j <= 1; j++) for (let i = -1; i <= 1; i++) if (inFile(x + i, y + j) === here) alike++;
      if (alike < 9) edges++;
      if (alike === 0) wrong++;
    }
  }
  expect(painted).toBeGreaterThan(10_000);
  expect(edges).toBeGreaterThan(1000);
  expect(wrong).toBe(0);
});
