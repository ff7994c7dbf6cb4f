import type { Against } from './against';

/** Which comparison is shown, of what, and how it lies; and what changes that, as pure functions. */

/** How the picture is compared: bare in its place, half of it as another, or two prints. */
export type Way = 'bare' | 'half' | 'side';

export interface Shown {
  way: Way | null;
  /** It stays without being held. */
  kept: boolean;
}

export interface Compared {
  shown: Shown;
  /** The press that is under way: of which, since when (ms), and what was shown before it. */
  pressed: { way: Way; at: number; before: Shown } | null;
  /** Left or above, and right or below. */
  sides: readonly [Against, Against];
  /** Where the line between them stands, 0..1. */
  line: number;
  /** Whether one lies above the other; of two prints null: as the shape of the picture wants it. */
  lies: { half: boolean; side: boolean | null };
}

export const NOTHING: Shown = { way: null, kept: true };

export const notCompared: Compared = {
  shown: NOTHING,
  pressed: null,
  sides: [{ what: 'bare' }, { what: 'now' }],
  line: 0.5,
  lies: { half: false, side: null },
};

/** A press that is let go of before this is a click: what it shows stays. */
const CLICK_MS = 300;

/** What is shown after a press of a way has been let go of: a click keeps it or ends it, a held one leaves what was there before. */
export function afterPress(way: Way, before: Shown, isClick: boolean): Shown {
  if (before.way === way) return NOTHING;
  return isClick ? { way, kept: true } : before;
}

/** @param at now, in milliseconds */
export const pressing = (now: Compared, way: Way, at: number): Compared => ({
  ...now,
  pressed: { way, at, before: now.shown },
  shown: { way, kept: false },
});

export function released(now: Compared, at: number): Compared {
  if (!now.pressed) return now;
  const { way, at: since, before } = now.pressed;
  return { ...now, pressed: null, shown: afterPress(way, before, at - since < CLICK_MS) };
}

/** A comparison with something: half and half, unless two prints hang already. */
export function comparedWith(now: Compared, other: Against): Compared {
  const [a, b] = now.sides;
  return {
    ...now,
    sides: a.what === 'now' && b.what !== 'now' ? [a, other] : [other, { what: 'now' }],
    shown: { way: now.shown.way === 'side' ? 'side' : 'half', kept: true },
  };
}

export const withSide = (now: Compared, which: 0 | 1, against: Against): Compared => ({
  ...now,
  sides: which === 0 ? [against, now.sides[1]] : [now.sides[0], against],
});

export const laid = (now: Compared, down: boolean): Compared => ({
  ...now,
  lies: now.shown.way === 'side' ? { ...now.lies, side: down } : { ...now.lies, half: down },
});

/** How what is shown lies. */
export const liesDown = ({ shown, lies }: Compared): boolean | null =>
  shown.way === 'side' ? lies.side : lies.half;

/** Work on the treatment ends the bare photograph that stays, so that what is done is seen. */
export const workedOn = (now: Compared): Compared =>
  now.shown.way === 'bare' && now.shown.kept ? { ...now, shown: NOTHING } : now;
