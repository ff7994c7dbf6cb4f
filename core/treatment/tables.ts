import { titleOfCube } from '../formats/cube';
import type { Reference } from '../settings/fields';
import { changeSetting } from './edit';
import type { Treatment } from './treatment';

/** Colour tables that a treatment carries. */

/** A treatment that carries a table under its name (or a name like it), set in a step. */
export function carryTable(treatment: Treatment, stepId: string, name: string, table: Reference): Treatment {
  for (let n = 1; ; n++) {
    const id = n === 1 ? name : `${name} ${n}`;
    const there = Object.hasOwn(treatment.tables, id);
    if (there && treatment.tables[id].sha256 !== table.sha256) continue;
    const tables = there ? treatment.tables : { ...treatment.tables, [id]: table };
    return changeSetting({ ...treatment, tables }, stepId, ['table'], id);
  }
}

/** The longest name of a table that is kept. */
const LONGEST_NAME = 60;
/** A title stands before the numbers. */
const HEAD = 100_000;

/** What a table that is brought in is called: by its title, else as its file. */
export function nameOfTable(bytes: Uint8Array, fileName: string): string {
  const title = titleOfCube(new TextDecoder().decode(bytes.subarray(0, HEAD)));
  return (title || fileName.replace(/\.cube$/i, '')).trim().slice(0, LONGEST_NAME) || 'Table';
}
