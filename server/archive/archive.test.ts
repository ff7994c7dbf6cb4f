import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import fc from 'fast-check';
import { QueryTypes } from 'sequelize';
import { extract, pack } from 'tar-stream';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TakenIn } from '../../contract/archives';
import type { Photograph as PhotographView } from '../../contract/photographs';
import type { Series } from '../../contract/series';
import { asking, light, treatmentOf } from '../testing/asking';
import { starterBox } from '../../core/colour/pigments';
import { sendCarried } from '../testing/carried';
import { png8, tiff16 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';
import { HEAD, pieceName, SUMS } from './format';
import { archivedTables, leftOut } from './tables';
import { archiveOf } from './write';

/** One at a time: the models of a process belong to one database. */
let server: TestServer;
const { http, newSeries, photographIn, sent } = asking(() => server);

/** The same on an empty shelf. */
async function moveToAnEmptyShelf(): Promise<void> {
  await server.close();
  server = await testServer();
}

interface Entry {
  name: string;
  bytes: Buffer;
}

/** The entries of an archive. */
async function entriesOf(archive: Buffer): Promise<Entry[]> {
  const tar = extract();
  Readable.from([archive]).pipe(tar);
  const found: Entry[] = [];
  for await (const entry of tar) found.push({ name: entry.header.name, bytes: await buffer(entry) });
  return found;
}

function archiveWith(entries: readonly Entry[]): Promise<Buffer> {
  const tar = pack();
  for (const { name, bytes } of entries) tar.entry({ name }, bytes);
  tar.finalize();
  return buffer(tar);
}

/** An archive whose rows of a table are others, with sums that fit. */
async function withRows(archive: Buffer, table: string, change: (row: Record<string, unknown>) => unknown) {
  const entries = await entriesOf(archive);
  const piece = entries.find(e => e.name === pieceName(table, 0))!;
  piece.bytes = Buffer.from(
    piece.bytes
      .toString()
      .trim()
      .split('\n')
      .map(line => JSON.stringify(change(JSON.parse(line) as Record<string, unknown>)))
      .join('\n'),
  );
  const sums = entries.find(e => e.name === SUMS)!;
  const read = JSON.parse(sums.bytes.toString()) as Record<string, string>;
  read[piece.name] = createHash('sha256').update(piece.bytes).digest('hex');
  sums.bytes = Buffer.from(JSON.stringify(read));
  return archiveWith(entries);
}

const take = (archive: Buffer) => http().post('/api/archives').type('application/x-tar').send(archive);
const backup = () => buffer(archiveOf(server.services.sequelize, null));
const packageOf = (id: string) => buffer(archiveOf(server.services.sequelize, id));

/** All that tells archives apart: the sums of their rows, and the hashes of their bytes. */
async function contentOf(archive: Buffer) {
  const entries = await entriesOf(archive);
  return {
    sums: JSON.parse(entries.at(-1)!.bytes.toString()) as Record<string, string>,
    blobs: entries.filter(e => e.name.startsWith('blobs/')).map(e => e.name),
  };
}

const counts = async () =>
  Object.fromEntries(
    await Promise.all(
      archivedTables.map(async ({ name }) => {
        const [{ n }] = await server.services.sequelize.query<{ n: number }>(
          `SELECT count(*)::int AS n FROM ${name}`,
          { type: QueryTypes.SELECT },
        );
        return [name, n] as const;
      }),
    ),
  );

/** A shelf with something of every kind on it. */
async function work() {
  const series = await newSeries('Low water');
  const one = await photographIn(series.id, await tiff16(300, 200, (x, y) => [x * 200, y * 300, 9000]));
  const two = await photographIn(series.id);
  await http().patch(`/api/photographs/${two.id}`).send({ caption: 'The “north” bank \\ 10 % \u{1F30A}' });
  await edit(one.currentTakeId, 5);
  await http().post(`/api/takes/${one.currentTakeId}/undo`).send({ revision: 6 });
  await http().post(`/api/photographs/${one.id}/takes`).send({ from: one.currentTakeId, name: 'Second' });
  await http()
    .post('/api/looks')
    .send({ name: 'Evening', group: 'Own', treatment: light(-0.4) });

  await http()
    .post('/api/pigments')
    .send({ pigments: starterBox.slice(0, 3) });
  await http().put('/api/credits').send({ author: 'Ada Fenn', rights: '© 2026 Ada Fenn – “all”' });
  const { reference } = await sendCarried(
    server.app,
    'table',
    Buffer.from('LUT_1D_SIZE 2\n0 0 0\n1 0.9 0.7\n'),
  );
  await http().post('/api/tables').send({ name: 'Lamp oil', sha256: reference.sha256 });
  await sent(series.id, two.currentTakeId, { format: 'jpeg' });
  const aside = await newSeries('Put aside');
  await photographIn(aside.id);
  await http().delete(`/api/series/${aside.id}`);
  const given = await newSeries('Given away');
  const gift = await photographIn(given.id, await tiff16(200, 100, (x, y) => [x * 300, y * 600, 30000]));
  await edit(gift.currentTakeId, 3);
  return { series, one, two, given, gift };
}

/** Saves a take some times. */
async function edit(takeId: string, times: number): Promise<void> {
  for (let revision = 1; revision <= times; revision++) {
    const { status } = await http()
      .put(`/api/takes/${takeId}/treatment`)
      .send({ revision, label: `Light ${revision}`, treatment: light(revision / 10) });
    expect(status).toBeLessThan(300);
  }
}

const bytesAt = async (path: string) => (await http().get(path).responseType('blob')).body as Buffer;

let made: Awaited<ReturnType<typeof work>>;
let archive: Buffer;
let gift: Buffer;
let before: Record<string, number>;
beforeAll(async () => {
  server = await testServer();
  made = await work();
  archive = await backup();
  gift = await packageOf(made.given.id);
  before = await counts();
}, 60_000);
afterAll(() => server.close());

// A shelf is made an archive of, taken in, and given away from: one thing after another.
/** Each operation doubles what the one before has made. */
const doubling = [
  { op: 'add', path: '/masks/-', value: ['x'.repeat(1000)] },
  ...Array.from({ length: 24 }, () => ({ op: 'copy', from: '/masks/0', path: '/masks/0/-' })),
];

describe('one shelf', { shuffle: false }, () => {
  describe('an archive', () => {
    it('names every table of the database, or says why it is left out', async () => {
      const rows = await server.services.sequelize.query<{ name: string }>(
        `SELECT table_name AS name FROM information_schema.tables WHERE table_schema = 'public'`,
        { type: QueryTypes.SELECT },
      );
      const known = new Set([...archivedTables.map(t => t.name), ...Object.keys(leftOut)]);
      expect(rows.map(r => r.name).filter(name => !known.has(name))).toEqual([]);
    });

    it('is of one moment, whatever is saved meanwhile', async () => {
      const { currentTakeId } = made.two;
      const saving = edit(currentTakeId, 25);
      const archives = [await backup(), await backup(), await backup()];
      await saving;
      for (const each of archives) {
        const entries = await entriesOf(each);
        const rows = (table: string) =>
          entries
            .filter(e => e.name.startsWith(`rows/${table}.`))
            .flatMap(e => e.bytes.toString().trim().split('\n'))
            .map(line => JSON.parse(line) as Record<string, unknown>);
        const state = rows('takes').find(t => t.id === currentTakeId)!.current_state;
        const numbers = rows('take_states')
          .filter(s => s.take_id === currentTakeId)
          .map(s => s.number as number);
        // The take is at the newest of its states, of which none is missing.
        expect(Math.max(...numbers)).toBe(state);
        expect(numbers.length).toBe(Number(state) + 1);
      }
    });

    it('of the shelf is taken in by an empty one, and is then the same by hash', async () => {
      const tile = `/api/photographs/${made.one.id}/pixels/300/0/0`;
      const pixels = await bytesAt(tile);
      await moveToAnEmptyShelf();
      const { status, body } = await take(archive);
      expect(status, JSON.stringify(body)).toBe(201);
      expect((body as TakenIn).of).toBe('shelf');
      const [was, is] = [await contentOf(archive), await contentOf(await backup())];
      expect(is).toEqual(was);
      expect(Object.keys(was.sums).length).toBeGreaterThanOrEqual(10);
      expect(await counts()).toEqual(before);
      // And it works there: pixels, the history.
      expect(Buffer.compare(await bytesAt(tile), pixels)).toBe(0);
      const redone = await http().post(`/api/takes/${made.one.currentTakeId}/redo`).send({ revision: 7 });
      expect(redone.status, JSON.stringify(redone.body)).toBe(201);
    });

    it('of what is there already is refused by its name, and changes nothing', async () => {
      const { status, body } = await take(archive);
      expect(status).toBe(422);
      expect(body.title).toMatch(/“(Low water|Put aside|Given away)” of the backup is on this shelf already/);
      expect(await counts()).toEqual(before);
    });

    it('that is damaged anywhere is refused, and changes nothing', async () => {
      await moveToAnEmptyShelf();
      const empty = await counts();
      await fc.assert(
        fc.asyncProperty(fc.double({ min: 0, max: 0.999, noNaN: true }), fc.boolean(), async (at, isCut) => {
          const place = Math.floor(at * archive.length);
          const broken = Buffer.from(isCut ? archive.subarray(0, place) : archive);
          if (!isCut) broken[place] ^= 0x41;
          const { status, body } = await take(broken);
          // What stands between the entries means nothing.
          if (status === 201) {
            const [was, is] = [await contentOf(archive), await contentOf(await backup())];
            expect(is).toEqual(was);
            await moveToAnEmptyShelf();
            return;
          }
          expect([400, 422], JSON.stringify(body)).toContain(status);
          expect(await counts()).toEqual(empty);
        }),
        { numRuns: 20 },
      );
    }, 120_000);

    it.each([
      [
        'bytes of no kind',
        () => Promise.resolve(Buffer.from('no archive'.repeat(200))),
        /no archive of Lamp Wash/,
      ],
      ['nothing', () => Promise.resolve(Buffer.alloc(0)), /no archive of Lamp Wash/],
      [
        'another tar',
        () => archiveWith([{ name: 'a.txt', bytes: Buffer.from('a') }]),
        /does not begin as one/,
      ],
      [
        'a head of nonsense',
        () => archiveWith([{ name: HEAD, bytes: Buffer.from('{"format":1}') }]),
        /its head does not say so/,
      ],
      [
        'a newer version',
        () => archiveWith([{ name: HEAD, bytes: Buffer.from('{"version":2}') }]),
        /newer version of Lamp Wash: use that/,
      ],
    ] as const)('of %s is refused', async (_name, make, says) => {
      const { status, body } = await take(await make());
      expect(status).toBe(422);
      expect(body.title).toMatch(says);
    });

    it('of a newer database is refused, with what it knows', async () => {
      const entries = await entriesOf(archive);
      const head = JSON.parse(entries[0].bytes.toString()) as { migrations: string[] };
      entries[0].bytes = Buffer.from(
        JSON.stringify({ ...head, migrations: [...head.migrations, '9999-tomorrow'] }),
      );
      const { status, body } = await take(await archiveWith(entries));
      expect(status).toBe(422);
      expect(body.title).toMatch(/9999-tomorrow/);
    });
  });

  describe('the backup of a shelf', () => {
    // Each that is refused leaves it empty.
    beforeAll(moveToAnEmptyShelf);

    const change = (table: string, more: (row: Record<string, unknown>) => object) => async () =>
      withRows(archive, table, row => ({ ...row, ...more(row) }));
    it.each([
      ['a column that no table has', change('takes', () => ({ admin: true })), /A row of takes .* admin/],
      [
        'a picture of a hundred million',
        change('photographs', () => ({ width: 1e8 })),
        /photographs .* width/,
      ],
      [
        'a file name that leads elsewhere',
        change('photographs', () => ({ file_name: '../../etc/passwd' })),
        /photographs .* file_name/,
      ],
      ['a name of two lines', change('series', () => ({ title: 'One\r\nTwo' })), /series .* title/],
      [
        'a step that is none',
        change('take_states', ({ number }) =>
          number === 0
            ? { treatment: { ...treatmentOf(), steps: [{ kind: 'no-such-step' }] }, patch: null }
            : {},
        ),
        /State 0 of take . in the archive is not valid/,
      ],
      [
        'a state of which the one before is missing',
        change('take_states', ({ number, parent }) => (number === 2 ? { parent: 77 } : { parent })),
        /(State 2 of take .|Rows of take_states) in the archive (is not valid|do not fit)/,
      ],
      [
        'a patch that doubles itself',
        change('take_states', ({ number, patch }) => ({ patch: number === 1 ? doubling : patch })),
        /take_states .* add, remove and replace/,
      ],
    ] as const)('with %s is refused by name, and changes nothing', async (_, make, says) => {
      const there = await counts();
      const { status, body } = await take(await make());
      expect(status, JSON.stringify(body)).toBe(422);
      expect(body.title).toMatch(says);
      expect(await counts()).toEqual(there);
    });

    it('of series that are put aside here names them, so that they can be brought back or removed', async () => {
      await moveToAnEmptyShelf();
      expect((await take(archive)).status).toBe(201);
      const all = (await http().get('/api/series')).body as Series[];
      for (const { id } of all) await http().delete(`/api/series/${id}`);
      const { status, body } = await take(archive);
      expect([status, body.title]).toEqual([
        422,
        expect.stringMatching(/are put aside on this shelf. Restore them/),
      ]);
      const { aside } = body as { aside: { id: string; title: string }[] };
      expect(aside.map(s => s.title).sort()).toEqual(['Given away', 'Low water', 'Put aside']);
      for (const { id } of aside) {
        expect((await http().delete(`/api/put-aside/series/${id}`)).status).toBe(204);
      }
      expect((await take(archive)).status).toBe(201);
      await moveToAnEmptyShelf();
    });

    it('comes into a shelf that is empty, not beside series that are there', async () => {
      await newSeries('My own');
      const there = await counts();
      const { status, body } = await take(archive);
      expect([status, body.title]).toEqual([422, expect.stringMatching(/comes into an empty one/)]);
      expect(await counts()).toEqual(there);
      await moveToAnEmptyShelf();
      expect((await take(archive)).status).toBe(201);
    });
  });

  describe('the package of a series', () => {
    const seriesAt = async (of: string) => (await http().get(`/api/series/${of}`)).body as Series;

    it('comes in elsewhere as a new series, with its originals, its takes and their history', async () => {
      const { status, body } = await take(gift);
      expect(status, JSON.stringify(body)).toBe(201);
      const { of, series } = body as TakenIn;
      expect([of, series[0].title]).toEqual(['series', 'Given away']);
      expect(series[0].id).not.toBe(made.given.id);
      const { photographs } = await seriesAt(series[0].id);
      expect(photographs.map(p => [p.title, p.sha256, p.width, p.bits])).toEqual([
        ['Picture', made.gift.sha256, 200, 16],
      ]);
      const [{ currentTakeId, id }] = photographs;
      expect(id).not.toBe(made.gift.id);
      const theirs = (await http().get(`/api/takes/${currentTakeId}`)).body as {
        treatment: object;
        revision: number;
      };
      expect(theirs.treatment).toEqual(JSON.parse(JSON.stringify(light(0.3))));
      const undone = await http()
        .post(`/api/takes/${currentTakeId}/undo`)
        .send({ revision: theirs.revision });
      expect(undone.status, JSON.stringify(undone.body)).toBe(201);
      const after = (await http().get(`/api/takes/${currentTakeId}`)).body as { treatment: object };
      expect(after.treatment).toEqual(JSON.parse(JSON.stringify(light(0.2))));
    });

    it('comes in twice, and beside the very series that it is of', async () => {
      await moveToAnEmptyShelf();
      expect((await take(archive)).status).toBe(201);
      const { status, body } = await take(gift);
      expect(status).toBe(201);
      expect((await seriesAt((body as TakenIn).series[0].id)).photographs).toHaveLength(1);
      expect((await seriesAt(made.given.id)).photographs).toHaveLength(1);
    });

    it('is not believed: what a picture is, is read from its bytes', async () => {
      const lying = await withRows(gift, 'photographs', row => ({
        ...row,
        width: -5,
        height: 1e9,
        bits: 99,
        media_type: 'text/html',
        file_name: '../../etc/passwd',
      }));
      const { status, body } = await take(lying);
      expect(status, JSON.stringify(body)).toBe(201);
      const { photographs } = await seriesAt((body as TakenIn).series[0].id);
      const photograph = (await http().get(`/api/photographs/${photographs[0].id}`)).body as PhotographView;
      expect(photograph).toMatchObject({
        width: 200,
        height: 100,
        bits: 16,
        mediaType: 'image/tiff',
        fileName: 'passwd',
      });
    });

    it.each([
      [
        'a treatment of nonsense',
        'take_states',
        (row: object) => ({ ...row, treatment: { format: 'x' }, patch: null }),
        /State 0 of take A/,
      ],
      [
        'steps that are none',
        'take_states',
        (row: object) => ({ ...row, treatment: { ...treatmentOf(), steps: 'many' }, patch: null }),
        /State 0 of take A/,
      ],
      [
        'a state that is missing',
        'takes',
        (row: object) => ({ ...row, current_state: 99 }),
        /history of take A in the archive is not whole/,
      ],
      [
        'a title that is none',
        'series',
        (row: object) => ({ ...row, title: '' }),
        /A row of series .* not valid: title/,
      ],
      [
        'a photograph of another series',
        'photographs',
        (row: object) => ({ ...row, series_id: '00000000-0000-4000-8000-000000000000' }),
        /do not fit|does not hold one series/,
      ],
      [
        'an original that is not there',
        'photographs',
        (row: object) => ({ ...row, sha256: 'a'.repeat(64) }),
        /original of “.*” is missing/,
      ],
      ['a row that is none', 'takes', () => 7, /A row of takes/],
      [
        'a patch that copies what it has made',
        'take_states',
        (row: { number?: number }) => (row.number === 0 ? row : { ...row, patch: doubling }),
        /A row of take_states .* add, remove and replace/,
      ],
      [
        'a number beyond all',
        'take_states',
        (row: object) => ({ ...row, number: 2 ** 31 }),
        /A row of take_states .* number/,
      ],
      [
        'a name of two lines',
        'series',
        (row: object) => ({ ...row, title: 'One\nTwo' }),
        /A row of series .* title/,
      ],
    ] as const)('with %s is refused, and changes nothing', async (_name, table, change, says) => {
      const there = await counts();
      const { status, body } = await take(await withRows(gift, table, change));
      expect(status, JSON.stringify(body)).toBe(422);
      expect(body.title).toMatch(says);
      expect(await counts()).toEqual(there);
    });

    it('is laid on nothing that is here, however its ids are written', async () => {
      // The very series that is here: in capitals, and with an escape.
      const shouted = await withRows(gift, 'photographs', row => ({
        ...row,
        series_id: made.given.id.toUpperCase(),
      }));
      const before = (await seriesAt(made.given.id)).photographs.length;
      const { status, body } = await take(shouted);
      expect(status, JSON.stringify(body)).toBe(201);
      expect((body as TakenIn).series[0].id).not.toBe(made.given.id);
      expect((await seriesAt(made.given.id)).photographs).toHaveLength(before);
    });

    it('holds nothing of other series', async () => {
      const other = await newSeries('Not given');
      const { sha256 } = await photographIn(other.id, await png8(20, 20, () => [1, 2, 3]));
      const entries = await entriesOf(await packageOf(made.given.id));
      expect(entries.some(e => e.name === `blobs/${sha256}`)).toBe(false);
      expect(entries.some(e => e.bytes.includes(other.id))).toBe(false);
    });

    it('is given by its address, under the name of the series; one that is not there is not', async () => {
      const answer = await http().get(`/api/series/${made.given.id}/package`).responseType('blob');
      expect(answer.status).toBe(200);
      expect(answer.headers['content-type']).toBe('application/x-tar');
      expect(answer.headers['content-disposition']).toContain('given-away.series.tar');
      expect(Number(answer.headers['x-lampwash-bytes'])).toBeGreaterThan(100_000);
      expect((await http().get('/api/series/00000000-0000-4000-8000-000000000000/package')).status).toBe(404);
      expect((await http().get('/api/backup').responseType('blob')).headers['content-disposition']).toMatch(
        /lampwash-shelf-\d{4}-\d\d-\d\d\.tar/,
      );
    });
  });
});
