import { extname } from 'node:path';
import { cubeOf } from '../../core/engine/cube';
import { writeCube } from '../../core/formats/cube';
import { CommandError, readArguments, refuseOver, runCommand, wholeNumber, writeOut } from './command';
import { filesAsked, TREATMENT_HELP, TREATMENT_OPTIONS, treatmentAsked } from './treatment-asked';

const HELP = `Writes a treatment as a 3D colour table, where it can be one.

  npm run --silent cube -- --treatment FILE --out FILE.cube [--size 33]

${TREATMENT_HELP}
  --out          the .cube file to write
  --size         entries along each axis, 2 to 129 (33)

A treatment with masks, or with steps that look at neighbours or at the place of a pixel, cannot be a table:
the steps are named. The frame is left out. Ends with 0, or with 2 and one line; then nothing is written.
`;

async function cube(): Promise<void> {
  const text = { type: 'string' } as const;
  const read = readArguments({ ...TREATMENT_OPTIONS, out: text, size: text }, HELP);
  if (!read) return;
  const { out, size = '33' } = read.values;
  const inputs = filesAsked(read.values);
  if (read.positionals.length)
    throw new CommandError(`not understood: ${read.positionals[0]} (--help tells more)`);
  const [path] = inputs;
  if (!path) await treatmentAsked(read.values);
  if (!out) throw new CommandError('--out: give the file to write (--help tells more)');
  if (extname(out).toLowerCase() !== '.cube') throw new CommandError(`${out}: its ending must be cube`);
  const entries = wholeNumber(size, '--size', 2, 129);
  await refuseOver(out, ...inputs);
  const treatment = await treatmentAsked(read.values);
  let table;
  try {
    table = cubeOf(treatment, entries);
  } catch (error) {
    if (error instanceof RangeError) throw new CommandError(`${path}: ${error.message}`);
    throw error;
  }
  await writeOut(out, writeCube(table));
}

await runCommand(cube);
