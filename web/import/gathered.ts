import { Unzip, UnzipInflate, type UnzipFile } from 'fflate';
import { PICTURE_ENDINGS } from '../../contract/picture-files';

/** Files as they were laid down, pasted or chosen: of folders and of zips what is in them, in the order of their names. */

/** Something that was not taken in, and why. */
export interface Refused {
  name: string;
  why: string;
}

export interface Gathered {
  files: File[];
  refused: Refused[];
}

/** What a folder or a zip may hold for itself, and nobody means. */
const UNMEANT = /(^|\/)(\.[^/]*|__MACOSX|Thumbs\.db|desktop\.ini)(\/|$)/i;
/** What may be a photograph, or a file of ours, by its ending. */
const MEANT = new RegExp(`\\.(${[...PICTURE_ENDINGS, 'json', 'cube', 'ora', 'tar'].join('|')})$`, 'i');

/** Whether a file is a backup or a package of ours, by its ending. */
export const isArchive = ({ name }: Pick<File, 'name'>) => /\.tar$/i.test(name);

/** Files that are taken from one folder or zip at most, and bytes that a zip may become. */
export const MOST_FILES = 5000;
export const MOST_BYTES = 8 * 1024 ** 3;

const byName = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** The last part of a path. */
const nameOf = (path: string) => path.split('/').at(-1) ?? path;

/** Of files that lie in one place those that are meant, in order; what else is there is told of together. */
function sorted(found: { path: string; file: File }[], within: string): Gathered {
  const meant = found.filter(({ path }) => !UNMEANT.test(path));
  const taken = meant.filter(({ path }) => MEANT.test(path));
  const others = meant.length - taken.length;
  const files = taken.toSorted((a, b) => byName.compare(a.path, b.path)).map(({ file }) => file);
  const first = meant.find(({ path }) => !MEANT.test(path));
  const rest = others > 1 ? ` and ${others - 1} more` : '';
  const refused = first
    ? [{ name: within, why: `${nameOf(first.path)}${rest} in it: not a photograph, and no file of ours.` }]
    : [];
  if (taken.length === 0 && others === 0)
    refused.push({ name: within, why: 'There is no photograph in it.' });
  return { files, refused };
}

const readAll = (directory: FileSystemDirectoryEntry): Promise<FileSystemEntry[]> => {
  const reader = directory.createReader();
  const all: FileSystemEntry[] = [];
  // A browser gives so many at a time.
  const more = (): Promise<FileSystemEntry[]> =>
    new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject)).then(some => {
      all.push(...some);
      return some.length && all.length <= MOST_FILES ? more() : all;
    });
  return more();
};

const fileOf = (entry: FileSystemFileEntry) =>
  new Promise<File>((resolve, reject) => entry.file(resolve, reject));

/** All files of a folder and of the folders in it. */
async function filesIn(directory: FileSystemDirectoryEntry): Promise<Gathered> {
  const found: { path: string; file: File }[] = [];
  const refused: Refused[] = [];
  const walk = async (folder: FileSystemDirectoryEntry): Promise<void> => {
    for (const entry of await readAll(folder)) {
      if (found.length >= MOST_FILES || UNMEANT.test(entry.name)) continue;
      try {
        if (entry.isDirectory) await walk(entry as FileSystemDirectoryEntry);
        else found.push({ path: entry.fullPath, file: await fileOf(entry as FileSystemFileEntry) });
      } catch {
        refused.push({ name: entry.name, why: 'It cannot be read: it may have been moved, or be locked.' });
      }
    }
  };
  await walk(directory);
  if (found.length >= MOST_FILES) {
    refused.push({ name: directory.name, why: `Only the first ${MOST_FILES} files of it were taken.` });
  }
  const { files, refused: others } = sorted(found, directory.name);
  return { files, refused: [...refused, ...others] };
}

/** Whether a file is a zip by what it begins with; layers are one too, and are told by their ending. */
async function isZip(file: File): Promise<boolean> {
  if (/\.ora$/i.test(file.name)) return false;
  const [a, b, c, d] = new Uint8Array(await file.slice(0, 4).arrayBuffer());
  return a === 0x50 && b === 0x4b && ((c === 3 && d === 4) || (c === 5 && d === 6));
}

/** All files of a zip. One that is broken gives what comes before the break, and says so. */
async function filesInZip(zip: File): Promise<Gathered> {
  const found: { path: string; file: File }[] = [];
  const refused: Refused[] = [];
  let bytes = 0;
  let open = 0;
  const take = (entry: UnzipFile) => {
    if (entry.name.endsWith('/') || UNMEANT.test(entry.name) || found.length >= MOST_FILES) return;
    const parts: BlobPart[] = [];
    open++;
    entry.ondata = (error, chunk, final) => {
      if (error) {
        open--;
        refused.push({ name: nameOf(entry.name), why: 'It is broken in the zip.' });
        return;
      }
      bytes += chunk.length;
      if (bytes > MOST_BYTES) throw new RangeError('it becomes too large');
      parts.push(chunk.slice());
      if (!final) return;
      open--;
      found.push({ path: entry.name, file: new File(parts, nameOf(entry.name)) });
    };
    try {
      entry.start();
    } catch {
      open--;
      refused.push({ name: nameOf(entry.name), why: 'It is packed in a way that cannot be read.' });
    }
  };
  const unzip = new Unzip(take);
  unzip.register(UnzipInflate);
  try {
    const reader = zip.stream().getReader();
    for (;;) {
      const { done, value } = await reader.read();
      unzip.push(value ?? new Uint8Array(0), done);
      if (done) break;
    }
  } catch (error) {
    const why =
      error instanceof RangeError ? 'It becomes too large when it is unpacked' : 'The zip is broken';
    refused.push({ name: zip.name, why: `${why}; what comes before is taken.` });
    open = 0;
  }
  if (open > 0) refused.push({ name: zip.name, why: 'The zip ends too early; what comes before is taken.' });
  const { files, refused: others } = sorted(found, zip.name);
  return { files, refused: [...refused, ...others] };
}

/** What was laid down: files, and folders where the browser knows them. */
export async function gather(laid: readonly (File | FileSystemEntry)[]): Promise<Gathered> {
  const all: Gathered = { files: [], refused: [] };
  for (const each of laid) {
    let of: Gathered;
    if (each instanceof File)
      of = (await isZip(each)) ? await filesInZip(each) : { files: [each], refused: [] };
    else if (each.isDirectory) of = await filesIn(each as FileSystemDirectoryEntry);
    else of = await gather([await fileOf(each as FileSystemFileEntry)]);
    all.files.push(...of.files);
    all.refused.push(...of.refused);
  }
  return all;
}

/** What a drop holds. To be called while it is being dropped: afterwards a browser knows nothing of it. */
export function laidBy(data: DataTransfer): (File | FileSystemEntry)[] {
  return [...data.items]
    .filter(({ kind }) => kind === 'file')
    .flatMap((item): (File | FileSystemEntry)[] => {
      const entry = item.webkitGetAsEntry?.();
      if (entry?.isDirectory) return [entry];
      const file = item.getAsFile();
      return file ? [file] : [];
    });
}
