/** A name for an area that has none, or one that is taken: `Area 2`, `Hull 2`. */
export const wordsOf = (name: string, n: number): string =>
  name.trim() === '' ? `Area ${n}` : `${name.trim().slice(0, 110)} ${n + 1}`;
