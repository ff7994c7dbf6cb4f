import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { eachOnce, slug } from '../../contract/file-name';
import { LARGEST_AREA } from '../../contract/limits';
import { asPhotographed } from '../../core/frame/crop';
import { showingArea } from '../../core/treatment/areas';
import { CommandError, readArguments, readingProblem, refuseOver, runCommand, writeOut } from './command';
import { Maker } from './maker';
import { ProgressLine } from './progress';
import { filesAsked, TREATMENT_HELP, TREATMENT_OPTIONS, treatmentAsked } from './treatment-asked';

const HELP = `Writes the areas of a treatment as grey PNGs of a picture: white is all of it.

  npm run --silent areas -- PICTURE --treatment FILE --out FOLDER/ [--json]

${TREATMENT_HELP}
  --out          the folder to write into; each file is called as its area
  --json         say what was written as one line of JSON

Ends with 0, or with 2 and one line that says what is wrong.
`;

async function areas(): Promise<void> {
  const read = readArguments(
    { ...TREATMENT_OPTIONS, out: { type: 'string' }, json: { type: 'boolean' } },
    HELP,
  );
  if (!read) return;
  const { values, positionals } = read;
  if (positionals.length !== 1) throw new CommandError('give one picture (--help tells more)');
  const [picture] = positionals;
  const { out } = values;
  if (!out) throw new CommandError('--out: give the folder to write into (--help tells more)');
  const treatment = await treatmentAsked(values);
  const { masks } = treatment;
  if (!masks.length) throw new CommandError(`${filesAsked(values)[0]}: there is no area in it`);
  await mkdir(out, { recursive: true }).catch((error: unknown) => {
    throw new CommandError(`${out}: ${readingProblem(error)}`);
  });
  const files = eachOnce(masks.map(m => `${slug(m.name) || 'area'}.png`)).map(name => join(out, name));
  for (const file of files) await refuseOver(file, picture, ...filesAsked(values));
  const maker = new Maker();
  const opened = await maker.open(picture);
  const edge = Math.min(LARGEST_AREA, Math.max(opened.facts.width, opened.facts.height));
  const progress = new ProgressLine();
  for (const [i, area] of masks.entries()) {
    progress.say(`${i + 1} of ${masks.length}: ${area.name}`);
    const shown = showingArea({ ...treatment, frame: asPhotographed }, area.id, 'grey', '#ffffff');
    const job = await maker.jobOf(opened, edge, shown);
    const { codes, width, height } = await maker.renderer.render({ ...job, bits: 8, profile: 'grey' });
    const png = await sharp(codes, { raw: { width, height, channels: 1 } })
      .toColourspace('b-w')
      .png({ compressionLevel: 6 })
      .toBuffer();
    await writeOut(files[i], png);
  }
  progress.clear();
  if (values.json) {
    const written = masks.map((area, i) => ({ area: area.name, file: files[i] }));
    process.stdout.write(`${JSON.stringify({ written })}\n`);
  }
}

await runCommand(areas);
