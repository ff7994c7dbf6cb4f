import type { Point } from '../steps/define';

/** Work that may be given up when something else is wanted. */

/** Thrown out of work that nobody waits for any more. */
export class Abandoned extends Error {
  constructor() {
    super('given up: nobody waits for it any more');
    this.name = 'Abandoned';
  }
}

/** Evaluations between two questions whether anybody still waits: a few milliseconds of most functions. */
const ASKED_EVERY = 4096;

/** The same function, which throws `Abandoned` soon after nobody waits for what is made of it. */
export function abandonable(point: Point, isAbandoned: () => boolean): Point {
  let left = ASKED_EVERY;
  return colour => {
    left--;
    if (left === 0) {
      if (isAbandoned()) throw new Abandoned();
      left = ASKED_EVERY;
    }
    point(colour);
  };
}
