import { readdir, stat } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { PICTURE_ENDINGS } from '../../contract/picture-files';
import { CommandError, readingProblem } from './command';

const endings = new Set<string>(PICTURE_ENDINGS);
const byName = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** The pictures that are named, and those that lie in folders that are named, in the order of their names. Throws a CommandError. */
export async function picturePaths(given: readonly string[]): Promise<string[]> {
  const found: string[] = [];
  for (const path of given) {
    const is = await stat(path).catch((error: unknown) => {
      throw new CommandError(`${path}: ${readingProblem(error)}`);
    });
    if (!is.isDirectory()) {
      found.push(path);
      continue;
    }
    const names = await readdir(path);
    const pictures = names.filter(
      name => !name.startsWith('.') && endings.has(extname(name).slice(1).toLowerCase()),
    );
    if (!pictures.length) throw new CommandError(`${path}: there is no picture in it`);
    found.push(...pictures.sort(byName.compare).map(name => join(path, name)));
  }
  return found;
}
