import type { Tried } from '../takes/tried';
import { HangingLabel } from './labels';

/** Says on the wall what is being tried. */
export function TryingLabel({ tried: { name, how, then } }: { tried: Tried }) {
  return (
    <HangingLabel>
      <b>Trying</b>
      <span>{how ? `${name}, ${how}` : name}</span>
      <kbd>Enter</kbd>
      <span>or a press {then}</span>
    </HangingLabel>
  );
}
