/** What neither a database nor a file can hold. */

/** Nothing that is kept is nested deeper. */
const DEEPEST = 100;

/** What in a value cannot be kept (a NUL, half of a character, something without end), and where; null where nothing. */
export function unwritable(value: unknown, at = '', depth = 0): string | null {
  const path = at ? `${at}: ` : '';
  if (typeof value === 'string') {
    const isBroken = value.includes('\0') || /\p{Surrogate}/u.test(value);
    return isBroken ? `${path}holds a character that cannot be kept` : null;
  }
  if (typeof value !== 'object' || value === null) return null;
  if (depth > DEEPEST) return `${at.split('.')[0]}: is nested too deeply`;
  for (const [name, each] of Object.entries(value)) {
    const found = unwritable(name, at) ?? unwritable(each, at ? `${at}.${name}` : name, depth + 1);
    if (found) return found;
  }
  return null;
}
