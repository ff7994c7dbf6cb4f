import { exiftool } from './exiftool';

/** What a file tells of how it came to be. */
export interface CameraNotes {
  /** When it was taken, as its camera's clock said: `2026-05-03T14:22:01`. */
  taken: string | null;
  /** What it was taken with. */
  camera: string | null;
  /** Who took it. */
  author: string | null;
}

const NONE: CameraNotes = { taken: null, camera: null, author: null };

/** A line of text of a sensible length; null where there is none. */
function line(value: unknown): string | null {
  if (typeof value !== 'string' && typeof value !== 'number') return null;
  const text = String(value)
    .replace(/[\p{Cc}\u2028\u2029]+/gu, ' ')
    .trim();
  return text.slice(0, 200).replace(/[\uD800-\uDBFF]$/, '') || null;
}

/** A date as cameras write it, `2026:05:03 14:22:01` and perhaps more; null where it is none. */
function clock(value: unknown): string | null {
  const found = typeof value === 'string' && /^(\d{4}):(\d\d):(\d\d) (\d\d:\d\d:\d\d)/.exec(value);
  if (!found) return null;
  const said = `${found[1]}-${found[2]}-${found[3]}T${found[4]}`;
  const date = new Date(`${said}Z`);
  // A day that the calendar does not have is none.
  return !Number.isNaN(date.getTime()) && date.toISOString().slice(0, 19) === said ? said : null;
}

/** Make and model, without the make where the model begins with it. */
function cameraOf(make: string | null, model: string | null): string | null {
  if (!make || !model) return model ?? make;
  return model.toLowerCase().startsWith(make.toLowerCase().split(' ')[0]) ? model : `${make} ${model}`;
}

const TAGS = ['DateTimeOriginal', 'CreateDate', 'Make', 'Model', 'Artist', 'Creator', 'By-line'] as const;

/** Reads what a file of any kind tells (Exif, XMP, IPTC); nothing where it cannot be read. */
export async function cameraNotes(path: string): Promise<CameraNotes> {
  try {
    const options = ['-j', '-charset', 'exif=utf8', '-sep', ', ', ...TAGS.map(tag => `-${tag}`)];
    const [told] = JSON.parse((await exiftool([...options, path])).toString()) as Record<string, unknown>[];
    return {
      taken: clock(told.DateTimeOriginal) ?? clock(told.CreateDate),
      camera: cameraOf(line(told.Make), line(told.Model)),
      author: line(told.Artist) ?? line(told.Creator) ?? line(told['By-line']),
    };
  } catch {
    return NONE;
  }
}
