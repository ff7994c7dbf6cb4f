/** Where a method was left on a take, kept in this browser: it is taken up there again. */

const KEY = 'lampwash.methods';
/** Takes that are remembered, the newest at the end. */
const MOST = 200;

export interface Left {
  method: string;
  page: string;
}

type Kept = [takeId: string, left: Left][];

function all(): Kept {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(found)
      ? (found as Kept).filter(each => Array.isArray(each) && each.length === 2)
      : [];
  } catch {
    return [];
  }
}

/** The method that was last on a take, and its page; null where none was. */
export const leftAt = (takeId: string): Left | null => all().find(([id]) => id === takeId)?.[1] ?? null;

/** Remembers where a method is; null once it is done. */
export function leaveAt(takeId: string, left: Left | null): void {
  const rest = all().filter(([id]) => id !== takeId);
  const kept: Kept = left ? [...rest, [takeId, left]] : rest;
  try {
    localStorage.setItem(KEY, JSON.stringify(kept.slice(-MOST)));
  } catch {
    // Nothing is lost but the place: the steps tell how far the method is.
  }
}
