import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { asking } from '../testing/asking';
import { png8 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());
const { http, newSeries, photographIn } = asking(() => server);

const left = { kind: 'linear', from: [0.25, 0.5], to: [0.75, 0.5] };
const masks = [
  { id: 'a', name: 'Hull', parts: [left] },
  { id: 'b', name: 'hull!', invert: true, parts: [left] },
  { id: 'c', name: 'Sky', parts: [{ kind: 'tones', range: [0.5, 0.5, 1, 1] }] },
];

async function take(seriesId: string, of: object[], frame = {}) {
  const file = await png8(120, 80, x => (x < 60 ? [20, 20, 20] : [230, 230, 230]));
  const { currentTakeId } = await photographIn(seriesId, file);
  const treatment = { format: 'lampwash-treatment', version: 1, frame, steps: [{ kind: 'mono' }], masks: of };
  const { status } = await http()
    .put(`/api/takes/${currentTakeId}/treatment`)
    .send({ revision: 1, treatment });
  expect(status).toBe(200);
  return currentTakeId;
}

/** The greys of a row. */
async function row(png: Uint8Array, y = 40): Promise<number[]> {
  const { data, info } = await sharp(Buffer.from(png)).raw().toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([120, 80]);
  return [...data].filter((_, i) => i % info.channels === 0).slice(y * 120, (y + 1) * 120);
}

describe('areas as pictures', () => {
  it('come as a zip under names of their own, white where they cover, over the whole photograph', async () => {
    const series = await newSeries('Low water');
    // Cropped: an area is of the photograph, not of what is shown of it.
    const id = await take(series.id, masks, { crop: { x: 0, y: 0, width: 0.5, height: 0.5 } });
    const { body, headers } = await http()
      .post(`/api/series/${series.id}/area-files`)
      .send({ takes: [id] })
      .responseType('blob');
    expect(headers['content-disposition']).toContain('low-water-areas.zip');
    const files = unzipSync(new Uint8Array(body as Buffer));
    expect(Object.keys(files)).toEqual(['picture-a-hull.png', 'picture-a-hull-2.png', 'picture-a-sky.png']);
    const [hull, other, sky] = await Promise.all(Object.values(files).map(file => row(file)));
    // From the left to the right, as the line says; the other is what it leaves.
    expect(hull[10]).not.toBe(hull[110]);
    expect(Math.max(hull[10], hull[110])).toBe(255);
    expect(Math.min(hull[10], hull[110])).toBe(0);
    hull.forEach((v, i) => expect(Math.abs(v + other[i] - 255)).toBeLessThanOrEqual(1));
    expect([sky[30], sky[90]]).toEqual([0, 255]);
  });

  it('are a picture where there is one, and taken in again they cover the same', async () => {
    const series = await newSeries('Low water');
    const id = await take(series.id, [masks[0]]);
    const ask = (takes: string[]) =>
      http().post(`/api/series/${series.id}/area-files`).send({ takes }).responseType('blob');
    const first = await ask([id]);
    expect(first.headers['content-type']).toBe('image/png');
    expect(first.headers['content-disposition']).toContain('picture-a-hull.png');
    const png = (first.body as Buffer).toString('base64');
    const again = await take(series.id, [{ id: 'p', name: 'Again', parts: [{ kind: 'picture', png }] }]);
    const second = await ask([again]);
    const [before, after] = await Promise.all([row(first.body as Buffer), row(second.body as Buffer)]);
    before.forEach((v, i) => expect(Math.abs(v - after[i])).toBeLessThanOrEqual(2));
  });

  it('are of takes of this series that have any', async () => {
    const series = await newSeries();
    const id = await take(series.id, []);
    const ask = (takes: string[]) => http().post(`/api/series/${series.id}/area-files`).send({ takes });
    expect((await ask([id])).status).toBe(409);
    const elsewhere = await take((await newSeries()).id, [masks[0]]);
    expect((await ask([elsewhere])).status).toBe(404);
  });
});
