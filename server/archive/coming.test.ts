import { randomBytes } from 'node:crypto';
import { createServer, request, type ClientRequest, type IncomingMessage, type Server } from 'node:http';
import { existsSync, readdirSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { buffer, json } from 'node:stream/consumers';
import { QueryTypes } from 'sequelize';
import sharp from 'sharp';
import { pack } from 'tar-stream';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { Photograph, Series } from '../data/models';
import { asking } from '../testing/asking';
import { png8 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';
import { HEAD } from './format';
import { archiveOf } from './write';

/** An archive while it comes: from somebody slow, somebody who goes, somebody who sends for ever. */

let server: TestServer;
let listening: Server;
const { newSeries, photographIn, bringIn } = asking(() => server);

beforeAll(async () => {
  server = await testServer();
  listening = createServer(server.app).listen(0, '127.0.0.1');
  await new Promise(done => listening.once('listening', done));
});
afterAll(async () => {
  listening.closeAllConnections();
  await new Promise(done => listening.close(done));
  await server.close();
});

/** A picture that cannot be packed. */
const noisePng = (width: number, height: number) =>
  sharp(randomBytes(width * height * 3), { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();

interface Sending {
  request: ClientRequest;
  answer: Promise<{ status: number; title?: string }>;
}

/** Begins to send an archive; what is written to the request comes, and nothing ends by itself. */
function send(): Sending {
  const { port } = listening.address() as AddressInfo;
  const sending = request({
    ...{ host: '127.0.0.1', port, path: '/api/archives', method: 'POST', agent: false },
    headers: { 'Content-Type': 'application/x-tar', 'Sec-Fetch-Site': 'same-origin' },
  });
  const answer = new Promise<IncomingMessage>((done, fail) => {
    sending.once('response', done);
    sending.once('error', fail);
  }).then(async response => ({
    status: response.statusCode!,
    title: ((await json(response)) as { title?: string }).title,
  }));
  answer.catch(() => undefined);
  // Whoever is not listened to any more may be cut off.
  sending.on('error', () => undefined);
  return { request: sending, answer };
}

const staged = () => {
  const uploads = join(server.services.config.cacheFolder, 'uploads');
  return existsSync(uploads) ? readdirSync(uploads).filter(name => name.startsWith('archive-')) : [];
};

/** A package of a series with one photograph, and the photograph's file. */
async function gift() {
  const series = await newSeries('Given away');
  const file = await png8(300, 200, (x, y) => [x % 256, y, 77]);
  await photographIn(series.id, file);
  return { file, archive: await buffer(archiveOf(server.services.sequelize, series.id)) };
}

function archiveWith(...entries: { name: string; type?: 'file' | 'symlink' | 'fifo'; bytes?: string }[]) {
  const tar = pack();
  for (const { name, type = 'file', bytes = '' } of entries) {
    tar.entry({ name, type, linkname: type === 'symlink' ? '/etc/passwd' : undefined }, bytes);
  }
  tar.finalize();
  return buffer(tar);
}

describe('an archive that comes', () => {
  it.each(['symlink', 'fifo'] as const)('with a %s in it is refused by its name', async type => {
    const { request: sending, answer } = send();
    sending.end(await archiveWith({ name: HEAD, type }));
    expect(await answer).toEqual({
      status: 422,
      title: expect.stringContaining(`“${HEAD}” in the archive is no file`),
    });
    expect(staged()).toEqual([]);
  });

  it('and is not one is refused while it is still being sent', async () => {
    const { request: sending, answer } = send();
    sending.write(await archiveWith({ name: 'a.txt', bytes: 'a' }));
    const more = setInterval(() => sending.write(Buffer.alloc(512 * 1024)), 5);
    try {
      expect(await answer).toEqual({ status: 422, title: expect.stringContaining('does not begin as one') });
    } finally {
      clearInterval(more);
      sending.destroy();
    }
    await vi.waitFor(() => expect(staged()).toEqual([]));
  });

  it('slowly holds up nobody who brings in the very pictures that it holds', async () => {
    const { file, archive } = await gift();
    const count = await Photograph.count();
    const { request: sending, answer } = send();
    // All but its end.
    sending.write(archive.subarray(0, archive.length - 2048));
    await vi.waitFor(() => expect(staged()).toHaveLength(1));
    const own = await newSeries('My own');
    expect((await bringIn(own.id, file)).status).toBe(201);
    sending.end(archive.subarray(archive.length - 2048));
    expect((await answer).status).toBe(201);
    expect(await Photograph.count()).toBe(count + 2);
    expect(staged()).toEqual([]);
  });

  it('of which the sender goes leaves nothing', async () => {
    const { archive } = await gift();
    const there = await Series.count();
    const { request: sending } = send();
    sending.write(archive.subarray(0, archive.length - 2048));
    await vi.waitFor(() => expect(staged()).toHaveLength(1));
    sending.destroy();
    await vi.waitFor(() => expect(staged()).toEqual([]));
    expect(await Series.count()).toBe(there);
  });
});

describe('an archive that goes out', () => {
  const open = async () => {
    const rows = await server.services.sequelize.query<{ n: number }>(
      `SELECT count(*)::int AS n FROM pg_stat_activity
        WHERE datname = current_database() AND state LIKE 'idle in transaction%'`,
      { type: QueryTypes.SELECT },
    );
    return rows[0].n;
  };

  it.each([0, 1, 3])('to a reader that goes after %i pieces leaves nothing open', async pieces => {
    const series = await newSeries('Large');
    // More than the streams between hold.
    await photographIn(series.id, await noisePng(1500, 1000));
    const archive = archiveOf(server.services.sequelize, series.id);
    archive.on('error', () => undefined);
    const taking = archive[Symbol.asyncIterator]();
    for (let n = 0; n < pieces; n++) await taking.next();
    await vi.waitFor(async () => expect(await open()).toBe(1));
    archive.destroy();
    await vi.waitFor(async () => expect(await open()).toBe(0));
  });
});
