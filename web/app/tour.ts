import { create } from 'zustand';

/** The tour: where it is, and what the screens say of the work that it follows. */

const KEY = 'lampwash.tour';

export const tourPages = [
  'bring',
  'open',
  'convert',
  'tone',
  'tint',
  'compare',
  'send',
  'write',
  'end',
] as const;
export type TourPage = (typeof tourPages)[number];

/** What has been done, as far as screens have told. */
export interface TourFacts {
  /** Of the series that is looked at. */
  photographs: number;
  /** The photograph that is on the Bench, or was last. */
  photograph: string | null;
  /** The kinds of the steps of its take. */
  kinds: readonly string[];
  compared: boolean;
  sent: boolean;
}

interface Tour {
  /** Null while it is not taken. */
  page: TourPage | null;
  /** Where it was left; null where it never was, or has been ended. */
  left: TourPage | null;
  facts: TourFacts;
  begin: () => void;
  goTo: (page: TourPage) => void;
  leave: () => void;
  end: () => void;
  tell: (facts: Partial<TourFacts>) => void;
}

function kept(): TourPage | null {
  try {
    const page = localStorage.getItem(KEY);
    return tourPages.find(p => p === page) ?? null;
  } catch {
    return null;
  }
}

function keep(page: TourPage | null): void {
  try {
    if (page) localStorage.setItem(KEY, page);
    else localStorage.removeItem(KEY);
  } catch {
    // It begins at its first page the next time.
  }
}

const nothing: TourFacts = { photographs: 0, photograph: null, kinds: [], compared: false, sent: false };

export const useTour = create<Tour>((set, get) => ({
  page: null,
  left: kept(),
  facts: nothing,
  begin: () => set({ page: get().left ?? 'bring', left: null }),
  goTo: page => {
    keep(page);
    // Whatever was compared or sent before is not what this page asks for.
    const facts = { ...get().facts, compared: false, sent: false };
    set({ page, facts });
  },
  leave: () => {
    const { page } = get();
    if (page) keep(page);
    set({ page: null, left: page });
  },
  end: () => {
    keep(null);
    set({ page: null, left: null });
  },
  tell: facts => {
    const now = get().facts;
    const isNew = Object.entries(facts).some(([key, value]) => now[key as keyof TourFacts] !== value);
    if (isNew) set({ facts: { ...now, ...facts } });
  },
}));

/** Whether a page's work is done. */
export function isDone(
  page: TourPage,
  facts: TourFacts,
  path: string,
  colours: (kind: string) => boolean,
): boolean {
  const onBench = path.startsWith('/photographs/');
  switch (page) {
    case 'bring':
      return onBench || (path.startsWith('/series/') && facts.photographs > 0);
    case 'open':
      return onBench;
    case 'convert':
      return onBench && facts.kinds.length > 0;
    case 'tone':
      return onBench && facts.kinds.some(colours);
    case 'tint':
      return onBench && facts.kinds.some(kind => kind === 'wash' || kind === 'keep-colour');
    case 'compare':
      return facts.compared;
    case 'send':
      return path.endsWith('/send-out');
    case 'write':
      return facts.sent;
    case 'end':
      return false;
  }
}

/** The screen that a page is on. */
export const screenOf = (page: TourPage): 'shelf' | 'bench' | null =>
  page === 'bring' ? 'shelf' : ['convert', 'tone', 'tint', 'compare', 'send'].includes(page) ? 'bench' : null;
