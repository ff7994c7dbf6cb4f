import { readCube, type CubeTable } from './cube';

const readTables = new Map<string, CubeTable>();

/** The table of a .cube text, read once. Throws a CubeError. */
export function tableOf(text: string): CubeTable {
  let table = readTables.get(text);
  if (!table) {
    table = readCube(text);
    readTables.set(text, table);
    if (readTables.size > 16) readTables.delete(readTables.keys().next().value!);
  }
  return table;
}
