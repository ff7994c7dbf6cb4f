import { HangingLabel } from '../print/labels';

/** Says on the wall that it is the bare photograph that hangs there, and how the treated one comes back. */
export function BareLabel() {
  return (
    <HangingLabel>
      <b>Bare</b>
      <kbd>B</kbd>
      <span>or a press shows the treatment again</span>
    </HangingLabel>
  );
}
