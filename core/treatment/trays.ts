import type { Stage } from '../steps/define';

/** Steps as they lie in trays: each in its own, or several in one as alternatives of one another. */

/** A step's place among alternatives. */
export interface Alternative {
  /** Names the tray. */
  tray: string;
  /** Another one of them is at work. */
  aside: boolean;
}

/** What a step has to lie in a tray by. */
export interface Lying {
  stage: Stage;
  group: string | null;
  enabled: boolean;
  alternative?: Alternative;
}

const lieTogether = (a: Lying, b: Lying): boolean =>
  a.alternative !== undefined &&
  a.alternative.tray === b.alternative?.tray &&
  a.stage === b.stage &&
  a.group === b.group;

/** Steps (in order) by the trays that they lie in: most alone in theirs. */
export function traysOf<S extends Lying>(steps: readonly S[]): S[][] {
  const trays: S[][] = [];
  for (const step of steps) {
    const last = trays.at(-1);
    if (last && lieTogether(last[0], step)) last.push(step);
    else trays.push([step]);
  }
  return trays;
}

/** A step that lies in a tray of its own; one that was put aside is off there, so that the picture stays. */
export function alone<S extends Lying>(step: S): S {
  const { alternative, ...rest } = step;
  if (!alternative) return step;

  return (alternative.aside ? { ...rest, enabled: false } : rest) as S;
}

/** Things with those changed that a function gives another one for; the same list where it gives none. */
export function mapped<T>(all: readonly T[], change: (each: T) => T): readonly T[] {
  const changed = all.map(change);
  return changed.every((each, i) => each === all[i]) ? all : changed;
}

/**
 * Steps without alternatives that are none: fewer than two of a tray beside one another, or not just one of them at work. They lie
 * in trays of their own then, and the picture is the same. The same list where there is nothing to be put right.
 */
export function tidyTrays<S extends Lying>(steps: readonly S[]): readonly S[] {
  const known = new Set<string>();
  const isTray = (tray: readonly S[]) => {
    const name = tray[0].alternative?.tray;
    if (name === undefined) return true;
    const isOne = tray.length > 1 && tray.filter(s => !s.alternative!.aside).length === 1 && !known.has(name);
    known.add(name);
    return isOne;
  };
  const loose = new Set(
    traysOf(steps)
      .filter(tray => !isTray(tray))
      .flat(),
  );
  return mapped(steps, s => (loose.has(s) ? alone(s) : s));
}
