/** Ids that are free: `s4`, `s5`, … */
export function freshIds(prefix: string, taken: readonly string[]): () => string {
  const used = new Set(taken);
  let n = taken.length;
  return () => {
    let id: string;
    do id = `${prefix}${++n}`;
    while (used.has(id));
    used.add(id);
    return id;
  };
}
