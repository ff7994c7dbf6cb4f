import type { Treatment } from '../../core/treatment/treatment';

/** What is tried on the picture: the treatment that it would give, and what it is called. */
export interface Tried {
  name: string;
  treatment: Treatment;
  /** How it is tried, behind its name: `at 60`. */
  how?: string;
  /** What a press or Enter does with it: `adds it to Tone`. */
  then: string;
}
