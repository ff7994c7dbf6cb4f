/** Numbers that look thrown, and are the same for the same seed (mulberry32, T. Ettinger). */
export interface Random {
  /** 0 up to 1. */
  next: () => number;
  /** A whole number below `most`. */
  below: (most: number) => number;
  oneOf: <T>(list: readonly T[]) => T;
  chance: (share: number) => boolean;
}

export function randomOf(seed: number): Random {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
  const below = (most: number) => Math.floor(next() * most);
  return { next, below, oneOf: list => list[below(list.length)], chance: share => next() < share };
}
