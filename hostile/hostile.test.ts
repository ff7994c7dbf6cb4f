import { spawnSync } from 'node:child_process';
import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, expect, it } from 'vitest';
import { startApp } from '../server/testing/running';
import { madeFiles, names } from './files';
import { hostilePackages } from './packages';
import { maker, type Description } from './requests';
import { tried, watchHealth } from './tally';
import { heavyTreatments } from './treatments';
import {
  allIsWell,
  app,
  each,
  faults,
  light,
  lose,
  newSeries,
  noise,
  notes,
  originalOf,
  put,
  SEED,
  sha256,
  startServer,
  tally,
  type Photograph,
} from './server-under-test';

/**
 * A server that cannot be stalled, filled or fooled: made files, heavy treatments, requests made from its own description,
 * bytes that are no requests, a full disk, and kills.
 */

/** How often each file is broken in each way; more for a longer look. */
const EACH = Number(process.env.LAMPWASH_HOSTILE_EACH ?? 1);

let series: string;
/** What the made requests may do anything to. */
const known: string[] = [];

startServer();
beforeAll(async () => {
  series = await newSeries('Hostile files');
});

it(
  'files that are broken, vast or something else are refused or taken, and nothing waits for them',
  async () => {
    const stop = watchHealth(tally, faults, app.url);
    const files = await madeFiles(SEED, EACH);
    let pictures = 0;
    await each(files, 4, async ([what, file], i) => {
      const form = new FormData();
      form.append('file', new Blob([new Uint8Array(file)]), names[i % names.length]);
      const url = `${app.url}/api/series/${series}/photographs`;
      const answer = await tried(tally, faults, url, { method: 'POST', body: form });
      if (answer?.status !== 201) return;
      const photograph = JSON.parse(answer.text) as Photograph & {
        fileName: string;
        title: string;
        damage: string | null;
      };
      known.push(photograph.id, photograph.currentTakeId);
      if (/[\\/\0]/.test(photograph.fileName)) faults.push(`${what}: is called ${photograph.fileName}`);
      // What was taken in is shown.
      const picture = await tried(
        tally,
        faults,
        `${app.url}/api/takes/${photograph.currentTakeId}/picture?edge=160`,
      );
      if (picture?.status === 200) pictures++;
      else faults.push(`${what}: taken in and not shown: ${picture?.text}`);
    });
    notes.push(
      `${files.length} files, ${pictures} taken in and shown; health within ${Math.round(await stop())} ms`,
    );
    expect(pictures).toBeGreaterThan(10);
    expect(await readdir(join(app.home, 'cache', 'uploads'))).toEqual([]);
    await allIsWell();
  },
  240_000 * EACH,
);

it('treatments made to be heavy are refused by name, or take their time beside all others', async () => {
  const photograph = await app.bringIn(series, await noise(), 'heavy.png');
  let revision = 1;
  let longest = { ms: 0, what: '' };
  for (const [what, treatment] of heavyTreatments()) {
    const stop = watchHealth(tally, faults, app.url);
    const url = `${app.url}/api/takes/${photograph.currentTakeId}/treatment`;
    const body = JSON.stringify({ revision, treatment, label: 'Heavy' });
    const headers = { 'Content-Type': 'application/json' };
    const answer = await tried(tally, faults, url, { method: 'PUT', headers, body });
    if (answer?.status === 200) {
      ({ revision } = JSON.parse(answer.text) as { revision: number });
      const picture = await tried(
        tally,
        faults,
        `${app.url}/api/takes/${photograph.currentTakeId}/picture?edge=160`,
      );
      // One that is too much is named in its place; others are not kept from being shown.
      if (picture && picture.status !== 200 && picture.status !== 422)
        faults.push(`${what}: ${picture.status}`);
    } else if (answer && ![400, 413].includes(answer.status))
      faults.push(`${what}: ${answer.status} ${answer.text}`);
    const ms = Math.round(await stop());
    if (ms > longest.ms) longest = { ms, what };
  }
  notes.push(`heavy treatments: health within ${longest.ms} ms, the longest beside ${longest.what}`);
  await allIsWell();
}, 240_000);

it('requests made from the description never make the server stumble, and none reaches what it does not name', async () => {
  const stop = watchHealth(tally, faults, app.url);
  const victim = await newSeries('Victims');
  for (let i = 0; i < 3; i++) {
    const photograph = await app.bringIn(victim, await noise(), `${i}.png`);
    known.push(photograph.id, photograph.currentTakeId);
  }
  known.push(victim, '7f0c9a52-1a65-4c4e-9f5c-0d2b6a3c1e01');
  const response = await fetch(`${app.url}/api/openapi.json`);
  const made = maker((await response.json()) as Description, known, SEED)(1200);
  await each(made, 6, async ({ method, path, headers, body }) => {
    await tried(tally, faults, app.url + path, { method, headers, body });
  });
  notes.push(`${made.length} requests; health within ${Math.round(await stop())} ms`);
  await allIsWell();
}, 240_000);

it('bytes that are no request, or never end, are let go', async () => {
  const { port } = new URL(app.url);
  const talks = [
    'GET / HTTP/1.1\r\n\r\n',
    'GET / HTTP/9.9\r\nHost: a\r\n\r\n',
    `GET /${'a'.repeat(100_000)} HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n`,
    `GET / HTTP/1.1\r\nHost: 127.0.0.1\r\nX: ${'a'.repeat(100_000)}\r\n\r\n`,
    'POST /api/series HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 5\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n',
    'POST /api/series HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: -1\r\n\r\n',
    'GET /api/../../../etc/passwd HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n',
    'GET /api/series HTTP/1.1\r\nHost: rebound.example\r\nConnection: close\r\n\r\n',
    '\x16\x03\x01\x02\x00\x01\x00\x01\xfc\x03\x03',
    '\0'.repeat(5000),
  ];
  const heard = (text: string) =>
    new Promise<string>(done => {
      let all = '';
      const socket = connect(Number(port), '127.0.0.1', () => socket.write(text));
      socket.setTimeout(3000, () => socket.destroy());
      socket.on('data', data => (all += String(data)));
      socket.on('error', () => undefined);
      socket.on('close', () => done(all));
    });
  await each(talks, 5, async text => {
    tally.tried++;
    const answer = await heard(text);
    if (/^HTTP\/1.1 [45]/.test(answer) || answer === '') tally.refused++;
    // A path that leads out of the server’s folders is a page like any that there is not.
    else if (/^HTTP\/1.1 200/.test(answer) && text.includes('passwd')) tally.taken++;
    else faults.push(`${JSON.stringify(text.slice(0, 60))}: ${answer.slice(0, 80)}`);
    if (/^HTTP\/1.1 5/.test(answer)) tally['5xx']++;
    if (/root:/.test(answer)) faults.push('a file of the machine was given out');
  });
  // Many that never finish what they say keep nobody out.
  const silent = Array.from({ length: 60 }, () => {
    const socket = connect(Number(port), '127.0.0.1', () =>
      socket.write('POST /api/series HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-'),
    );
    socket.on('error', () => undefined);
    return socket;
  });
  await tried(tally, faults, `${app.url}/api/series`);
  for (const socket of silent) socket.destroy();
  await allIsWell();
}, 240_000);

it('of all that was acknowledged before each of ten kills, all is there after it', async () => {
  let revision = 1;
  const { currentTakeId: take } = await app.bringIn(series, await noise(), 'killed.png');
  let acknowledged = 1;
  const originals: { id: string; sha256: string }[] = [];
  let sendOuts = 0;
  const pause = [20, 700, 90, 400, 40, 900, 130, 10, 600, 60];
  for (const [round, ms] of pause.entries()) {
    let isKilled = false;
    const before = originals.length;
    const saving = (async () => {
      for (let n = 1; !isKilled; n++) {
        const exposure = Math.round(n * 1000 + revision) / 1e5;
        try {
          ({ revision } = await put(take, revision, light(exposure)));
          acknowledged = revision;
          tally.tried++;
          tally.taken++;
        } catch {
          return;
        }
      }
    })();
    const bringing = (async () => {
      while (!isKilled) {
        try {
          const file = await noise(60, 40);
          const { id } = await app.bringIn(series, file, 'before.png');
          originals.push({ id, sha256: sha256(file) });
          tally.tried++;
          tally.taken++;
        } catch {
          return;
        }
      }
    })();
    const sending = app
      .api<unknown[]>('POST', '/api/send-outs', { series, takes: [take], settings: { format: 'png' } })
      .then(
        rows => (sendOuts += rows.length),
        () => undefined,
      );
    await new Promise(done => setTimeout(done, ms));
    // Every other time something has been acknowledged just before, however slow the machine.
    while (round % 2 && originals.length === before) await new Promise(done => setTimeout(done, 5));
    await app.kill();
    isKilled = true;
    await Promise.all([saving, bringing, sending]);
    await app.start();
    const found = await app.api<{
      revision: number;
      treatment: { steps: { settings: { exposure: number } }[] };
    }>('GET', `/api/takes/${take}`);
    // One that was saved and whose answer was cut off may be there as well.
    if (found.revision < acknowledged)
      lose(`a save: ${found.revision} is there, ${acknowledged} was acknowledged`);
    ({ revision } = found);
  }
  for (const { id, sha256: hash } of originals)
    if (sha256(await originalOf(id)) !== hash) lose(`an original ${id}`);
  const rows = await app.api<{ state: string }[]>('GET', `/api/send-outs?series=${series}`);
  if (rows.length < sendOuts) lose(`${sendOuts - rows.length} send-outs`);
  notes.push(
    `${pause.length} kills: ${revision} saves, ${originals.length} originals, ${rows.length} send-outs`,
  );
  expect(originals.length).toBeGreaterThanOrEqual(5);
  await allIsWell();
}, 240_000);

it('a package of which the server is killed while it comes in is not there at all, and comes in after it', async () => {
  const given = await newSeries('Given');
  for (let n = 0; n < 6; n++) await app.bringIn(given, await noise(400, 300), `given ${n}.png`);
  const gift = Buffer.from(await (await fetch(`${app.url}/api/series/${given}/package`)).arrayBuffer());
  const count = async () => (await app.api<unknown[]>('GET', '/api/series')).length;
  const take = () => {
    tally.tried++;
    const headers = { 'Content-Type': 'application/x-tar' };
    return fetch(`${app.url}/api/archives`, { method: 'POST', headers, body: new Uint8Array(gift) }).then(
      response => response.status,
      () => null,
    );
  };
  const before = await count();
  let there = before;
  for (const ms of [5, 40, 90, 160, 240]) {
    const taking = take();
    await new Promise(done => setTimeout(done, ms));
    await app.kill();
    const status = await taking;
    if (status === 201) {
      there++;
      tally.taken++;
    }
    await app.start();
    // One whose answer was cut off may be there as well; half of one never is.
    const now = await count();
    if (now < there) lose('a package that was taken in');
    expect(now - there).toBeLessThanOrEqual(1);
    there = now;
  }
  expect(await take()).toBe(201);
  const all = await app.api<{ title: string; photographs: number }[]>('GET', '/api/series');
  for (const { title, photographs } of all) if (title === 'Given') expect(photographs).toBe(6);
  expect(all).toHaveLength(there + 1);
  notes.push(`5 kills while a package came in: ${there - before} were whole by then`);
  await allIsWell();
}, 240_000);

it('packages made to hold the server, or to come in unread, are refused by name or taken, beside all others', async () => {
  const given = await newSeries('Strange');
  const { currentTakeId } = await app.bringIn(given, await noise(), 'strange.png');
  await put(currentTakeId, 1, light(0.5));
  const gift = Buffer.from(await (await fetch(`${app.url}/api/series/${given}/package`)).arrayBuffer());
  const before = (await app.api<unknown[]>('GET', '/api/series')).length;
  const packages = await hostilePackages(gift);
  let longest = { ms: 0, what: '' };
  let came = 0;
  for (const [what, bytes, fits] of packages) {
    const stop = watchHealth(tally, faults, app.url);
    const headers = { 'Content-Type': 'application/x-tar' };
    const body = new Uint8Array(bytes);
    const answer = await tried(tally, faults, `${app.url}/api/archives`, { method: 'POST', headers, body });
    if (answer && answer.status !== (fits ? 201 : 422))
      faults.push(`${what}: ${answer.status} ${answer.text.slice(0, 200)}`);
    if (answer?.status === 201) came++;
    const ms = Math.round(await stop());
    if (ms > longest.ms) longest = { ms, what };
    if (process.env.DETAIL) console.log(what, answer?.status, ms, answer?.text.slice(0, 120));
  }
  expect((await app.api<unknown[]>('GET', '/api/series')).length - before).toBe(came);
  const left = await readdir(join(app.home, 'cache', 'uploads'));
  expect(left.filter(name => name.startsWith('archive-'))).toEqual([]);
  notes.push(
    `${packages.length} packages, ${came} taken; health within ${longest.ms} ms, the longest beside ${longest.what}`,
  );
  await allIsWell();
}, 240_000);

const mounts =
  spawnSync('sh', ['-c', 'd=$(mktemp -d) && mount -t tmpfs -o size=1m tmpfs $d && umount $d; rmdir $d'])
    .status === 0;

// Only who may mount can make a disk that is full.
it.runIf(mounts)(
  'a full disk is named, leaves no half files, and work goes on when there is room',
  async () => {
    const home = await mkdtemp(join(tmpdir(), 'lampwash-full-'));
    spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=24m', 'tmpfs', home]);
    const small = await startApp({ LAMPWASH_DEMO: '0', LAMPWASH_HOME: home });
    try {
      const made = await small.api<{ id: string }>('POST', '/api/series', { title: 'Full' });
      const ballast = join(home, 'ballast');
      const first = await small.bringIn(made.id, await noise(), 'first.png');
      await writeFile(ballast, Buffer.alloc(22.5 * 1024 * 1024));
      const bring = async (file: Buffer) => {
        tally.tried++;
        const form = new FormData();
        form.append('file', new Blob([new Uint8Array(file)]), 'more.png');
        const response = await fetch(`${small.url}/api/series/${made.id}/photographs`, {
          method: 'POST',
          body: form,
          signal: AbortSignal.timeout(20_000),
        });
        return { status: response.status, text: await response.text() };
      };
      // Too large for what is left as a file, and as pixels.
      for (const file of [await noise(1400, 900), await noise(560, 560)]) {
        const { status, text } = await bring(file);
        tally.refused++;
        expect([status, text]).toEqual([507, expect.stringContaining('The disk is full.')]);
      }
      // A package that is larger than what is left, whose originals the disk cannot hold.
      const given = await newSeries('Too large');
      for (let n = 0; n < 3; n++) await app.bringIn(given, await noise(700, 500), `${n}.png`);
      const gift = await (await fetch(`${app.url}/api/series/${given}/package`)).arrayBuffer();
      const shelf = await small.api<unknown[]>('GET', '/api/series');
      const took = await fetch(`${small.url}/api/archives`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/x-tar' },
        body: gift,
        signal: AbortSignal.timeout(20_000),
      });
      tally.tried++;
      tally.refused++;
      expect([took.status, await took.text()]).toEqual([507, expect.stringContaining('The disk is full.')]);
      expect(await small.api<unknown[]>('GET', '/api/series')).toEqual(shelf);
      const left = await readdir(join(home, 'cache'), { recursive: true });
      expect(left.filter(name => /\.(part|upload)$|archive-/.test(name))).toEqual([]);
      // What needs no room goes on.
      await small.api('PATCH', `/api/photographs/${first.id}`, { title: 'Still here' });
      await rm(ballast);
      expect((await bring(await noise(560, 560))).status).toBe(201);
      tally.taken++;
    } finally {
      await small.close();
      spawnSync('umount', [home]);
      await rm(home, { recursive: true, force: true });
    }
    await allIsWell();
  },
  60_000,
);
