import type { History } from '../../contract/takes';
import { patched } from '../../core/treatment/patch';
import type { Treatment } from '../../core/treatment/treatment';

/** The states of a take that undo and redo go along, as this window knows them. Each change gives a new line. */

/** A state, and the name of the change that made it. */
export interface Moment {
  treatment: Treatment;
  label: string;
}

export interface Line {
  past: readonly Moment[];
  now: Moment;
  future: readonly Moment[];
  /** The number of the earliest state known, where the server holds earlier ones; null where it holds none. */
  earlierThan: number | null;
  /** What lies before and after the state that the take was opened at has been asked for and has come. */
  told: boolean;
}

/** A line of which nothing but the state that was opened is known. */
export const lineAt = (now: Moment, state: number): Line => ({
  past: [],
  now,
  future: [],
  earlierThan: state,
  told: false,
});

export const withEdit = (line: Line, now: Moment): Line => ({
  ...line,
  past: [...line.past, line.now],
  now,
  future: [],
});

/** The last change goes on: it stays one step of undo. */
export const withEditGoingOn = (line: Line, now: Moment): Line => ({ ...line, now, future: [] });

/** One step back; null where no earlier state is known. */
export function back(line: Line): Line | null {
  const now = line.past.at(-1);
  return now ? { ...line, past: line.past.slice(0, -1), now, future: [line.now, ...line.future] } : null;
}

/** One step on; null where there is none. */
export function on(line: Line): Line | null {
  const [now, ...future] = line.future;
  return now ? { ...line, past: [...line.past, line.now], now, future } : null;
}

/**
 * What the server tells about the earliest state known is put before it; what it tells of redo counts only as long as
 * nothing has been changed since.
 */
export function toldBy(line: Line, { base, more, past, future }: History): Line {
  const moments: Moment[] = [{ treatment: base.treatment, label: base.label }];
  for (const { label, patch } of past) {
    moments.push({ treatment: patched(moments.at(-1)!.treatment, patch), label });
  }
  const earliest = moments.pop()!;
  const untouched = !line.told && line.past.length === 0 && line.future.length === 0;
  const ahead: Moment[] = [];
  if (untouched) {
    let { treatment } = earliest;
    for (const each of future) {
      treatment = patched(treatment, each.patch);
      ahead.push({ treatment, label: each.label });
    }
  }
  return {
    past: [...moments, ...line.past],
    now: line.now,
    future: untouched ? ahead : line.future,
    earlierThan: more ? base.state : null,
    told: true,
  };
}
