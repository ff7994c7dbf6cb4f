import { setTimeout as after } from 'node:timers/promises';

/** Milliseconds of work in one piece after which others come first. */
const LONG = 40;
/** Milliseconds that they get: enough for an answer that asks the database. */
const PAUSE = 25;

/**
 * Lets others be answered where a piece of work that began at a moment (performance.now(), ms) was a long one. A mere turn of
 * the event loop would not do: an answer takes several, each of which would wait for another piece.
 */
export async function pauseAfter(began = Infinity): Promise<void> {
  if (performance.now() - began > LONG) await after(PAUSE);
}
