import { useQueries } from '@tanstack/react-query';
import { useCallback, useMemo, useState } from 'react';
import { getTake } from '../../contract/takes';
import type { TakeSummary } from '../../contract/takes';
import type { Treatment } from '../../core/treatment/schema';
import { call } from '../app/api';
import { keys } from '../app/queries';
import { useKeys } from '../app/useKeys';
import type { TakeSession } from '../takes/session';
import type { Against } from './against';
import { useWay } from './useWay';
import type { Way } from './ways';

/** Two pictures that are compared: which, how they lie, and where the line between them stands. */
export interface Compare {
  way: Way | null;
  kept: boolean;
  press: Record<Way, { begin: () => void; end: () => void }>;
  /** Left or above, and right or below. */
  sides: readonly [Against, Against];
  setSide: (which: 0 | 1, against: Against) => void;
  /** Shows a comparison with something, half and half unless two prints hang already. */
  against: (against: Against) => void;
  swap: () => void;
  line: number;
  setLine: (line: number) => void;
  /** How each way lies: one above the other, or as the shape of the picture wants it. */
  down: boolean | null;
  setDown: (down: boolean) => void;
  /** Treatments of takes that are compared, as far as they are there. */
  takes: ReadonlyMap<string, Treatment>;
  letters: ReadonlyMap<string, string>;
}

/** The comparisons of the picture on the Bench. */
export function useCompare(session: TakeSession, ofPhotograph: readonly TakeSummary[]): Compare {
  const { shown, press, show } = useWay(session);
  const [sides, setSides] = useState<readonly [Against, Against]>([{ what: 'bare' }, { what: 'now' }]);
  const [line, setLine] = useState(0.5);
  const [lies, setLies] = useState<{ half: boolean; side: boolean | null }>({ half: false, side: null });
  const { way, kept } = shown;

  const setSide = useCallback(
    (which: 0 | 1, against: Against) => setSides(([a, b]) => (which === 0 ? [against, b] : [a, against])),
    [],
  );
  const against = useCallback(
    (other: Against) => {
      setSides(([a, b]) => (a.what === 'now' && b.what !== 'now' ? [a, other] : [other, { what: 'now' }]));
      show(now => (now.way === 'side' ? { way: 'side', kept: true } : { way: 'half', kept: true }));
    },
    [show],
  );
  const swap = useCallback(() => setSides(([a, b]) => [b, a]), []);
  const setDown = useCallback(
    (down: boolean) => setLies(now => (way === 'side' ? { ...now, side: down } : { ...now, half: down })),
    [way],
  );

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

  useKeys({
    bare: { hold: press.bare.begin, release: press.bare.end },
    half: { hold: press.half.begin, release: press.half.end },
    side: { hold: press.side.begin, release: press.side.end },
  });

  return {
    way,
    kept,
    press,
    sides,
    setSide,
    against,
    swap,
    line,
    setLine,
    down: way === 'side' ? lies.side : lies.half,
    setDown,
    takes,
    letters,
  };
}
