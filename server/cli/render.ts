import { extname } from 'node:path';
import { LONGEST_EDGE } from '../../contract/limits';
import { decodePicture } from '../pictures/decode';
import type { FileSettings } from '../pictures/encode';
import { formatOfEnding, formats, impossible } from '../pictures/formats';
import { inspect } from '../pictures/inspect';
import { CommandError, readArguments, refuseOver, runCommand, wholeNumber, writeOut } from './command';

const HELP = `Renders a treatment of a picture to a file, without database or browser.

  npm run --silent render -- PICTURE --treatment FILE --out PICTURE
      [--long-edge N] [--profile srgb|display-p3|grey] [--bits 8|16] [--quality N]

  PICTURE        JPEG, PNG, TIFF, WebP or AVIF
  --treatment    a treatment file (.treatment.json)
  --out          the file to write; its ending picks its format: jpg, png, tif, webp, avif
  --long-edge    pixels of the long edge, never enlarged (full size)
  --profile      the embedded profile (srgb)
  --bits         16 for png and tif (8)
  --quality      1 to 100, for jpg, webp and avif (90)

Ends with 0, or with 2 and one line that says what is wrong; then nothing is written.
`;

const listed = formats.map(f => f.ending);
const endings = `${listed.slice(0, -1).join(', ')} or ${listed.at(-1)}`;

function readSettings(values: Record<string, string | undefined>, out: string): FileSettings {
  const format = formatOfEnding(extname(out).toLowerCase().slice(1));
  if (!format) throw new CommandError(`${out}: its ending must be ${endings}`);
  const { profile = 'srgb', bits = '8', quality = '90' } = values;
  if (profile !== 'srgb' && profile !== 'display-p3' && profile !== 'grey') {
    throw new CommandError(`--profile: must be srgb, display-p3 or grey, not ${profile}`);
  }
  if (bits !== '8' && bits !== '16') throw new CommandError(`--bits: must be 8 or 16, not ${bits}`);
  const settings: FileSettings = {
    format: format.name,
    profile,
    bits: bits === '16' ? 16 : 8,
    quality: wholeNumber(quality, '--quality', 1, 100),
    // As the contract has it: colour at half the size below a quality of 90.
    chroma: Number(quality) >= 90 ? 'kept' : 'halved',
    progressive: false,
    packing: 'lzw',
  };
  const problem = impossible(settings);
  if (problem) throw new CommandError(`${out}: ${problem}`);
  return settings;
}

async function render(): Promise<void> {
  const text = { type: 'string' } as const;
  const read = readArguments(
    { treatment: text, out: text, 'long-edge': text, profile: text, bits: text, quality: text },
    HELP,
  );
  if (!read) return;
  const { values, positionals } = read;
  const [picture] = positionals;
  if (positionals.length !== 1) throw new CommandError('give one picture to render (--help tells more)');
  const { treatment: treatmentPath, out } = values;
  if (!treatmentPath) throw new CommandError('--treatment: give the treatment file (--help tells more)');
  if (!out) throw new CommandError('--out: give the file to write (--help tells more)');
  const settings = readSettings(values, out);
  await refuseOver(out, picture, treatmentPath);
  const wanted = values['long-edge'];
  const longEdge = wanted === undefined ? null : wholeNumber(wanted, '--long-edge', 1, LONGEST_EDGE);
  // The picture is decoded while the engine is loaded and the treatment is read.
  const inspecting = inspect(picture);
  const decoding = inspecting.then(facts => decodePicture(picture, facts));
  decoding.catch(() => undefined);
  const { rendered } = await import('./rendered');
  const file = await rendered({ picture, inspecting, decoding, treatmentPath, longEdge, settings });
  await writeOut(out, file);
}

await runCommand(render);
