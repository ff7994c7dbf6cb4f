import type { Take } from '../../contract/takes';
import { Button } from '../ui/buttons';
import { Dialog, DialogActions } from '../ui/overlays';
import { save } from '../ui/save';
import type { TakeSession } from './session';
import { useAttempt } from './useAttempt';

/** The question after a save that will not pass: what was done stays on the screen until one way is chosen. */
export function Refused({
  reason,
  session,
  onNewTake,
}: {
  reason: string;
  session: TakeSession;
  onNewTake: (take: Take) => void;
}) {
  const { busy, attempt } = useAttempt();
  const writeFile = async () => {
    const { letter } = session.state().take;
    save(await session.asFile(), `take-${letter.toLowerCase()}.treatment.json`, 'application/json');
  };
  return (
    <Dialog title="The server does not take this change">
      <p>
        {reason} Trying again will not help. What is on the screen is not saved: keep it as a new take or as a
        file, or go back to what was saved last.
      </p>
      <DialogActions>
        <Button isDisabled={busy} onPress={attempt(() => session.backToSaved())}>
          Back to what was saved
        </Button>
        <Button isDisabled={busy} onPress={attempt(writeFile)}>
          Write a treatment file
        </Button>
        <Button
          $ink
          isDisabled={busy}
          onPress={attempt(async () => onNewTake(await session.keepAsNewTake()))}
        >
          Save as a new take
        </Button>
      </DialogActions>
    </Dialog>
  );
}
