import { StatesBoard } from '../../states/StatesBoard';
import { useBench, useRested, useWork } from '../work';

export function HistorySide() {
  const { session, tryOn, closeSide } = useBench();
  const { onMoment } = useWork();
  useRested();
  const { moments } = session;
  return (
    <StatesBoard
      line={moments}
      isTold={moments.earlierThan === null}
      onEarlier={session.earlier}
      onTry={tryOn}
      onGo={session.goBy}
      onAct={onMoment}
      onClose={closeSide}
    />
  );
}
