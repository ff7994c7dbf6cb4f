import type { Take } from '../../contract/takes';
import { Button } from '../ui/buttons';
import { Dialog, DialogActions } from '../ui/overlays';
import type { TakeSession } from './session';
import { useAttempt } from './useAttempt';

/** The question after a take was changed elsewhere too: both versions are kept until one way is chosen. */
export function Conflict({ session, onNewTake }: { session: TakeSession; onNewTake: (take: Take) => void }) {
  const { busy, attempt } = useAttempt();
  return (
    <Dialog title="This take was changed in another window">
      <p>
        What you did here is not saved yet, and nothing was overwritten. Choose which one the take shows; the
        other stays in its history.
      </p>
      <DialogActions>
        <Button isDisabled={busy} onPress={attempt(() => session.takeTheirs())}>
          Show the other window’s
        </Button>
        <Button isDisabled={busy} onPress={attempt(() => session.keepMine())}>
          Show mine
        </Button>
        <Button
          $ink
          isDisabled={busy}
          onPress={attempt(async () => onNewTake(await session.keepAsNewTake()))}
        >
          Keep both, mine as a new take
        </Button>
      </DialogActions>
    </Dialog>
  );
}
