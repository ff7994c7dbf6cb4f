import { open } from 'node:fs/promises';
import type { Metadata } from 'sharp';

/** Files that hold more than the one picture that is taken of them. */

/** Tags of a TIFF directory that tell of it. Source: TIFF 6.0, section 8; TIFF/EP; DNG 1.6. */
const NEW_SUBFILE_TYPE = 254;
const SUB_DIRECTORIES = 330;
const DNG_VERSION = 50706;
const REDUCED = 1;

/** The first directory of a TIFF: its tags, each with the number that stands in its entry. */
async function firstDirectory(path: string): Promise<Map<number, number>> {
  const tags = new Map<number, number>();
  const handle = await open(path, 'r');
  try {
    const read = async (at: number, length: number) => {
      const { buffer, bytesRead } = await handle.read(Buffer.alloc(length), 0, length, at);
      return buffer.subarray(0, bytesRead);
    };
    const head = await read(0, 8);
    const little = head.toString('latin1', 0, 2) === 'II';
    const u16 = (of: Buffer, at: number) => (little ? of.readUInt16LE(at) : of.readUInt16BE(at));
    const u32 = (of: Buffer, at: number) => (little ? of.readUInt32LE(at) : of.readUInt32BE(at));
    // The large kind, with another head, has pages like any; it is no camera's raw file.
    if (head.length < 8 || u16(head, 2) !== 42) return tags;
    const at = u32(head, 4);
    const count = u16(await read(at, 2), 0);
    const entries = await read(at + 2, count * 12);
    for (let i = 0; i * 12 + 12 <= entries.length; i++) {
      const isShort = u16(entries, i * 12 + 2) === 3;
      tags.set(u16(entries, i * 12), (isShort ? u16 : u32)(entries, i * 12 + 8));
    }
  } catch {
    // Whether it can be read at all is said elsewhere.
  } finally {
    await handle.close();
  }
  return tags;
}

/** What of a file is taken, where that is not all of it, in words; null where it is. */
export async function partTaken(path: string, { format, pages = 1 }: Metadata): Promise<string | null> {
  if (format === 'tiff') {
    const tags = await firstDirectory(path);
    const isReduced = ((tags.get(NEW_SUBFILE_TYPE) ?? 0) & REDUCED) !== 0;
    if (tags.has(DNG_VERSION) || (isReduced && tags.has(SUB_DIRECTORIES))) {
      return isReduced
        ? 'the small preview in a camera’s raw file; the raw picture itself is not read'
        : 'the first picture in a camera’s raw file, not developed';
    }
    if (isReduced) return 'a small preview, the first picture in its file';
  }
  return pages > 1 ? `the first of ${pages} ${format === 'tiff' ? 'pages' : 'pictures'} in its file` : null;
}
