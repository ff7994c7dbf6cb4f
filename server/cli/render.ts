import { rename, rm, writeFile } from 'node:fs/promises';
import { extname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { framedSize, photographEdge, sizeAt } from '../../core/frame/geometry';
import { surveyEdge } from '../../core/engine/survey';
import { decodePicture } from '../pictures/decode';
import { embedProfile } from '../pictures/embed';
import {
  encodePicture,
  impossible,
  profileBytes,
  type FileFormat,
  type FileSettings,
} from '../pictures/encode';
import { inspect, PictureError } from '../pictures/inspect';
import { LONGEST_EDGE } from '../pictures/limits';
import { smaller } from '../pictures/store';
import { Renderer } from '../render/renderer';
import {
  CommandError,
  readArguments,
  readingProblem,
  readTreatmentFile,
  runCommand,
  wholeNumber,
} from './command';

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

const formats: Record<string, FileFormat> = {
  '.jpg': 'jpeg',
  '.jpeg': 'jpeg',
  '.png': 'png',
  '.tif': 'tiff',
  '.tiff': 'tiff',
  '.webp': 'webp',
  '.avif': 'avif',
};

function readSettings(values: Record<string, string | undefined>, out: string): FileSettings {
  const format = formats[extname(out).toLowerCase()];
  if (!format) throw new CommandError(`${out}: its ending must be jpg, png, tif, webp or avif`);
  const { profile = 'srgb', bits = '8', quality = '90' } = values;
  if (profile !== 'srgb' && profile !== 'display-p3' && profile !== 'grey') {
    throw new CommandError(`--profile: must be srgb, display-p3 or grey, not ${profile}`);
  }
  if (bits !== '8' && bits !== '16') throw new CommandError(`--bits: must be 8 or 16, not ${bits}`);
  const settings: FileSettings = {
    format,
    profile,
    bits: bits === '16' ? 16 : 8,
    quality: wholeNumber(quality, '--quality', 1, 100),
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
  const wanted = values['long-edge'];
  const longEdge = wanted === undefined ? null : wholeNumber(wanted, '--long-edge', 1, LONGEST_EDGE);
  const treatment = await readTreatmentFile(treatmentPath);

  // Threads start while the picture is decoded.
  const renderer = new Renderer(fileURLToPath(new URL('./band-worker.mjs', import.meta.url)), { ready: 2 });
  let file: Buffer;
  try {
    const facts = await inspect(picture);
    const edge = photographEdge(facts, treatment.frame, longEdge ?? Math.max(facts.width, facts.height));
    const size = framedSize(sizeAt(facts, edge), treatment.frame);
    const tables = renderer.bake(treatment, facts.grey, size.width * size.height);
    const full = await decodePicture(picture, facts);
    const pixels = await smaller(full, edge);
    const survey = () => smaller(full, surveyEdge(edge));
    const job = {
      tables,
      pixels,
      survey,
      grey: facts.grey,
      treatment,
      bits: settings.bits,
      profile: settings.profile,
    };
    if (settings.format === 'jpeg') {
      const jpeg = await renderer.renderJpeg(job, settings.quality);
      file = embedProfile(jpeg, 'jpeg', await profileBytes(settings.profile));
    } else {
      const { codes, width, height } = await renderer.render(job);
      file = await encodePicture(codes, width, height, settings);
    }
  } catch (error) {
    if (error instanceof PictureError) throw new CommandError(`${picture}: ${error.message}`);
    throw error;
  }
  const part = `${out}.${process.pid}.part`;
  try {
    await writeFile(part, file);
    await rename(part, out);
  } catch (error) {
    await rm(part, { force: true });
    throw new CommandError(`${out}: ${readingProblem(error)}`);
  }
}

await runCommand(render);
