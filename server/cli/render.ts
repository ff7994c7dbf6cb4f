import { extname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { LONGEST_EDGE } from '../../contract/limits';
import { framedSize, photographEdge, sizeAt } from '../../core/frame/geometry';
import { surveyEdge } from '../../core/engine/survey';
import { decodePicture, type resizePixels } from '../pictures/decode';
import type { FileSettings } from '../pictures/encode';
import { formatOfEnding, formats, impossible } from '../pictures/formats';
import { inspect, PictureError } from '../pictures/inspect';
import { smaller } from '../pictures/store';
import { renderFile } from '../render/file';
import { Renderer } from '../render/renderer';
import {
  CommandError,
  readArguments,
  refuseOver,
  runCommand,
  treatmentAt,
  wholeNumber,
  writeOut,
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
  // Threads start, and the picture is decoded, while the treatment is read.
  const renderer = new Renderer(fileURLToPath(new URL('./band-worker.mjs', import.meta.url)), { ready: 2 });
  const inspecting = inspect(picture);
  const decoding = inspecting.then(facts => decodePicture(picture, facts));
  decoding.catch(() => undefined);
  const treatment = await treatmentAt(treatmentPath);

  let file: Buffer;
  try {
    const facts = await inspecting;
    const edge = photographEdge(facts, treatment.frame, longEdge ?? Math.max(facts.width, facts.height));
    const size = framedSize(sizeAt(facts, edge), treatment.frame);
    renderer.bakeAhead(treatment, facts.grey, size.width * size.height);
    const full = await decoding;
    if (full.damage) throw new PictureError(`is damaged: ${full.damage}`);
    const inThreads: typeof resizePixels = (of, width, height) => renderer.resize(of, width, height);
    const pixels = await smaller(full, edge, inThreads);
    const survey = () => smaller(full, surveyEdge(edge), inThreads);
    const job = { pixels, survey, grey: facts.grey, treatment, bits: settings.bits };
    file = await renderFile(renderer, job, settings);
  } catch (error) {
    if (error instanceof PictureError) throw new CommandError(`${picture}: ${error.message}`);
    throw error;
  }
  await writeOut(out, file);
}

await runCommand(render);
