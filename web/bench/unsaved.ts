import { parseTreatment, type Treatment } from '../../core/treatment/schema';

/**
 * Edits that the server has not acknowledged, kept in this browser. Each window keeps its own, so that two
 * windows on one take do not overwrite each other's; those of a window that is gone are taken up by the next
 * that opens the take.
 */

export interface Unsaved {
  treatment: Treatment;
  label: string;
  /** The revision that the edit was made from. */
  revision: number;
}

const PREFIX = 'lampwash.unsaved.';
const LOCK = 'lampwash.window.';

const windowId = (() => {
  const known = sessionStorage.getItem('lampwash.window');
  const id = known ?? crypto.randomUUID();
  sessionStorage.setItem('lampwash.window', id);
  return id;
})();

// Held for as long as this window lives: that is how others see that it does.
void navigator.locks?.request(LOCK + windowId, () => new Promise(() => undefined));

const keyOf = (takeId: string, owner = windowId) => `${PREFIX}${takeId}.${owner}`;

/**
 * Keeps an edit for a take, or with null, drops what was kept.
 * @returns false where the browser has no room for it: then nothing is kept
 */
export function keepUnsaved(takeId: string, edit: Unsaved | null): boolean {
  const key = keyOf(takeId);
  if (!edit) {
    localStorage.removeItem(key);
    return true;
  }
  try {
    localStorage.setItem(key, JSON.stringify(edit));
    return true;
  } catch {
    // An older one would be taken for the newest.
    localStorage.removeItem(key);
    return false;
  }
}

/** The unsaved edit of this window for a take, or else that of a window that is gone. */
export async function findUnsaved(takeId: string): Promise<Unsaved | null> {
  const { held = [] } = (await navigator.locks?.query()) ?? {};
  const alive = new Set(held.map(lock => lock.name));
  const owners = Object.keys(localStorage)
    .filter(key => key.startsWith(`${PREFIX}${takeId}.`))
    .map(key => key.slice(PREFIX.length + takeId.length + 1))
    .filter(owner => owner === windowId || !alive.has(LOCK + owner))
    .sort((a, b) => Number(b === windowId) - Number(a === windowId));
  const [owner] = owners;
  if (!owner) return null;
  const text = localStorage.getItem(keyOf(takeId, owner));
  localStorage.removeItem(keyOf(takeId, owner));
  try {
    const edit = JSON.parse(text ?? 'null') as Unsaved | null;
    // Read anew, since an earlier version may have kept it.
    return edit && { ...edit, treatment: parseTreatment(edit.treatment) };
  } catch {
    return null;
  }
}
