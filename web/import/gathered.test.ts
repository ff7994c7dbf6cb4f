import fc from 'fast-check';
import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { gather } from './gathered';

const bytes = (n: number) => Uint8Array.from({ length: n }, (_, i) => (i * 31 + n) % 251);
const zip = (entries: Record<string, Uint8Array>, name = 'harbour.zip', level: 0 | 6 = 6) =>
  new File([zipSync(entries, { level })], name);
const names = (files: readonly File[]) => files.map(f => f.name);

/** A folder as a browser gives it, some of its entries at a time. */
function folder(
  name: string,
  entries: readonly FileSystemEntry[],
  path = `/${name}`,
): FileSystemDirectoryEntry {
  // eslint-disable-next-line no-restricted-syntax -- no more of it is asked for
  return {
    isDirectory: true,
    isFile: false,
    name,
    fullPath: path,
    createReader: () => {
      let at = 0;
      return {
        readEntries: (done: (some: FileSystemEntry[]) => void) => {
          const some = entries.slice(at, (at += 2));
          setTimeout(() => done(some));
        },
      };
    },
  } as unknown as FileSystemDirectoryEntry;
}
const entry = (path: string, broken = false): FileSystemFileEntry =>
  // eslint-disable-next-line no-restricted-syntax -- no more of it is asked for
  ({
    isDirectory: false,
    isFile: true,
    name: path.split('/').at(-1)!,
    fullPath: path,
    file: (done: (file: File) => void, fail: (error: Error) => void) =>
      broken ? fail(new Error('gone')) : done(new File([bytes(5)], path.split('/').at(-1)!)),
  }) as unknown as FileSystemFileEntry;

describe('what is laid down', () => {
  it('is taken as it is where it is a file, whatever it is called', async () => {
    const laid = [new File([bytes(9)], 'scan'), new File([bytes(3)], 'b.jpg')];
    expect(await gather(laid)).toEqual({ files: laid, refused: [] });
  });

  it('of a zip is what is in it, byte for byte, in the order of names', async () => {
    const { files, refused } = await gather([
      zip({ 'roll/10.jpg': bytes(100), 'roll/9.tif': bytes(70_000), 'roll/a/1.png': bytes(1) }),
    ]);
    expect(names(files)).toEqual(['9.tif', '10.jpg', '1.png']);
    expect(new Uint8Array(await files[0].arrayBuffer())).toEqual(bytes(70_000));
    expect(refused).toEqual([]);
  });

  it('of any zip comes out as it went in', async () => {
    const entries = fc.dictionary(fc.stringMatching(/^[a-z]{1,8}$/), fc.uint8Array({ maxLength: 4000 }), {
      minKeys: 1,
      maxKeys: 6,
    });
    await fc.assert(
      fc.asyncProperty(entries, fc.constantFrom<0 | 6>(0, 6), async (of, level) => {
        const packed = Object.fromEntries(Object.entries(of).map(([name, data]) => [`${name}.jpg`, data]));
        const { files, refused } = await gather([zip(packed, 'z.zip', level)]);
        expect(refused).toEqual([]);
        expect(names(files).toSorted()).toEqual(Object.keys(packed).toSorted());
        for (const file of files) {
          expect(new Uint8Array(await file.arrayBuffer())).toEqual(Uint8Array.from(packed[file.name]));
        }
      }),
      { numRuns: 40 },
    );
  });

  it('leaves out what nobody means, and tells of what is no photograph once', async () => {
    const { files, refused } = await gather([
      zip({
        '__MACOSX/._1.jpg': bytes(4),
        '.DS_Store': bytes(4),
        'Thumbs.db': bytes(4),
        '1.jpg': bytes(4),
        'notes.txt': bytes(4),
        'list.xls': bytes(4),
      }),
    ]);
    expect(names(files)).toEqual(['1.jpg']);
    expect(refused).toHaveLength(1);
    expect(refused[0]).toMatchObject({ name: 'harbour.zip' });
    expect(refused[0].why).toMatch(/^(notes\.txt|list\.xls) and 1 more in it/);
    const empty = await gather([zip({ '.hidden': bytes(2) })]);
    expect(empty).toEqual({
      files: [],
      refused: [{ name: 'harbour.zip', why: 'There is no photograph in it.' }],
    });
  });

  it('of a zip that is cut off is what comes before, and it says so', async () => {
    const whole = new Uint8Array(
      await zip(
        { '1.jpg': bytes(5000), '2.jpg': bytes(90_000), '3.jpg': bytes(90_000) },
        'z',
        0,
      ).arrayBuffer(),
    );
    const { files, refused } = await gather([new File([whole.slice(0, 60_000)], 'cut.zip')]);
    expect(names(files)).toEqual(['1.jpg']);
    expect(refused.some(({ name, why }) => name === 'cut.zip' && /ends too early|broken/.test(why))).toBe(
      true,
    );
  });

  it('of any rubbish that looks like a zip never fails', async () => {
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 300 }), async rubbish => {
        const { files, refused } = await gather([
          new File([Uint8Array.of(0x50, 0x4b, 3, 4), rubbish], 'x.zip'),
        ]);
        expect(files.length + refused.length).toBeGreaterThan(0);
      }),
    );
  });

  it('layers stay a file of their own, though they are a zip', async () => {
    const { files } = await gather([zip({ 'stack.xml': bytes(4) }, 'print.ora')]);
    expect(names(files)).toEqual(['print.ora']);
  });

  it('of a folder is all that is in it and in folders within, in order; what cannot be read is named', async () => {
    const inner = folder(
      'b',
      [entry('/roll/b/2.jpg'), entry('/roll/b/1.jpg'), entry('/roll/b/gone.jpg', true)],
      '/roll/b',
    );
    const { files, refused } = await gather([
      folder('roll', [
        entry('/roll/12.tif'),
        inner,
        entry('/roll/3.tif'),
        entry('/roll/.DS_Store'),
        entry('/roll/c.txt'),
      ]),
    ]);
    expect(names(files)).toEqual(['3.tif', '12.tif', '1.jpg', '2.jpg']);
    expect(refused.map(r => r.name)).toEqual(['gone.jpg', 'roll']);
  });
});
