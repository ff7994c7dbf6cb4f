import type { Saving } from './queue';

/** What is read out of how a take is saved: the first save of a visit, what is not saved, and that it is again. */
export interface SavingTold {
  text: string;
  /** A save has been told of in this visit. */
  hasBeen: boolean;
  /** It was not saved since. */
  isOwed: boolean;
}

export const nothingTold: SavingTold = { text: '', hasBeen: false, isOwed: false };

/** What is told next. While it goes well nothing new is: each change would interrupt whoever listens. */
export function toldNext(told: SavingTold, state: Saving['state'], reason = ''): SavingTold {
  switch (state) {
    case 'saving':
      return told.hasBeen ? told : { ...told, isOwed: true };
    case 'saved':
      if (!told.isOwed) return told;
      return {
        text: told.hasBeen ? 'Saved again.' : 'Saved. From now on each change is.',
        hasBeen: true,
        isOwed: false,
      };
    case 'stale':
      return { ...told, text: 'Changed in another window.', isOwed: true };
    default:
      return { ...told, text: `Not saved. ${reason}`.trim(), isOwed: true };
  }
}
