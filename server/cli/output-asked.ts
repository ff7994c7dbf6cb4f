import { extname } from 'node:path';
import { sendOutSettings, type SendOutSettings } from '../../contract/send-outs';
import { firstIssue } from '../../core/treatment/schema';
import { formatNamed, formatOfEnding, formats, impossible } from '../pictures/formats';
import { CommandError, wholeNumber } from './command';

/** How files are to be, as a command is asked for it: all that sending out can. */

export const OUTPUT_OPTIONS = {
  format: { type: 'string' },
  'long-edge': { type: 'string' },
  'short-edge': { type: 'string' },
  megapixels: { type: 'string' },
  print: { type: 'string' },
  dpi: { type: 'string' },
  profile: { type: 'string' },
  bits: { type: 'string' },
  quality: { type: 'string' },
  chroma: { type: 'string' },
  progressive: { type: 'boolean' },
  packing: { type: 'string' },
  sharpen: { type: 'string' },
  border: { type: 'string' },
  metadata: { type: 'string' },
  author: { type: 'string' },
  rights: { type: 'string' },
} as const;

export const OUTPUT_HELP = `  --format       where the out is a folder: jpg, png, tif, webp, avif; or ora, with the steps as layers (jpg)
  --long-edge    pixels of the long edge, never enlarged (full size); or --short-edge N,
                 --megapixels N, or --print 30cm or 12inch, the long edge on paper at --dpi
  --dpi          dots an inch that are written (300)
  --profile      the embedded profile: srgb, display-p3, wide, grey, grey-gamma (srgb)
  --bits         16 for png and tif, 10 for avif (8)
  --quality      1 to 100, for jpg, webp and avif (90)
  --chroma       kept or halved (kept from a quality of 90)
  --progressive  a jpg that shows coarsely at first
  --packing      of tif: none, deflate or lzw (lzw)
  --sharpen      screen, matte or glossy, perhaps with an amount of 0 to 100, as screen:35
  --border       white or paper about it, and per cent of the long edge, as white:5
  --metadata     all that the original tells, rights, or none (none)
  --author, --rights   whose it is, where metadata tell of it`;

type Values = Record<string, string | undefined>;
const listed = formats.map(f => f.ending);
const endings = `${listed.slice(0, -1).join(', ')} or ${listed.at(-1)}`;

const number = (text: string, name: string): number => {
  const value = /^\d+(\.\d+)?$/.test(text) ? Number(text) : NaN;
  if (Number.isNaN(value)) throw new CommandError(`${name}: must be a number, not ${text}`);
  return value;
};

function sizeAsked(values: Values): object {
  const given = ['long-edge', 'short-edge', 'megapixels', 'print'].filter(name => values[name] !== undefined);
  if (given.length > 1) throw new CommandError(`--${given[1]}: the size is given by --${given[0]} already`);
  const [by] = given;
  const text = values[by] ?? '';
  if (by === 'long-edge' || by === 'short-edge') {
    return { by, pixels: wholeNumber(text, `--${by}`, 1, Number.MAX_SAFE_INTEGER) };
  }
  if (by === 'megapixels') return { by, megapixels: number(text, '--megapixels') };
  if (by === 'print') {
    const found = /^(\d+(?:\.\d+)?)(cm|inch|in)$/.exec(text);
    if (!found) throw new CommandError(`--print: must be a length as 30cm or 12inch, not ${text}`);
    return { by, length: Number(found[1]), unit: found[2] === 'cm' ? 'cm' : 'inch' };
  }
  return { by: 'full' };
}

/** A word, and perhaps a number behind a colon. */
function wordAndPercent(text: string, name: string): [string, number | undefined] {
  const [word, percent] = text.split(/:(.*)/s);
  return [word, percent === undefined ? undefined : number(percent, name) / 100];
}

/** What an issue of the settings' schema is about, as the option is called. */
const optionOf = (path: string) => `--${path.split('.')[0].replace('size', 'long-edge')}`;

/**
 * The settings of a file, all that is wrong with them said by the option. Throws a CommandError.
 * @param out the file; null where it is a folder, and the format says its ending
 */
export function outputAsked(values: Values & { progressive?: unknown }, out: string | null): SendOutSettings {
  const ending = out === null ? (values.format ?? 'jpg') : extname(out).toLowerCase().slice(1);
  const format = formatOfEnding(ending);
  if (out !== null && values.format !== undefined && formatOfEnding(values.format) !== format) {
    throw new CommandError(`--format: is ${values.format}, but ${out} ends otherwise`);
  }
  if (!format) {
    const what = out ?? '--format';
    throw new CommandError(`${what}: ${out === null ? 'must be' : 'its ending must be'} ${endings}`);
  }
  const { profile, bits = '8', quality = '90', packing, metadata = 'none', dpi } = values;
  const [purpose, amount] = values.sharpen ? wordAndPercent(values.sharpen, '--sharpen') : ['none'];
  const [colour, width] = values.border ? wordAndPercent(values.border, '--border') : ['white', 0];
  const asked = {
    format: format.name,
    bits: number(bits, '--bits'),
    quality: wholeNumber(quality, '--quality', 1, 100),
    // As the contract has it: colour at half the size below a quality of 90.
    chroma: values.chroma ?? (Number(quality) >= 90 ? 'kept' : 'halved'),
    progressive: Boolean(values.progressive),
    size: sizeAsked(values),
    sharpen: { purpose, ...(amount !== undefined && { amount }) },
    border: { colour, width: width ?? 0.03 },
    metadata,
    ...(profile && { profile }),
    ...(packing && { packing }),
    ...(dpi && { dpi: number(dpi, '--dpi') }),
  };
  const read = sendOutSettings.safeParse(asked);
  if (!read.success) {
    const { path, reason } = firstIssue(read.error);
    throw new CommandError(`${optionOf(path)}: ${reason}`);
  }
  const problem = impossible(read.data);
  if (problem) throw new CommandError(`${out ?? '--format'}: ${problem}`);
  return read.data;
}

/** The ending of files of a format. */
export const endingOf = (settings: SendOutSettings): string => formatNamed(settings.format).ending;
