import { startTransition, useCallback, useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Photograph } from '../../contract/photographs';
import type { Series } from '../../contract/series';
import { tell } from '../app/notices';
import { useCreateTake } from '../app/queries';
import { useTour } from '../app/tour';
import type { Beside } from '../engine/client';
import { sendCarried } from '../engine/carried';
import { FileDrop } from '../import/FileDrop';
import { useCarryOver } from '../laying/useCarryOver';
import { useCopying } from '../laying/useCopying';
import { useSharing } from '../laying/useSharing';
import type { MomentAction } from '../states/StatesBoard';
import type { TakeSession } from '../takes/session';
import type { Treatment } from '../../core/treatment/treatment';
import { createBench, type Bench } from './bench-store';
import { BenchBar } from './BenchBar';
import { BenchDialogs } from './BenchDialogs';
import { Frame } from './frame';
import { Strip } from './Strip';
import { Trays } from './Trays';
import { useBenchKeys } from './useBenchKeys';
import { useDropped } from './useDropped';
import { useFollowed } from './useFollowed';
import {
  BenchContext,
  useBench,
  useBenchState,
  useChosen,
  usePicked,
  useRested,
  WorkContext,
  type Work,
} from './work';
import { Workplace } from './Workplace';

interface AtWorkProps {
  photograph: Photograph;
  series: Series | undefined;
  /** What may be opened next. */
  beside: readonly Beside[];
  session: TakeSession;
  /** Whether the take was chosen on the Bench: the keys go on among the takes. */
  chosenHere: boolean;
  onOpenTake: (id: string) => void;
}

/** A take being worked on. Each has a Bench of its own: what was chosen, tried or compared of another is not carried over. */
export function AtWork({ session, ...rest }: AtWorkProps) {
  const [bench] = useState(() => createBench(session));
  useEffect(() => bench.follow(), [bench]);
  return (
    <BenchContext value={bench}>
      <Parts {...rest} />
    </BenchContext>
  );
}

/** What is done with a state of the history: it is compared, or becomes a take. */
function useMoment(bench: Bench, photographId: string, openTake: (id: string) => void) {
  const createTake = useCreateTake(photographId);
  return async (
    action: MomentAction,
    { treatment, label }: { treatment: Treatment; label: string },
  ): Promise<void> => {
    if (action === 'compare') return bench.compareWith({ what: 'moment', treatment, label });
    try {
      await bench.session.flush();
      await sendCarried(treatment);
      const made = await createTake.mutateAsync({ treatment });
      openTake(made.id);
    } catch {
      // It has been said.
    }
  };
}

/** Tells the tour what it follows. */
function useTold(photographId: string): void {
  const tellTour = useTour(tour => tour.tell);
  const { treatment } = useRested();
  const isCompared = useBenchState(s => s.compared.shown.way !== null);
  useEffect(() => {
    tellTour({ photograph: photographId, kinds: treatment.steps.map(s => s.kind) });
  }, [tellTour, photographId, treatment.steps]);
  useEffect(() => {
    if (isCompared) tellTour({ compared: true });
  }, [tellTour, isCompared]);
}

/** What does not follow each movement of a control, about the workplace. */
function Parts({ photograph, series, beside, chosenHere, onOpenTake }: Omit<AtWorkProps, 'session'>) {
  const bench = useBench();
  const { edits, session } = bench;
  const navigate = useNavigate();
  const { take } = useRested();
  useFollowed(take, photograph.seriesId);
  useTold(photograph.id);
  const sharing = useSharing(photograph.seriesId, take.id, edits);
  const { ofSeries } = sharing;
  const lay = useCallback<Work['lay']>(
    (treatment, label, last, apart) => {
      edits.commit(ofSeries(treatment), label, apart);
      bench.laid(last ?? treatment.steps.at(-1)?.id ?? null);
    },
    [bench, edits, ofSeries],
  );
  const layApart = useCallback<Work['layApart']>(
    (treatment, label, last) => lay(treatment, label, last, true),
    [lay],
  );
  const picked = usePicked();
  const onPart = useCallback((part: Treatment) => bench.ask({ what: 'lay-on', part }), [bench]);
  const copying = useCopying({ now: edits.now, picked: bench.picked, onPart });
  const carryOver = useCarryOver(photograph, series, edits.now, lay);
  const onMoment = useMoment(bench, photograph.id, onOpenTake);
  const toSheet = () => {
    void session.flush().then(() => navigate(`/series/${photograph.seriesId}`));
  };
  const { id, width, height, grey, damage } = photograph;
  const picture = useMemo(() => ({ id, width, height, grey, damage }), [id, width, height, grey, damage]);
  const work: Work = {
    ...{ bench, photograph, picture, series, beside, sharing, copying, lay, layApart, carryOver, toSheet },
    openTake: onOpenTake,
    onMoment: (action, moment) => void onMoment(action, moment),
  };
  const alternate = (by: -1 | 1) => {
    if (bench.alternate(by)) return;
    tell({
      text: 'There is one step in this tray. Its menu adds an alternative, to be switched by this key.',
    });
  };
  useBenchKeys({ alternate, carryOver });
  const dropped = useDropped(work);
  const alone = useBenchState(s => s.alone);
  // The picture is asked for first; what stands about it comes while it is rendered.
  const [around, setAround] = useState(false);
  useEffect(() => startTransition(() => setAround(true)), []);
  const chosen = useChosen();
  return (
    <WorkContext value={work}>
      <Frame data-alone={alone || undefined}>
        <BenchBar hasKeys={chosenHere} />
        <Strip series={series} current={photograph} />
        <Workplace around={around} chosen={chosen} />
        {around ? <Trays chosen={chosen} picked={picked} /> : null}
        <BenchDialogs onBringIn={dropped.bringInOne} />
        <FileDrop text={`Lay them down on ${photograph.title}`} onFiles={dropped.onFiles} />
      </Frame>
    </WorkContext>
  );
}
