import { gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { soughtBy } from '../../core/masks/finding/find';
import { nameOfFound } from '../../core/masks/finding/found-bytes';
import type { Stroke } from '../../core/settings/fields';
import { parseTreatment } from '../../core/treatment/schema';
import { Photograph } from '../data/models';
import { renderJobOf } from '../jobs/output';
import { asking } from '../testing/asking';
import { png8 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';
import { sourceOf } from '../data/source';

/** What areas have found in a photograph is kept with it: it is read, and found anew only where it cannot be. */

let server: TestServer;
let photograph: Photograph;
beforeAll(async () => {
  server = await testServer();
});
// What is kept is of a file: each test has one of its own.
let count = 0;
beforeEach(async () => {
  const own = ++count;
  const disc = await png8(240, 160, (x, y) =>
    Math.hypot(x - 120, y - 80) < 45 ? [210, 160, 80] : [50, 60, 70 + own],
  );
  const { id } = await photographIn((await newSeries('Found')).id, disc);
  photograph = (await Photograph.findByPk(id))!;
});
afterAll(() => server.close());
const { http, newSeries, photographIn } = asking(() => server);

const stroke: Stroke = {
  points: [
    [0.45, 0.5, 1],
    [0.55, 0.5, 1],
  ],
  radius: 0.03,
  hardness: 1,
  flow: 1,
  erase: false,
  keepEdges: 0,
};
const treatment = parseTreatment({
  format: 'lampwash-treatment',
  version: 1,
  masks: [{ id: 'disc', parts: [{ kind: 'found', strokesIn: [stroke], strokesOut: [] }] }],
  steps: [{ kind: 'light', mask: 'disc', settings: { exposure: -2 } }],
});
const name = nameOfFound(soughtBy({ strokesIn: [stroke], strokesOut: [] }));

/** Renders the treatment; what was kept on the way. */
async function render(recalled: (known: Uint8Array | null) => Uint8Array | null = known => known) {
  const { pictures, renderer } = server.services;
  const source = sourceOf(photograph);
  const store = pictures.foundIn(source);
  const kept: string[] = [];
  let keeping: Promise<void> = Promise.resolve();
  const found = {
    recall: async (asked: string) => recalled(await store.recall(asked)),
    keep: (what: string, packed: Uint8Array) => {
      kept.push(what);
      return (keeping = store.keep(what, packed));
    },
  };
  const job = await renderJobOf({ pictures }, source, { edge: 240, treatment });
  const { codes } = await renderer.render({ ...job, found, bits: 8 });
  await keeping;
  return { codes: Buffer.from(codes), kept };
}

const asked = (names: readonly string[]) =>
  http()
    .post(`/api/photographs/${photograph.id}/found`)
    .send({ names })
    .buffer(true)
    .parse((res, done) => {
      const parts: Buffer[] = [];
      res.on('data', (part: Buffer) => parts.push(part));
      res.on('end', () => done(null, Buffer.concat(parts)));
    });

describe('what areas have found', () => {
  it('is kept at the first rendering and read at the next, to the same pixels; what is spoilt is found again', async () => {
    expect((await asked([name])).body).toEqual(Buffer.alloc(4));
    const first = await render();
    expect(first.kept).toEqual([name]);
    // The disc is darkened, and what is around it is not.
    const at = (x: number, y: number) => first.codes[(y * 240 + x) * 3];
    expect(at(120, 80)).toBeLessThan(130);
    expect(at(10, 10)).toBe(50);
    const again = await render();
    expect(again.kept).toEqual([]);
    expect(again.codes.equals(first.codes)).toBe(true);
    for (const spoilt of [Buffer.from('no gzip'), new Uint8Array(0)]) {
      const mended = await render(() => spoilt);
      expect(mended.kept).toEqual([name]);
      expect(mended.codes.equals(first.codes)).toBe(true);
    }
  });

  it('is given by name, each with its length', async () => {
    await render();
    const unknown = 'a'.repeat(64);
    const { body, status } = await asked([unknown, name]);
    expect(status).toBe(200);
    const bytes = body as Buffer;
    expect(bytes.readUInt32LE(0)).toBe(0);
    const length = bytes.readUInt32LE(4);
    expect(bytes).toHaveLength(8 + length);
    // Of this photograph's sight, 240 × 160 cells: two bytes for each.
    expect(gunzipSync(bytes.subarray(8))).toHaveLength(240 * 160 * 2);
    expect(
      (
        await http()
          .post(`/api/photographs/${photograph.id}/found`)
          .send({ names: ['../x'] })
      ).status,
    ).toBe(400);
  });
});
