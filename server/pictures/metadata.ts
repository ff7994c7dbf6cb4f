import { randomUUID } from 'node:crypto';
import { readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Credits, SendOutSettings } from '../../contract/send-outs';
import { exiftool } from './exiftool';
import { formatNamed } from './formats';

/** What a finished file tells beside its pixels. */

export interface Told {
  what: SendOutSettings['metadata'];
  credits: Credits;
  /** The treatment, by its name. */
  treatment: string;
  /** Dots an inch. */
  dpi: number;
  /** A path at which the original can be read. */
  original: () => Promise<string>;
}

/** What is true of the original only: how it lies, how large it is, its own profile and small pictures. */
const OF_ORIGINAL = [
  '--Orientation',
  '--IFD1:all',
  '--ICC_Profile:all',
  '--ThumbnailImage',
  '--PreviewImage',
  '--XResolution',
  '--YResolution',
  '--ResolutionUnit',
  '--ExifImageWidth',
  '--ExifImageHeight',
  '--ColorSpace',
  '--ImageWidth',
  '--ImageHeight',
];

/** A line of text without what would end it. */
const line = (text: string) => text.replace(/[\p{Cc}\u2028\u2029]+/gu, ' ').trim();

/** The tags to be set, as `NAME=VALUE`. */
function tagsOf({ what, credits: { author, rights }, treatment }: Told): string[] {
  if (what === 'none') return [];
  const tags = ['XMP-xmp:CreatorTool=Lamp Wash', `XMP-xmp:Nickname=${line(treatment)}`];
  if (author) tags.push(`IFD0:Artist=${line(author)}`, `XMP-dc:Creator=${line(author)}`);
  if (rights) tags.push(`IFD0:Copyright=${line(rights)}`, `XMP-dc:Rights=${line(rights)}`);
  return tags;
}

/**
 * A finished file with what it is to tell. Throws an Error that says what is wrong.
 * @param folder where it may lie meanwhile
 */
export async function withMetadata(
  file: Buffer,
  format: string,
  folder: string,
  told: Told,
): Promise<Buffer> {
  const { ending, resolution, layers } = formatNamed(format);
  if (layers) return file;
  const tags = [...tagsOf(told), ...(resolution?.(told.dpi) ?? [])];
  const copied =
    told.what === 'all' ? ['-tagsFromFile', await told.original(), '-all:all', ...OF_ORIGINAL] : [];
  if (!tags.length && !copied.length) return file;
  const path = join(folder, `${randomUUID()}.${ending}`);
  try {
    await writeFile(path, file);
    const options = ['-overwrite_original', '-quiet', '-m', '-charset', 'utf8', '-charset', 'exif=utf8'];
    await exiftool([...options, ...copied, ...tags.map(tag => `-${tag}`), path]);
    return await readFile(path);
  } catch (error) {
    const { stderr } = error as { stderr?: Buffer };
    throw new Error(`Its metadata could not be written: ${line(String(stderr ?? error)).slice(0, 200)}`, {
      cause: error,
    });
  } finally {
    await rm(path, { force: true });
  }
}
