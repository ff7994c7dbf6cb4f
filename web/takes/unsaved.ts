import { browserStore, type Unsaved } from '../app/browser-store';

/**
 * What the server has not acknowledged, kept in this browser. Each window keeps its own, so that two windows on one
 * take do not overwrite each other's; those of a window that is gone are taken up by the next that opens the take.
 */

const LOCK = 'lampwash.window.';

/** Holds the name of a window for as long as this one lives, which is how others see that it does; false where another holds it. */
const holdName = (id: string): Promise<boolean> =>
  new Promise(done => {
    if (!navigator.locks) return done(true);
    void navigator.locks.request(LOCK + id, { ifAvailable: true }, lock => {
      done(lock !== null);
      return lock ? new Promise(() => undefined) : undefined;
    });
  });

/**
 * The name of this window: the one that it had before it was loaded anew. A window that is duplicated has the first one's
 * storage, and so its name; it takes another.
 */
const named: Promise<string> = (async () => {
  const known = sessionStorage.getItem('lampwash.window');
  if (known && (await holdName(known))) return known;
  const id = crypto.randomUUID();
  await holdName(id);
  sessionStorage.setItem('lampwash.window', id);
  return id;
})();

/**
 * Keeps what is unsaved of a take in this window, or with null, drops what was kept.
 * @returns false where the browser could not: then nothing is kept
 */
export async function keepUnsaved(
  takeId: string,
  unsaved: Omit<Unsaved, 'takeId' | 'owner' | 'at'> | null,
): Promise<boolean> {
  try {
    const [store, windowId] = await Promise.all([browserStore(), named]);
    if (unsaved) await store.put('unsaved', { ...unsaved, takeId, owner: windowId, at: Date.now() });
    else await store.delete('unsaved', [takeId, windowId]);
    return true;
  } catch {
    return false;
  }
}

/**
 * What this window has unsaved of a take, or else a window that is gone; it stays kept under the window that it was of
 * until `dropUnsaved`.
 */
export async function findUnsaved(takeId: string): Promise<Unsaved | null> {
  try {
    const windowId = await named;
    const { held = [] } = (await navigator.locks?.query()) ?? {};
    const alive = new Set(held.map(lock => lock.name));
    const all = await (await browserStore()).getAllFromIndex('unsaved', 'take', takeId);
    const ours = all.find(each => each.owner === windowId);
    const left = all.filter(each => !alive.has(LOCK + each.owner)).sort((a, b) => b.at - a.at);
    return ours ?? left[0] ?? null;
  } catch {
    return null;
  }
}

/** Drops what another window left, once this one has taken it up and keeps it itself. */
export async function dropUnsaved({ takeId, owner }: Unsaved): Promise<void> {
  if (owner === (await named)) return;
  await (await browserStore()).delete('unsaved', [takeId, owner]).catch(() => undefined);
}
