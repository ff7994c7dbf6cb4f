import { differenceCiede2000, type Color } from 'culori';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeSendOut } from '../jobs/send-out';
import { asking, treatmentOf } from '../testing/asking';
import { png8 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';

/** A take as a colour table: applied here by plain trilinear reading, and compared by an independent library. */

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());
const { http, newSeries, photographIn } = asking(() => server);

const many = () => png8(96, 64, (x, y) => [(x * 255) / 95, (y * 255) / 63, ((x * 7 + y * 13) % 64) * 4]);

async function takeWith(...steps: object[]) {
  const series = await newSeries();
  const { currentTakeId: take } = await photographIn(series.id, await many());
  await http()
    .put(`/api/takes/${take}/treatment`)
    .send({ revision: 1, treatment: treatmentOf(...steps) });
  return { series, take };
}

/** A .cube read by a few lines, and looked up trilinearly. */
function lookup(text: string) {
  const size = Number(/LUT_3D_SIZE (\d+)/.exec(text)![1]);
  const rows = text
    .split('\n')
    .filter(line => /^[\d.-]/.test(line))
    .map(line => line.split(' ').map(Number));
  expect(rows).toHaveLength(size ** 3);
  return (rgb: readonly number[]) => {
    const at = rgb.map(v => v * (size - 1));
    const low = at.map(v => Math.min(size - 2, Math.floor(v)));
    const out = [0, 0, 0];
    for (let corner = 0; corner < 8; corner++) {
      const up = [corner & 1, (corner >> 1) & 1, corner >> 2];
      const weight = up.reduce((w, u, k) => w * (u ? at[k] - low[k] : 1 - at[k] + low[k]), 1);
      const [r, g, b] = low.map((v, k) => v + up[k]);
      rows[r + size * (g + size * b)].forEach((v, k) => (out[k] += weight * v));
    }
    return out;
  };
}

describe('a take as a colour table', () => {
  it.each([17, 33, 65])('of %i entries a side gives the take within what it says', async size => {
    const { take, series } = await takeWith(
      { kind: 'light', settings: { contrast: 0.3 } },
      { kind: 'mono' },
      { kind: 'split-tone', settings: { shadows: { hue: 230, saturation: 0.5 } } },
    );
    const { body: said } = await http().get(`/api/takes/${take}/cube/exactness?size=${size}`);
    expect(said.left).toEqual([]);
    const { text, headers } = await http().get(`/api/takes/${take}/cube?size=${size}`);
    expect(headers['content-disposition']).toContain(`picture-a-${size}.cube`);
    expect(text).toContain('TITLE "Picture, take A"');
    const read = lookup(text);
    const settings = { format: 'png', bits: 16 };
    const { body: rows } = await http()
      .post('/api/send-outs')
      .send({ series: series.id, takes: [take], settings });
    const [{ id }] = rows as { id: string }[];
    await makeSendOut(server.services, id);
    const { body: file } = await http().get(`/api/send-outs/${id}/file`).responseType('blob');
    const treated = await sharp(file as Buffer, { ignoreIcc: true })
      .toColourspace('rgb16')
      .raw({ depth: 'ushort' })
      .toBuffer();
    const bare = await sharp(await many())
      .raw()
      .toBuffer();
    const apart = differenceCiede2000();
    let sum = 0;
    for (let i = 0; i < bare.length; i += 3) {
      const [r, g, b] = read([...bare.subarray(i, i + 3)].map(v => v / 255));
      const [tr, tg, tb] = [0, 1, 2].map(k => treated.readUInt16LE(2 * (i + k)) / 65535);
      sum += apart({ mode: 'rgb', r, g, b } as Color, { mode: 'rgb', r: tr, g: tg, b: tb } as Color);
    }
    // Read trilinearly here, and as tetrahedra there.
    expect(Math.abs(sum / (bare.length / 3) - said.mean)).toBeLessThan(0.2);
    expect(said.mean).toBeLessThan(size === 17 ? 1 : 0.4);
    expect(said.worst).toBeGreaterThanOrEqual(said.mean);
  });

  it('names what it leaves out, and says how far off it is then', async () => {
    const { take } = await takeWith(
      { kind: 'mono', name: 'Grey' },
      { kind: 'vignette', settings: { amount: -0.8 } },
      { kind: 'sharpen', enabled: false, settings: { amount: 1 } },
    );
    const { body } = await http().get(`/api/takes/${take}/cube/exactness`);
    expect(body.left).toEqual([{ kind: 'vignette', name: '', why: 'beyond' }]);
    expect(body.worst).toBeGreaterThan(5);
    const grey = lookup((await http().get(`/api/takes/${take}/cube?size=17`)).text)([0.8, 0.2, 0.4]);
    expect(Math.max(...grey) - Math.min(...grey)).toBeLessThan(1e-4);
  });

  it('comes in again as a table, and gives another photograph the same', async () => {
    const { take, series } = await takeWith(
      { kind: 'light', settings: { exposure: 0.5 } },
      { kind: 'mono' },
      { kind: 'tint' },
    );
    const { text } = await http().get(`/api/takes/${take}/cube?size=33`);
    const { currentTakeId: other } = await photographIn(series.id, await many());
    const treatment = {
      format: 'lampwash-treatment',
      version: 1,
      steps: [{ kind: 'colour-table', settings: { table: 't' } }],
      tables: { t: text },
    };
    const put = await http().put(`/api/takes/${other}/treatment`).send({ revision: 1, treatment });
    expect(put.status, JSON.stringify(put.body)).toBe(200);
    const pixels = async (id: string) => {
      const { body } = await http().get(`/api/takes/${id}/picture?edge=480`).responseType('blob');
      return sharp(body as Buffer)
        .raw()
        .toBuffer();
    };
    const [a, b] = [await pixels(take), await pixels(other)];
    expect(a.length).toBe(b.length);
    const apart = a.reduce((sum, v, i) => sum + Math.abs(v - b[i]), 0) / a.length;
    expect(apart).toBeLessThan(1.5);
  });

  it('is of 17, 33 or 65 entries, and of a take that there is', async () => {
    const { take } = await takeWith({ kind: 'mono' });
    expect((await http().get(`/api/takes/${take}/cube?size=9`)).status).toBe(400);
    const nobody = '00000000-0000-4000-8000-000000000000';
    expect((await http().get(`/api/takes/${nobody}/cube`)).status).toBe(404);
  });
});
