/** Which take of a photograph is on the Bench. */

/** The take that was opened last, and the one that was there before. */
export interface OpenedTakes {
  id: string;
  before: string;
}

/**
 * The take to show: the one that was opened, as soon as it is known to be there; until then the one before it, and not whichever the
 * photograph was last said to stand at, which may be long past.
 */
export function shownTake(
  { id, before }: OpenedTakes,
  { takes, currentTakeId }: { takes: readonly { id: string }[]; currentTakeId: string },
): string {
  const isThere = (take: string) => takes.some(t => t.id === take);
  return [id, before].find(isThere) ?? currentTakeId;
}
