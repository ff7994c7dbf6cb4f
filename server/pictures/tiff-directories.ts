import { open } from 'node:fs/promises';

/** The directories of a TIFF, and what they tell. Source: TIFF 6.0, section 8; TIFF/EP; DNG 1.6. */

/** Tags of a directory, each with the number that stands in its entry. */
export type Directory = Map<number, number>;

const NEW_SUBFILE_TYPE = 254;
const PHOTOMETRIC = 262;
const SUB_DIRECTORIES = 330;
const DNG_VERSION = 50706;
const [REDUCED, MASK] = [1, 4];
const [COLOUR_FILTERS, LINEAR_RAW] = [32803, 34892];

/** Directories that are read at most: a file may say that each is followed by another, for ever. */
const MOST_DIRECTORIES = 2000;

/** The directories that follow each other in a TIFF; none of a file that is no TIFF, or of the large kind. */
export async function directoriesOf(path: string): Promise<Directory[]> {
  const found: Directory[] = [];
  const handle = await open(path, 'r');
  try {
    const read = async (at: number, length: number) => {
      const { buffer, bytesRead } = await handle.read(Buffer.alloc(length), 0, length, at);
      return buffer.subarray(0, bytesRead);
    };
    const head = await read(0, 8);
    const order = head.toString('latin1', 0, 2);
    const little = order === 'II';
    const u16 = (of: Buffer, at: number) => (little ? of.readUInt16LE(at) : of.readUInt16BE(at));
    const u32 = (of: Buffer, at: number) => (little ? of.readUInt32LE(at) : of.readUInt32BE(at));
    if (head.length < 8 || !['II', 'MM'].includes(order) || u16(head, 2) !== 42) return found;
    const seen = new Set<number>();
    for (let at = u32(head, 4); at && !seen.has(at) && found.length < MOST_DIRECTORIES;) {
      seen.add(at);
      const count = u16(await read(at, 2), 0);
      const entries = await read(at + 2, count * 12 + 4);
      const tags: Directory = new Map();
      for (let i = 0; i < count && i * 12 + 12 <= entries.length; i++) {
        const isShort = u16(entries, i * 12 + 2) === 3;
        tags.set(u16(entries, i * 12), (isShort ? u16 : u32)(entries, i * 12 + 8));
      }
      found.push(tags);
      at = entries.length === count * 12 + 4 ? u32(entries, count * 12) : 0;
    }
  } catch {
    // Whether it can be read at all is said elsewhere.
  } finally {
    await handle.close();
  }
  return found;
}

const subfile = (of: Directory) => of.get(NEW_SUBFILE_TYPE) ?? 0;
const isReduced = (of: Directory) => (subfile(of) & REDUCED) !== 0;

/** Whether a TIFF is a camera's raw file. */
export function isRawTiff(directories: readonly Directory[], firstBytes: Buffer): boolean {
  const first = directories.at(0);
  if (!first) return false;
  return (
    first.has(DNG_VERSION) ||
    (isReduced(first) && first.has(SUB_DIRECTORIES)) ||
    firstBytes.toString('latin1', 8, 10) === 'CR' ||
    directories.some(d => [COLOUR_FILTERS, LINEAR_RAW].includes(d.get(PHOTOMETRIC) ?? 0))
  );
}

/** Which of the pages of a TIFF are pictures of their own, by their place: small previews and masks are not. All, where none would be. */
export function pagesOf(directories: readonly Directory[]): number[] {
  const own = directories.flatMap((d, i) => (isReduced(d) || subfile(d) & MASK ? [] : [i]));
  return own.length ? own : directories.map((_, i) => i);
}

/** Whether a page of a TIFF is a small preview of another. */
export const isPreview = (directory: Directory | undefined): boolean =>
  directory !== undefined && isReduced(directory);
