import { useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import { getTake, type TakeSummary } from '../../contract/takes';
import type { Treatment } from '../../core/treatment/treatment';
import { call } from '../app/api';
import { keys } from '../app/queries';
import { useBench, useBenchState } from './work';
import { treatmentOf, type Shelf } from '../compare/against';
import { liesDown, type Compared } from '../compare/compared';

/** Two pictures that are compared: what there is to compare, which are, and how they lie. */
export interface Compare extends Compared {
  shelf: Shelf;
  /** One lies above the other; null: as the shape of the picture wants it. */
  down: boolean | null;
  /** Which of both is the picture that is worked on. */
  own: 0 | 1;
  /** It is one of both, not only something else in its place. */
  isOwn: boolean;
  /** What is seen in the place of the picture that is worked on, and beside it; null where it is not there (yet). */
  given: Treatment | null;
  theirs: Treatment | null;
}

/**
 * The comparisons of the picture on the Bench.
 * @param lit the treatment up to the lamp
 */
export function useCompared(
  ofPhotograph: readonly TakeSummary[],
  treatment: Treatment,
  lit: Treatment,
  chosen: string | null,
): Compare {
  const { session } = useBench();
  const compared = useBenchState(s => s.compared);
  const { sides } = compared;
  const wanted = sides.flatMap(side => (side.what === 'take' ? [side.id] : []));
  const found = useQueries({
    queries: wanted.map(id => ({
      queryKey: keys.take(id),
      queryFn: () => call(getTake, { params: { id } }),
    })),
    combine: answers => answers.map(answer => answer.data),
  });
  const takes = useMemo(
    () => new Map(found.flatMap(take => (take ? [[take.id, take.treatment] as const] : []))),
    [found],
  );
  const letters = useMemo(() => new Map(ofPhotograph.map(t => [t.id, t.letter])), [ofPhotograph]);
  const before = session.moments.past.at(-1)?.treatment ?? null;
  const take = session.state().take.id;
  const shelf = useMemo(
    (): Shelf => ({ now: lit, whole: treatment, chosen, before, takes, letters, take }),
    [lit, treatment, chosen, before, takes, letters, take],
  );
  const own: 0 | 1 = sides[0].what === 'now' ? 0 : 1;
  const given = useMemo(() => treatmentOf(sides[own], shelf), [sides, own, shelf]);
  const theirs = useMemo(() => treatmentOf(sides[1 - own], shelf), [sides, own, shelf]);
  return {
    ...compared,
    ...{ shelf, own, given, theirs },
    down: liesDown(compared),
    isOwn: sides[own].what === 'now',
  };
}
