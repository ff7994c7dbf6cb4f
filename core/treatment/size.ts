/** How large a treatment is as JSON, known at once after a change. */

const known = new WeakMap<object, number>();

/** The characters of a JSON value; what is one object with something measured before is not measured again. */
export function jsonLength(value: unknown): number {
  if (typeof value !== 'object' || value === null) return JSON.stringify(value).length;
  const found = known.get(value);
  if (found !== undefined) return found;
  let length = 2;
  if (Array.isArray(value)) {
    // Points and numbers: too many and too small to be remembered one by one.
    const isPlain = typeof value[0] !== 'object' || Array.isArray(value[0]);
    if (isPlain) length = JSON.stringify(value).length;
    else
      length += value.reduce((sum: number, each) => sum + jsonLength(each) + 1, 0) - (value.length ? 1 : 0);
  } else {
    const entries = Object.entries(value).filter(([, each]) => each !== undefined);
    for (const [name, each] of entries) length += JSON.stringify(name).length + 1 + jsonLength(each);
    length += Math.max(0, entries.length - 1);
  }
  known.set(value, length);
  return length;
}
