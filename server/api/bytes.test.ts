import { randomBytes } from 'node:crypto';
import fc from 'fast-check';
import sharp from 'sharp';
import request from 'supertest';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { testServer, type TestServer } from '../testing/server';

let server: TestServer;
let file: Buffer;
let address: string;
let series: string;
const http = () => request(server.app);
const bringIn = (bytes: Buffer, name: string, query = {}) =>
  http().post(`/api/series/${series}/photographs`).query(query).attach('file', bytes, name);

beforeAll(async () => {
  server = await testServer();
  series = ((await http().post('/api/series').send({ title: 'Ebb' })).body as { id: string }).id;
  // Some chunks long.
  const raw = { width: 1000, height: 900, channels: 3 } as const;
  file = await sharp(randomBytes(raw.width * raw.height * 3), { raw })
    .png()
    .toBuffer();
  const { id } = (await bringIn(file, 'ebb.png')).body as { id: string };
  address = `/api/photographs/${id}/original`;
});
afterAll(() => server.close());

const get = (headers: Record<string, string> = {}) => http().get(address).set(headers).responseType('blob');

it('an original comes with its length, its hash as its tag, and can be asked about alone', async () => {
  const { headers, body, status } = await get();
  expect(status).toBe(200);
  expect(file.equals(body as Buffer)).toBe(true);
  expect(headers).toMatchObject({ 'content-length': String(file.length), 'accept-ranges': 'bytes' });
  const head = await http().head(address);
  expect(head.headers['content-length']).toBe(String(file.length));
  expect((await get({ 'If-None-Match': headers.etag })).status).toBe(304);
});

it('any range of it is that range', async () => {
  expect(file.length).toBeGreaterThan(2 * 1024 * 1024);
  await fc.assert(
    fc.asyncProperty(fc.nat(file.length - 1), fc.nat(file.length - 1), async (a, b) => {
      const [from, to] = [Math.min(a, b), Math.max(a, b)];
      const { status, headers, body } = await get({ Range: `bytes=${from}-${to}` });
      expect(status).toBe(206);
      expect(headers['content-range']).toBe(`bytes ${from}-${to}/${file.length}`);
      expect(file.subarray(from, to + 1).equals(body as Buffer)).toBe(true);
    }),
    { numRuns: 20 },
  );
  const rest = await get({ Range: 'bytes=-5' });
  expect(file.subarray(-5).equals(rest.body as Buffer)).toBe(true);
});

it('a download that broke off goes on only where it is still the same file', async () => {
  const { headers } = await http().head(address);
  const Range = 'bytes=1000000-';
  expect((await get({ Range, 'If-Range': headers.etag as string })).status).toBe(206);
  expect((await get({ Range, 'If-Range': '"another"' })).status).toBe(200);
});

it('what is no range of it is refused, or answered by all of it', async () => {
  const beyond = await get({ Range: `bytes=${file.length}-` });
  expect(beyond.status).toBe(416);
  expect(beyond.headers['content-range']).toBe(`bytes */${file.length}`);
  for (const Range of ['lines=1-2', 'bytes=a-b', 'bytes=0-1,4-5']) {
    expect([200, 416]).toContain((await get({ Range })).status);
  }
});

it('the same bytes once more are noticed; they come in where they are wanted, or back where they were put aside', async () => {
  const refused = await bringIn(file, 'copy of ebb.png');
  expect(refused.status).toBe(409);
  expect(refused.body).toMatchObject({ title: 'copy of ebb.png is in this series already, as “Ebb”.' });
  const again = await bringIn(file, 'copy of ebb.png', { again: '1' });
  expect(again.status).toBe(201);
  const { existing } = refused.body as { existing: { id: string; isAside: boolean } };
  expect(existing.isAside).toBe(false);
  await http().delete(`/api/photographs/${existing.id}`);
  await http().delete(`/api/photographs/${(again.body as { id: string }).id}`);
  const aside = (await bringIn(file, 'ebb.png')).body as { existing: { id: string; isAside: boolean } };
  expect(aside.existing.isAside).toBe(true);
  expect((await http().post(`/api/photographs/${aside.existing.id}/restore`)).status).toBe(201);
});

it('a damaged file is taken in with what is wrong with it, and says so whenever it is brought in', async () => {
  const raw = { width: 300, height: 200, channels: 3 } as const;
  const whole = await sharp(randomBytes(raw.width * raw.height * 3), { raw })
    .jpeg()
    .toBuffer();
  const short = whole.subarray(0, whole.length / 2);
  const first = await bringIn(short, 'short.jpg');
  expect(first.body).toMatchObject({ damage: 'the file ends too early', part: null });
  const again = await bringIn(short, 'short.jpg', { again: '1' });
  expect(again.body).toMatchObject({ damage: 'the file ends too early' });
});
