import { HangingLabel } from '../print/labels';
import type { Tried } from './LooksBoard';

/** Says on the wall what is being tried. */
export function TryingLabel({ tried: { name, strength } }: { tried: Tried }) {
  return (
    <HangingLabel>
      <b>Trying</b>
      <span>
        {name}
        {strength < 1 ? `, at ${Math.round(strength * 100)}` : ''}
      </span>
      <kbd>Enter</kbd>
      <span>or a press lays it on</span>
    </HangingLabel>
  );
}
