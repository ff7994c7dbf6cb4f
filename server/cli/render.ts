import { basename } from 'node:path';
import { inspect } from '../pictures/inspect';
import { decodePicture } from '../pictures/decode';
import { CommandError, readArguments, refuseOver, runCommand, writeOut } from './command';
import { isFolder, jobsAsked, makeMany, MANY_OPTIONS, namesIn } from './many';
import { endingOf, OUTPUT_HELP, OUTPUT_OPTIONS, outputAsked } from './output-asked';
import { picturePaths } from './picture-paths';
import { filesAsked, TREATMENT_HELP, TREATMENT_OPTIONS, treatmentAsked } from './treatment-asked';

const HELP = `Renders a treatment of pictures to files, without database or browser.

  npm run --silent render -- PICTURE --treatment FILE --out PICTURE [options]
  npm run --silent render -- PICTURE|FOLDER … --treatment FILE --out FOLDER/ [--jobs N] [options]

  PICTURE        JPEG, PNG, TIFF, WebP, AVIF, HEIC, JPEG XL, JPEG 2000, GIF, BMP or a camera’s raw file
${TREATMENT_HELP}
  --out          the file to write, its ending picks its format: jpg, png, tif, webp, avif, ora;
                 or a folder for one file of each picture
  --jobs         pictures made at once (2)
${OUTPUT_HELP}
  --json         say what was written as one line of JSON

Ends with 0; with 1 where some of several pictures could not be made, each named; or with 2 and one
line that says what is wrong: then nothing is written. Never writes over what it reads.
`;

async function render(): Promise<void> {
  const read = readArguments({ ...TREATMENT_OPTIONS, ...OUTPUT_OPTIONS, ...MANY_OPTIONS }, HELP);
  if (!read) return;
  const { values, positionals } = read;
  if (!positionals.length) throw new CommandError('give one picture to render (--help tells more)');
  const { out } = values;
  const inputs = filesAsked(values);
  if (!inputs.length) await treatmentAsked(values);
  if (!out) throw new CommandError('--out: give the file to write (--help tells more)');
  const intoFolder = await isFolder(out);
  if (positionals.length > 1 && !intoFolder) {
    throw new CommandError(`${out}: of several pictures give a folder to write into, as ${out}/`);
  }
  const settings = outputAsked(values, intoFolder ? null : out);
  const finish = {
    settings,
    says: ['metadata', 'author', 'rights', 'dpi'].some(name => values[name] !== undefined),
    author: values.author ?? '',
    rights: values.rights ?? '',
    treatmentName: basename(inputs[0]).replace(/\.treatment\.json$|\.json$/, ''),
  };
  if (!intoFolder) {
    const [picture] = positionals;
    await refuseOver(out, picture, ...inputs);
    // The picture is decoded while the engine is loaded and the treatment is read.
    const inspecting = inspect(picture);
    const decoding = inspecting.then(facts => decodePicture(picture, facts));
    decoding.catch(() => undefined);
    inspecting.catch(() => undefined);
    const { Maker } = await import('./maker');
    const maker = new Maker();
    const treatment = await treatmentAsked(values);
    const opened = await maker.open(picture, inspecting, decoding, facts =>
      maker.bakeAhead(facts, treatment, settings),
    );
    const file = await maker.file(opened, treatment, finish);
    await writeOut(out, file);
    if (values.json) {
      process.stdout.write(
        `${JSON.stringify({ written: [{ picture, file: out, bytes: file.length }], failed: [] })}\n`,
      );
    }
    return;
  }
  const pictures = await picturePaths(positionals);
  const jobs = jobsAsked(values.jobs);
  const treatment = await treatmentAsked(values);
  const files = await namesIn(out, pictures, endingOf(settings));
  const { Maker } = await import('./maker');
  const maker = new Maker();
  const pairs = pictures.map((picture, i) => [picture, files[i]] as const);
  await makeMany(pairs, inputs, jobs, Boolean(values.json), async picture =>
    maker.file(await maker.open(picture), treatment, finish),
  );
}

await runCommand(render);
