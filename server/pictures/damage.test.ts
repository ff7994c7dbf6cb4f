import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { decodePicture } from './decode';
import { PictureError } from './bounds';
import { inspect } from './inspect';

const [width, height] = [240, 160];
const raw = Buffer.from(
  Array.from({ length: width * height * 3 }, (_, i) => (i * 7 + Math.floor(i / 700) * 3) % 256),
);
const picture = () => sharp(raw, { raw: { width, height, channels: 3 } });

let folder: string;
let count = 0;
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), 'lampwash-damage-'))));
afterAll(() => rm(folder, { recursive: true, force: true }));

async function taken(bytes: Uint8Array) {
  const path = join(folder, `${++count}`);
  await writeFile(path, bytes);
  const facts = await inspect(path);
  return { facts, ...(await decodePicture(path, facts)) };
}
const share = (file: Buffer, of: number) => Math.floor(file.length * of);
const filled = (file: Buffer, from: number, bytes: number[]) => {
  const broken = Buffer.from(file);
  broken.set(bytes, from);
  return broken;
};

describe('damaged data', () => {
  it.each([
    ['JPEG', () => picture().jpeg().toBuffer(), 'the file ends too early'],
    ['progressive JPEG', () => picture().jpeg({ progressive: true }).toBuffer(), 'the file ends too early'],
  ])('of a %s that is cut short is read as far as it goes, and said', async (_name, make, said) => {
    const file = await make();
    const whole = await taken(file);
    expect(whole.damage).toBeNull();
    const short = await taken(file.subarray(0, share(file, 0.7)));
    expect(short.damage).toBe(said);
    expect([short.width, short.height]).toEqual([width, height]);
    // Its top is that of the whole one.
    const rows = width * 3 * 16;
    const off = Math.max(
      ...Array.from({ length: rows }, (_, i) => Math.abs(short.codes[i] - whole.codes[i])),
    );
    expect(off).toBeLessThanOrEqual(_name.startsWith('progressive') ? 255 : 0);
  });

  it('of a JPEG that is broken in the middle is said', async () => {
    const file = await picture().jpeg().toBuffer();
    const broken = await taken(filled(file, share(file, 0.5), Array(40).fill(0xff)));
    expect(broken.damage).toBe('its picture data is broken in places');
  });

  it('of a TIFF is read about the broken strip, and said', async () => {
    // Some strips high.
    const file = await picture().resize(240, 900, { fit: 'fill' }).tiff({ compression: 'lzw' }).toBuffer();
    const whole = await taken(file);
    expect(whole.damage).toBeNull();
    const broken = await taken(filled(file, share(file, 0.5), Array(60).fill(0)));
    expect(broken.damage).toMatch(/broken in places|ends too early/);
    expect(broken.codes.subarray(0, 9000)).toEqual(whole.codes.subarray(0, 9000));
    expect(broken.codes.subarray(-9000)).toEqual(whole.codes.subarray(-9000));
  });

  it('is not found where there is none: bytes after the end, few before it', async () => {
    const file = await picture().jpeg().toBuffer();
    expect((await taken(Buffer.concat([file, Buffer.from('made on the ferry')]))).damage).toBeNull();
    const padded = Buffer.concat([file.subarray(0, -2), Buffer.from([0, 0, 0]), file.subarray(-2)]);
    expect((await taken(padded)).damage).toBeNull();
  });

  it.each(['webp', 'avif', 'png'] as const)(
    'of a %s of which nothing can be read is refused',
    async format => {
      const file = await picture().toFormat(format).toBuffer();
      await expect(taken(file.subarray(0, share(file, 0.5)))).rejects.toThrow(PictureError);
    },
  );

  it('whatever it is, a picture comes out whole in size, or a PictureError', async () => {
    const files = await Promise.all(
      (['jpeg', 'png', 'webp', 'tiff', 'avif'] as const).map(format =>
        picture().resize(48, 32).toFormat(format).toBuffer(),
      ),
    );
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...files),
        fc.array(
          fc.tuple(
            fc.double({ min: 0, max: 0.999, noNaN: true }),
            fc.uint8Array({ minLength: 1, maxLength: 9 }),
          ),
          {
            maxLength: 4,
          },
        ),
        fc.double({ min: 0, max: 1, noNaN: true }),
        async (file, breaks, cut) => {
          let bytes = Buffer.from(file);
          for (const [at, what] of breaks)
            bytes.set(what.subarray(0, bytes.length - share(bytes, at)), share(bytes, at));
          if (cut < 0.5) bytes = bytes.subarray(0, share(bytes, 2 * cut));
          try {
            const { codes, facts, ...size } = await taken(bytes);
            expect(codes.length).toBe(size.width * size.height * 3);
            expect([size.width, size.height]).toEqual([facts.width, facts.height]);
          } catch (error) {
            expect(error).toBeInstanceOf(PictureError);
          }
        },
      ),
      { numRuns: 150, interruptAfterTimeLimit: 25_000 },
    );
  }, 40_000);
});

/** A little-endian TIFF of one grey strip, with more tags in its first directory. */
function tiffWith(tags: [tag: number, type: 1 | 3 | 4, value: number][]): Buffer {
  const [w, h] = [8, 8];
  const entries: [number, number, number][] = [
    [256, 3, w],
    [257, 3, h],
    [258, 3, 8],
    [259, 3, 1],
    [262, 3, 1],
    [273, 4, 8],
    [277, 3, 1],
    [278, 3, h],
    [279, 4, w * h],
    ...tags,
  ];
  entries.sort((a, b) => a[0] - b[0]);
  const file = Buffer.alloc(8 + w * h + 2 + entries.length * 12 + 4, 90);
  file.write('II', 0, 'latin1');
  file.writeUInt16LE(42, 2);
  file.writeUInt32LE(8 + w * h, 4);
  let at = 8 + w * h;
  at = file.writeUInt16LE(entries.length, at);
  for (const [tag, type, value] of entries) {
    at = file.writeUInt16LE(tag, at);
    at = file.writeUInt16LE(type, at);
    at = file.writeUInt32LE(type === 1 ? 4 : 1, at);
    at = file.writeUInt32LE(value, at);
  }
  file.writeUInt32LE(0, at);
  return file;
}

describe('a part of a file', () => {
  it('is said: the first of many pages', async () => {
    const page = await picture().png().toBuffer();
    const animated = await sharp([page, await picture().negate().png().toBuffer(), page], {
      join: { animated: true },
    })
      .webp()
      .toBuffer();
    expect((await taken(animated)).facts.part).toBe('the first of 3 pictures in its file');
    expect((await taken(await picture().tiff().toBuffer())).facts.part).toBeNull();
  });

  it.each([
    [[], null],
    [[[254, 4, 1]], 'a small preview'],
    [
      [
        [254, 4, 1],
        [330, 4, 8],
      ],
      'the small preview in a camera’s raw file',
    ],
  ] as [[number, 1 | 3 | 4, number][], string | null][])('is said of a TIFF with %j', async (tags, said) => {
    const path = join(folder, `${++count}`);
    await writeFile(path, tiffWith(tags));
    const { part } = await inspect(path);
    if (said === null) expect(part).toBeNull();
    else expect(part).toContain(said);
  });
});
