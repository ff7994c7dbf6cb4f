import { useState } from 'react';
import { messageOf } from '../app/api';
import { tell } from '../app/notices';

/** Runs work that may fail, one at a time; what failed is told. */
export function useAttempt() {
  const [busy, setBusy] = useState(false);
  const attempt = (work: () => Promise<unknown>) => async () => {
    setBusy(true);
    try {
      await work();
    } catch (error) {
      tell({ text: messageOf(error), tone: 'problem' });
    }
    setBusy(false);
  };
  return { busy, attempt };
}
