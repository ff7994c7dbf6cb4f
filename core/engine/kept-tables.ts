import { covers, OCCUPIED_BYTES, type Occupied } from '../kernels/occupied';
import type { Baked } from './bake';

/** Baked tables, kept for as long as they are the last used, so that moving one control bakes only what it changes. */

export type KeptTable = readonly [key: string, baked: Baked];

export interface KeptTables {
  /**
   * The table of a key: kept, or baked now. None serves where a fine one would be off: then steps run exactly.
   * @param occupied the colours that are to be read; null where any may be
   * @param bake is given the colours that the table is to hold, and the kept one that holds others
   */
  of: (
    key: string,
    draft: boolean,
    bake: (draft: boolean, occupied: Occupied | null, known: Baked | null) => Baked,
    occupied?: Occupied | null,
  ) => Baked;
  /** Begins another plan. */
  begin: () => void;
  /** Those that were asked for since, to be handed to others. */
  asked: () => KeptTable[];
  /** Takes in tables that others baked. */
  learn: (tables: readonly KeptTable[]) => void;
}

/** How much memory a table takes, with the colours that it holds. */
export function bytesOfTable({ table, occupied }: Baked): number {
  const held = occupied ? OCCUPIED_BYTES : 0;
  if (table.kind === 'grid') return table.grid.values.byteLength + held;
  return table.kind === 'ramp' ? table.ramp.values.byteLength : 1;
}

/** Bytes of tables kept at most: a hundred steps of colours would otherwise keep a gigabyte. */
const MOST_BYTES = 256 * 1024 * 1024;

/**
 * @param most tables kept
 * @param mostBytes of all of them together; the last one is kept whatever it takes
 */
export function keepTables(most: number, mostBytes = MOST_BYTES): KeptTables {
  const kept = new Map<string, { baked: Baked; bytes: number }>();
  const asked = new Map<string, Baked>();
  let bytes = 0;
  const drop = (key: string) => {
    bytes -= kept.get(key)?.bytes ?? 0;
    kept.delete(key);
  };
  const remember = (key: string, make: (known?: Baked) => Baked): Baked => {
    const baked = make(kept.get(key)?.baked);
    drop(key);
    kept.set(key, { baked, bytes: bytesOfTable(baked) });
    bytes += bytesOfTable(baked);
    while (kept.size > most || (bytes > mostBytes && kept.size > 1)) drop(kept.keys().next().value!);
    return baked;
  };
  const holds = ({ occupied }: Baked, wanted: Occupied | null) =>
    !occupied || (wanted !== null && covers(occupied, wanted));
  return {
    of: (key, draft, bake, occupied = null) => {
      const fine = kept.get(`fine ${key}`)?.baked;
      // A fine table that is kept serves a draft as well.
      if (draft && !(fine && holds(fine, occupied))) {
        const coarse = remember(`draft ${key}`, known => known ?? bake(true, null, null));
        asked.set(`draft ${key}`, coarse);
        return coarse;
      }
      const table = remember(`fine ${key}`, known => {
        if (known && holds(known, occupied)) return known;
        return bake(false, occupied, known?.occupied && occupied ? known : null);
      });
      asked.set(`fine ${key}`, table);
      return table.fine ? table : { table: { kind: 'exact' }, fine: true };
    },
    begin: () => asked.clear(),
    asked: () => [...asked],
    learn: tables => {
      for (const [key, table] of tables) remember(key, known => (known && !known.occupied ? known : table));
    },
  };
}
