/** Whether two JSON values say the same; parts that are one object are not looked into. */
export function jsonEqual(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const names = Object.keys(a).filter(name => (a as Record<string, unknown>)[name] !== undefined);
  const others = Object.keys(b).filter(name => (b as Record<string, unknown>)[name] !== undefined);
  return (
    names.length === others.length &&
    names.every(
      name =>
        Object.hasOwn(b, name) &&
        jsonEqual((a as Record<string, unknown>)[name], (b as Record<string, unknown>)[name]),
    )
  );
}
