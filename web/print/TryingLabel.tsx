import type { Treatment } from '../../core/treatment/schema';
import { HangingLabel } from './labels';

/** What is tried on the picture: the treatment that it would give, and what it is called. */
export interface Tried {
  name: string;
  treatment: Treatment;
  /** How it is tried, behind its name: `at 60`. */
  how?: string;
  /** What a press or Enter does with it: `adds it to Tone`. */
  then: string;
}

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
