import type { SeriesLook } from '../../contract/shared-looks';
import type { Look } from '../../core/treatment/looks';
import type { Treatment } from '../../core/treatment/treatment';

/** The looks that there are to choose from: those of the series, one's own, the starter set. */

export type ListedLook = Look & {
  key: string;
  /** One that is kept, and may be named and put aside. */
  isKept?: boolean;
  /** One that the series shares: what is laid on of it follows it. */
  shared?: SeriesLook;
};

export const SHARED = 'This series shares';

/** Looks by their groups, in the order in which these come. */
export function grouped(looks: readonly ListedLook[]): Map<string, ListedLook[]> {
  const groups = new Map<string, ListedLook[]>();
  for (const look of looks) groups.set(look.group, [...(groups.get(look.group) ?? []), look]);
  return groups;
}

/** What is said beneath the name of a look. */
export function stepsOf({ treatment: { steps }, shared }: ListedLook): string {
  const count = `${steps.length} step${steps.length === 1 ? '' : 's'}`;
  return shared ? `${count}, ${shared.uses} use it` : count;
}

/** What each look would make of a treatment; none for one that there is no room for, which is said when it is taken. */
export function madeOf(
  groups: ReadonlyMap<string, readonly ListedLook[]>,
  lay: (look: ListedLook) => Treatment,
): Map<string, Treatment> {
  const made = new Map<string, Treatment>();
  for (const look of [...groups.values()].flat()) {
    try {
      made.set(look.key, lay(look));
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
    }
  }
  return made;
}
