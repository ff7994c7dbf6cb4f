/** How the picture is compared: bare in its place, half of it as another, or two prints. */
export type Way = 'bare' | 'half' | 'side';

export interface Shown {
  way: Way | null;
  /** It stays without being held. */
  kept: boolean;
}

export const NOTHING: Shown = { way: null, kept: true };

/** What is shown after a press of a way has been let go of: a click keeps it or ends it, a held one leaves what was there before. */
export function afterPress(way: Way, before: Shown, isClick: boolean): Shown {
  if (before.way === way) return NOTHING;
  return isClick ? { way, kept: true } : before;
}
