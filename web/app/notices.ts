import { create } from 'zustand';

/** Short notices at the foot of the window, some with a way back. */
export interface Notice {
  id: number;
  text: string;
  tone: 'plain' | 'problem';
  undo?: () => void;
}

interface Notices {
  list: Notice[];
  drop: (id: number) => void;
}

export const useNotices = create<Notices>(set => ({
  list: [],
  drop: id => set(s => ({ list: s.list.filter(n => n.id !== id) })),
}));

const SHOWN_MS = 8000;
let next = 1;

/** Shows a notice; a way back stays for a while, a problem until it is closed. */
export function tell({
  text,
  tone = 'plain',
  undo,
}: {
  text: string;
  tone?: Notice['tone'];
  undo?: () => void;
}) {
  const id = next++;
  useNotices.setState(s => ({ list: [...s.list.slice(-3), { id, text, tone, undo }] }));
  if (tone === 'plain') setTimeout(() => useNotices.getState().drop(id), SHOWN_MS);
}

/** A notice of work that is under way: it stays until the work is done, and tells how far it is. */
export interface Under {
  say: (text: string) => void;
  done: () => void;
}

/** Work that is done sooner is not spoken of, in milliseconds. */
const SOON_MS = 400;

/** Tells of work that is under way, where it takes longer than a moment. */
export function tellUnder(text: string): Under {
  const id = next++;
  let now = text;
  const show = setTimeout(() => {
    useNotices.setState(s => ({ list: [...s.list.slice(-3), { id, text: now, tone: 'plain' }] }));
  }, SOON_MS);
  return {
    say: other => {
      now = other;
      useNotices.setState(s => ({ list: s.list.map(n => (n.id === id ? { ...n, text: other } : n)) }));
    },
    done: () => {
      clearTimeout(show);
      useNotices.getState().drop(id);
    },
  };
}
