import { basename, extname } from 'node:path';
import sharp from 'sharp';
import { sheetSettings } from '../../contract/sheets';
import { firstIssue } from '../../core/treatment/schema';
import { bareTreatment, type Treatment } from '../../core/treatment/treatment';
import { photographEdge } from '../../core/frame/geometry';
import type { Pictured } from '../sheets/contact-sheet';
import { drawSheet } from '../sheets/draw-sheet';
import { CommandError, readArguments, refuseOver, runCommand, writeOut } from './command';
import { Maker, type Opened } from './maker';
import { picturePaths } from './picture-paths';
import { ProgressLine } from './progress';
import { filesAsked, TREATMENT_HELP, TREATMENT_OPTIONS, treatmentAsked } from './treatment-asked';

const HELP = `Lays pictures on paper in rows, to be printed: as they are, treated, or each beside its treated one.

  npm run --silent sheet -- PICTURE|FOLDER … --out FILE.pdf [--treatment FILE] [options]

${TREATMENT_HELP}
                 without any the pictures are bare
  --out          the file to write: pdf, or png or jpg, then each page is a file of its own
  --title        what stands at the top (the name of the file)
  --pairs        each picture bare, and treated beside it
  --paper        a4, a3 or letter (a4)
  --lying        the long edge of the paper lies
  --margin       millimetres, 5 to 40 (15)
  --columns      pictures beside one another, 1 to 8 (3)
  --no-captions  the pictures alone
  --json         say what was written as one line of JSON

Ends with 0, or with 2 and one line that says what is wrong; then nothing is written.
`;

/** The pictures of a sheet have so many pixels along their long edge: 300 dots an inch at 8 cm. */
const EDGE = 960;
const kinds: Record<string, 'pdf' | 'png' | 'jpeg'> = {
  '.pdf': 'pdf',
  '.png': 'png',
  '.jpg': 'jpeg',
  '.jpeg': 'jpeg',
};

async function sheet(): Promise<void> {
  const text = { type: 'string' } as const;
  const yes = { type: 'boolean' } as const;
  const read = readArguments(
    {
      ...TREATMENT_OPTIONS,
      out: text,
      title: text,
      paper: text,
      margin: text,
      columns: text,
      pairs: yes,
      lying: yes,
      'no-captions': yes,
      json: yes,
    },
    HELP,
  );
  if (!read) return;
  const { values, positionals } = read;
  if (!positionals.length) throw new CommandError('give the pictures (--help tells more)');
  const { out } = values;
  if (!out) throw new CommandError('--out: give the file to write (--help tells more)');
  const ending = extname(out).toLowerCase();
  const as = kinds[ending];
  if (!as) throw new CommandError(`${out}: its ending must be pdf, png or jpg`);
  const inputs = filesAsked(values);
  if (values.pairs && !inputs.length) throw new CommandError('--pairs: give a treatment or a look too');
  const treatment = inputs.length ? await treatmentAsked(values) : bareTreatment();
  const checked = sheetSettings.safeParse({
    as,
    lying: Boolean(values.lying),
    captions: !values['no-captions'],
    ...(values.paper && { paper: values.paper }),
    ...(values.margin && { margin: Number(values.margin) }),
    ...(values.columns && { columns: Number(values.columns) }),
  });
  if (!checked.success) {
    const { path, reason } = firstIssue(checked.error);
    throw new CommandError(`--${path}: ${reason}`);
  }
  const settings = checked.data;
  const pictures = await picturePaths(positionals);
  await refuseOver(out, ...pictures, ...inputs);

  const maker = new Maker();
  const small = async (picture: Opened, of: Treatment) => {
    const edge = photographEdge(picture.facts, of.frame, EDGE);
    const rendered = await maker.renderer.render({
      ...(await maker.jobOf(picture, edge, of)),
      bits: 8,
      profile: 'srgb',
    });
    const { codes, width, height } = rendered;
    return sharp(codes, { raw: { width, height, channels: 3 } })
      .jpeg({ quality: 90 })
      .toBuffer();
  };
  const progress = new ProgressLine();
  const shown: Pictured[] = [];
  const shapes: number[] = [];
  for (const [i, path] of pictures.entries()) {
    progress.say(`${i + 1} of ${pictures.length}: ${basename(path)}`);
    const picture = await maker.open(path);
    shapes.push(picture.facts.width / picture.facts.height);
    const title = basename(path, extname(path));
    const number = String(i + 1);
    const treated = { jpeg: await small(picture, treatment), number, title, note: '' };
    if (values.pairs) {
      const bare = { ...bareTreatment(), frame: treatment.frame };
      shown.push({ jpeg: await small(picture, bare), number, title, note: 'As it came' });
      shown.push({ ...treated, number: '', title: '', note: 'Treated' });
    } else shown.push(treated);
  }
  progress.clear();
  const title = values.title ?? basename(out, ending);
  const columns = values.pairs ? Math.max(2, settings.columns - (settings.columns % 2)) : settings.columns;
  const shape = shapes.toSorted((a, b) => a - b)[shapes.length >> 1];
  const date = new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });
  const how = { ...settings, columns, shape };
  const files = await drawSheet({ title, as, what: 'pictures', date, pictures: shown, how });
  const names = files.map((_, i) =>
    files.length > 1 ? `${out.slice(0, -ending.length)}-${String(i + 1).padStart(2, '0')}${ending}` : out,
  );
  for (const name of names) await refuseOver(name, ...pictures, ...inputs);
  for (const [i, { bytes }] of files.entries()) await writeOut(names[i], Buffer.from(bytes));
  if (values.json) process.stdout.write(`${JSON.stringify({ written: names, pictures: pictures.length })}\n`);
}

await runCommand(sheet);
