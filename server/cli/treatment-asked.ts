import { readFile } from 'node:fs/promises';
import { layTreatment } from '../../core/treatment/laying';
import { LOOK_FORMAT, readLooks } from '../../core/treatment/looks';
import { bareTreatment, TreatmentError, type Treatment } from '../../core/treatment/treatment';
import { CommandError, readingProblem } from './command';
import { treatmentAt } from './treatment-file';

/** The treatment that a command is given: a treatment, a look on it, and how strong. */

export const TREATMENT_OPTIONS = {
  treatment: { type: 'string' },
  look: { type: 'string' },
  strength: { type: 'string' },
} as const;

export const TREATMENT_HELP = `  --treatment    a treatment file (.treatment.json)
  --look         a file of looks, or of one treatment, laid on as a look; of several looks FILE#NAME
  --strength     0 to 100 per cent: of the look where there is one, else of the whole treatment (100)`;

/** A look by the name of its file; of several in it by its name behind a #. Throws a CommandError. */
async function lookAt(given: string): Promise<{ name: string; treatment: Treatment }> {
  const [path, wanted] = given.includes('#') ? given.split(/#(.*)/s) : [given, undefined];
  let json: { format?: unknown };
  try {
    json = JSON.parse(await readFile(path, 'utf8')) as { format?: unknown };
  } catch (error) {
    const why = error instanceof SyntaxError ? `not JSON: ${error.message}` : readingProblem(error);
    throw new CommandError(`${path}: ${why}`);
  }
  if (json?.format !== LOOK_FORMAT) return { name: 'Look', treatment: await treatmentAt(path) };
  try {
    const looks = readLooks(json);
    const found = wanted === undefined ? looks : looks.filter(l => l.name === wanted);
    if (found.length === 1) return found[0];
    const names = looks.map(l => l.name).join(', ');
    throw new CommandError(`${path}: which look? It holds ${names}; name one as ${path}#NAME`);
  } catch (error) {
    if (error instanceof TreatmentError) throw new CommandError(`${path}: ${error.message}`);
    throw error;
  }
}

/** Throws a CommandError where none is given, or one is wrong. */
export async function treatmentAsked(values: Record<string, string | undefined>): Promise<Treatment> {
  const { treatment: path, look, strength: text = '100' } = values;
  if (path === undefined && look === undefined) {
    throw new CommandError('--treatment: give the treatment file, or a look (--help tells more)');
  }
  const percent = /^\d+(\.\d+)?$/.test(text) ? Number(text) : NaN;
  if (!(percent >= 0 && percent <= 100)) {
    throw new CommandError(`--strength: must be from 0 to 100, not ${text}`);
  }
  const base = path === undefined ? bareTreatment() : await treatmentAt(path);
  const strength = percent / 100;
  if (look === undefined) return { ...base, strength: base.strength * strength };
  const { name, treatment } = await lookAt(look);
  try {
    const laying = { how: 'added', frame: false, painted: false, as: { name, strength } } as const;
    return layTreatment(base, treatment, laying).treatment;
  } catch (error) {
    if (error instanceof RangeError) throw new CommandError(`${look}: ${error.message}`);
    throw error;
  }
}

/** The files that it is read from. */
export const filesAsked = ({ treatment, look }: Record<string, string | undefined>): string[] =>
  [treatment, look?.split('#')[0]].filter(path => path !== undefined);
