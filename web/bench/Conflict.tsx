import { useState } from 'react';
import type { Take } from '../app/api';
import { messageOf } from '../app/api';
import { tell } from '../app/notices';
import { Button } from '../ui/buttons';
import { Dialog, DialogActions } from '../ui/overlays';
import type { TakeSession } from './session';

/** The question after a stale save: both versions are kept until one way is chosen. */
export function Conflict({ session, onNewTake }: { session: TakeSession; onNewTake: (take: Take) => void }) {
  const [busy, setBusy] = useState(false);
  const run = (work: () => Promise<unknown>) => async () => {
    setBusy(true);
    try {
      await work();
    } catch (error) {
      tell({ text: messageOf(error), tone: 'problem' });
    }
    setBusy(false);
  };
  return (
    <Dialog title="This take was changed in another window">
      <p>
        What you did here is not saved yet, and nothing was overwritten. Choose which one the take shows; the
        other stays in its history.
      </p>
      <DialogActions>
        <Button isDisabled={busy} onPress={run(() => session.takeTheirs())}>
          Show the other window’s
        </Button>
        <Button isDisabled={busy} onPress={run(() => session.keepMine())}>
          Show mine
        </Button>
        <Button
          $ink
          isDisabled={busy}
          onPress={run(async () => {
            const made = await session.keepBoth();
            if (made) onNewTake(made);
          })}
        >
          Keep both, mine as a new take
        </Button>
      </DialogActions>
    </Dialog>
  );
}
