import { create } from 'zustand';

/** What was done on a Sheet, as deeds that are undone and done again in their order, one at a time. */

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
  perform: (seriesId: string, deed: Deed) => Promise<void>;
  /** Remembers what has been begun already. */
  remember: (seriesId: string, deed: Deed) => void;
  undo: (seriesId: string) => Promise<void>;
  redo: (seriesId: string) => Promise<void>;
  /** Undoes one deed, wherever it stands; nothing where it is undone already. */
  undoOne: (seriesId: string, id: string) => Promise<void>;
}

/** Each after the one before, also where that failed. */
const waiting = new Map<string, Promise<unknown>>();
function inTurn(seriesId: string, work: () => Promise<void>): Promise<void> {
  const before = waiting.get(seriesId) ?? Promise.resolve();
  const next = before.catch(() => undefined).then(work);
  waiting.set(seriesId, next);
  return next;
}

/** What has been done on the Sheets of this window, by series. A deed that fails leaves all as it was, and throws. */
export const useDeeds = create<Deeds>((set, get) => {
  const lineOf = (seriesId: string) => get().lines[seriesId] ?? none;
  const put = (seriesId: string, line: Line) =>
    set(({ lines }) => ({ lines: { ...lines, [seriesId]: line } }));
  const remember = (seriesId: string, deed: Deed) =>
    put(seriesId, { past: [...lineOf(seriesId).past, deed], future: [] });
  return {
    lines: {},
    remember,
    perform: (seriesId, deed) =>
      inTurn(seriesId, async () => {
        await deed.redo();
        remember(seriesId, deed);
      }),
    undo: seriesId =>
      inTurn(seriesId, async () => {
        const last = lineOf(seriesId).past.at(-1);
        if (!last) return;
        await last.undo();
        const { past, future } = lineOf(seriesId);
        put(seriesId, { past: past.filter(d => d !== last), future: [last, ...future] });
      }),
    redo: seriesId =>
      inTurn(seriesId, async () => {
        const [next] = lineOf(seriesId).future;
        if (!next) return;
        await next.redo();
        const { past, future } = lineOf(seriesId);
        put(seriesId, { past: [...past, next], future: future.filter(d => d !== next) });
      }),
    undoOne: (seriesId, id) =>
      inTurn(seriesId, async () => {
        const deed = lineOf(seriesId).past.find(d => d.id === id);
        if (!deed) return;
        await deed.undo();
        const { past, future } = lineOf(seriesId);
        put(seriesId, { past: past.filter(d => d !== deed), future: [deed, ...future] });
      }),
  };
});

export const useLine = (seriesId: string): Line => useDeeds(({ lines }) => lines[seriesId] ?? none);
