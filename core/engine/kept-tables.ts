import { covers, type Occupied } from '../kernels/occupied';
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

/** @param most tables kept */
export function keepTables(most: number): KeptTables {
  const kept = new Map<string, Baked>();
  const asked = new Map<string, Baked>();
  const remember = (key: string, make: (known?: Baked) => Baked): Baked => {
    const known = kept.get(key);
    const baked = make(known);
    kept.delete(key);
    kept.set(key, baked);
    if (kept.size > most) kept.delete(kept.keys().next().value!);
    return baked;
  };
  const holds = ({ occupied }: Baked, wanted: Occupied | null) =>
    !occupied || (wanted !== null && covers(occupied, wanted));
  return {
    of: (key, draft, bake, occupied = null) => {
      const fine = kept.get(`fine ${key}`);
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
