import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { zlibSync } from 'fflate';
import { extract, pack } from 'tar-stream';

/** Packages of a series made to hold the server, to come in unread, or to be something else, with sums that fit. */

interface Entry {
  name: string;
  type: 'file' | 'symlink' | 'fifo';
  bytes: Buffer;
}
type Row = Record<string, unknown>;

async function entriesOf(archive: Buffer): Promise<Entry[]> {
  const tar = extract();
  Readable.from([archive]).pipe(tar);
  const found: Entry[] = [];
  for await (const entry of tar)
    found.push({ name: entry.header.name, type: 'file', bytes: await buffer(entry) });
  return found;
}

/** The archive of entries, its sums made anew. */
async function archived(entries: readonly Entry[]): Promise<Buffer> {
  const rows = entries.filter(({ name }) => name.startsWith('rows/'));
  const sums = Object.fromEntries(
    rows.map(({ name, bytes }) => [name, createHash('sha256').update(bytes).digest('hex')]),
  );
  const blobs = entries.filter(({ name }) => name.startsWith('blobs/')).length;
  const tar = pack();
  for (const { name, type, bytes } of entries) {
    if (name === 'sums.json') continue;
    const head = name === 'lampwash.json' ? { ...(JSON.parse(bytes.toString()) as Row), blobs } : null;
    const own = head ? Buffer.from(JSON.stringify(head)) : bytes;
    tar.entry({ name, type, linkname: type === 'symlink' ? '/etc/passwd' : undefined }, own);
  }
  tar.entry({ name: 'sums.json' }, JSON.stringify(sums));
  tar.finalize();
  return buffer(tar);
}

const nested = (depth: number) => `${'['.repeat(depth)}${']'.repeat(depth)}`;
const settings = (value: number) => [{ op: 'replace', path: '/steps/0/settings/exposure', value }];

/** Each with what it is, its bytes, and whether it may come in. */
export async function hostilePackages(gift: Buffer): Promise<[what: string, bytes: Buffer, fits: boolean][]> {
  const rows = (table: string) => `rows/${table}.00000.ndjson`;
  /** The package with the lines of a table changed. */
  const withLines = async (table: string, change: (lines: string[]) => string[]) => {
    const entries = await entriesOf(gift);
    const piece = entries.find(({ name }) => name === rows(table))!;
    piece.bytes = Buffer.from(change(piece.bytes.toString().trim().split('\n')).join('\n'));
    return archived(entries);
  };
  const withRow = (table: string, change: (row: Row) => Row) =>
    withLines(table, ([first, ...rest]) => [JSON.stringify(change(JSON.parse(first) as Row)), ...rest]);
  /** The package with more states after the last, each a patch. */
  const withChain = (count: number, patchOf: (n: number) => unknown) =>
    withLines('take_states', lines => {
      const last = JSON.parse(lines.at(-1)!) as { number: number };
      const more = Array.from({ length: count }, (_, i) => {
        const number = last.number + 1 + i;
        return JSON.stringify({ ...last, number, parent: number - 1, treatment: null, patch: patchOf(i) });
      });
      return [...lines, ...more];
    });
  const withEntry = async (entry: Entry) => archived([...(await entriesOf(gift)), entry]);
  const wide = Array.from({ length: 15_000 }, (_, i) => settings((i % 10) / 10)[0]);
  const points = Array.from({ length: 100_000 }, (_, i) => [(i % 97) / 97, (i % 89) / 89, 1]);
  const strokes = [0, 1, 2, 3, 4].map(n => ({
    points: points.slice(n * 20_000, (n + 1) * 20_000),
    radius: 0.01,
  }));
  const masks = [{ id: 'm', parts: [{ kind: 'brush', strokes }] }];
  const bomb = Buffer.from(zlibSync(new Uint8Array(2 ** 26), { level: 9 }));
  return [
    ['a chain of 400 patches', await withChain(400, i => settings((i % 10) / 10)), true],
    ['40 patches of 15,000 operations each', await withChain(40, () => wide), true],
    ['a patch of 400,000 operations', await withChain(1, () => Array(27).fill(wide).flat()), false],
    [
      'six states of 100,000 points',
      await withChain(6, i => [{ op: i ? 'replace' : 'add', path: '/masks', value: masks }]),
      true,
    ],
    [
      'a patch that copies itself',
      await withChain(1, () => Array(40).fill({ op: 'copy', from: '/steps', path: '/steps/-' })),
      false,
    ],
    [
      'a row nested 200,000 deep',
      await withLines('take_states', ([first, ...rest]) => [
        first.replace('"treatment":', `"treatment":${nested(200_000)},"other":`),
        ...rest,
      ]),
      false,
    ],
    ['a row of 60 MB', await withRow('series', row => ({ ...row, caption: 'a'.repeat(6e7) })), false],
    ['a column that no table has', await withRow('takes', row => ({ ...row, admin: true })), true],
    ['a name of two lines', await withRow('series', row => ({ ...row, title: 'a\r\nb' })), false],
    ['a name that turns round', await withRow('series', row => ({ ...row, title: 'a\u202egpj' })), false],
    ['a width that lies', await withRow('photographs', row => ({ ...row, width: 1e8 })), true],
    [
      'a link',
      await withEntry({ name: 'rows/takes.00001.ndjson', type: 'symlink', bytes: Buffer.alloc(0) }),
      false,
    ],
    [
      'a pipe',
      await withEntry({ name: 'rows/takes.00001.ndjson', type: 'fifo', bytes: Buffer.alloc(0) }),
      false,
    ],
    [
      'bytes under another name',
      await withEntry({ name: `blobs/${'a'.repeat(64)}`, type: 'file', bytes: bomb }),
      false,
    ],
    [
      'a table of the server’s own',
      await withEntry({ name: 'rows/tokens.00000.ndjson', type: 'file', bytes: Buffer.from('{}') }),
      false,
    ],
    [
      'a head twice',
      await withEntry({ name: 'lampwash.json', type: 'file', bytes: Buffer.from('{}') }),
      false,
    ],
    ['nothing', Buffer.alloc(0), false],
    ['zeros', Buffer.alloc(2 ** 20), false],
  ];
}
