import type { Baked } from './bake';

/** Baked tables, kept for as long as they are the last used, so that moving one control bakes only what it changes. */

export type KeptTable = readonly [key: string, baked: Baked];

export interface KeptTables {
  /** The table of a key: kept, or baked now. None serves where a fine one would be off: then steps run exactly. */
  of: (key: string, draft: boolean, bake: (draft: boolean) => Baked) => Baked;
  /** All that are kept, to be handed to others. */
  all: () => KeptTable[];
  /** Takes in tables that others baked. */
  learn: (tables: readonly KeptTable[]) => void;
}

/** @param most tables kept */
export function keepTables(most: number): KeptTables {
  const kept = new Map<string, Baked>();
  const remember = (key: string, make: () => Baked): Baked => {
    const baked = kept.get(key) ?? make();
    kept.delete(key);
    kept.set(key, baked);
    if (kept.size > most) kept.delete(kept.keys().next().value!);
    return baked;
  };
  return {
    of: (key, draft, bake) => {
      // A fine table that is kept serves a draft as well.
      if (draft && !kept.has(`fine ${key}`)) return remember(`draft ${key}`, () => bake(true));
      const table = remember(`fine ${key}`, () => bake(false));
      return table.fine ? table : { table: { kind: 'exact' }, fine: true };
    },
    all: () => [...kept],
    learn: tables => {
      for (const [key, table] of tables) remember(key, () => table);
    },
  };
}
