import type { QueryClient } from '@tanstack/react-query';
import { create } from 'zustand';
import { messageOf } from './api';
import { tell } from './notices';

/** What was done on a screen, as deeds that are undone and done again in their order, one at a time. */

export interface Deed {
  id: string;
  /** What it was, in words. */
  label: string;
  undo: () => Promise<unknown>;
  redo: () => Promise<unknown>;
}

interface Line {
  past: readonly Deed[];
  future: readonly Deed[];
}
const none: Line = { past: [], future: [] };

interface Deeds {
  lines: Readonly<Record<string, Line>>;
  /** Does something for the first time; it is remembered once it is done. */
  perform: (where: string, deed: Deed) => Promise<void>;
  /** Remembers what has been begun already. */
  remember: (where: string, deed: Deed) => void;
  undo: (where: string) => Promise<void>;
  redo: (where: string) => Promise<void>;
  /** Undoes one deed, wherever it stands; nothing where it is undone already. */
  undoOne: (where: string, id: string) => Promise<void>;
}

/** Each after the one before, also where that failed. */
const waiting = new Map<string, Promise<unknown>>();
function inTurn(where: string, work: () => Promise<void>): Promise<void> {
  const before = waiting.get(where) ?? Promise.resolve();
  const next = before.catch(() => undefined).then(work);
  waiting.set(where, next);
  return next;
}

/**
 * What has been done in this window, by where: the Sheet of a series, by its id, or the Shelf. A deed that fails leaves all as it
 * was, and throws.
 */
export const useDeeds = create<Deeds>((set, get) => {
  const lineOf = (where: string) => get().lines[where] ?? none;
  const put = (where: string, line: Line) => set(({ lines }) => ({ lines: { ...lines, [where]: line } }));
  const remember = (where: string, deed: Deed) =>
    put(where, { past: [...lineOf(where).past, deed], future: [] });
  return {
    lines: {},
    remember,
    perform: (where, deed) =>
      inTurn(where, async () => {
        await deed.redo();
        remember(where, deed);
      }),
    undo: where =>
      inTurn(where, async () => {
        const last = lineOf(where).past.at(-1);
        if (!last) return;
        await last.undo();
        const { past, future } = lineOf(where);
        put(where, { past: past.filter(d => d !== last), future: [last, ...future] });
      }),
    redo: where =>
      inTurn(where, async () => {
        const [next] = lineOf(where).future;
        if (!next) return;
        await next.redo();
        const { past, future } = lineOf(where);
        put(where, { past: [...past, next], future: future.filter(d => d !== next) });
      }),
    undoOne: (where, id) =>
      inTurn(where, async () => {
        const deed = lineOf(where).past.find(d => d.id === id);
        if (!deed) return;
        await deed.undo();
        const { past, future } = lineOf(where);
        put(where, { past: past.filter(d => d !== deed), future: [deed, ...future] });
      }),
  };
});

/** Says why a deed failed, and asks anew for what is shown. */
export const toldOf = (client: QueryClient) => (done: Promise<void>) =>
  done
    .catch((error: unknown) => tell({ text: messageOf(error), tone: 'problem' }))
    .then(() => client.invalidateQueries());

export const useLine = (where: string): Line => useDeeds(({ lines }) => lines[where] ?? none);
