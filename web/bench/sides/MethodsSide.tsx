import { useCallback } from 'react';
import { bareTreatment } from '../../../core/treatment/treatment';
import { Methods } from '../../methods/Methods';
import { settingOf } from '../../takes/edits';
import { useWork } from '../work';
import { useAtHand } from '../in-hand';
import type { SideProps } from './side-props';

export function MethodsSide({ onGoOn }: SideProps) {
  const { bench, picture, layApart, sharing, toSheet, onMoment } = useWork();
  const { session, edits } = bench;
  const { side, treatment, calm, pick } = useAtHand();
  const setOf = useCallback((step: string) => settingOf(session, step), [session]);
  return (
    <Methods
      picture={picture}
      treatment={treatment}
      calm={calm}
      takeId={session.state().take.id}
      at={side.what === 'method' ? side : null}
      edits={edits}
      setOf={setOf}
      onAt={bench.setSide}
      onChoose={bench.choose}
      onLay={layApart}
      onTry={bench.tryOn}
      pick={pick}
      sharing={sharing}
      onSheet={toSheet}
      onAfresh={() =>
        onMoment('take', { treatment: { ...bareTreatment(), frame: calm.frame }, label: 'Bare' })
      }
      onClose={() => {
        onGoOn();
        bench.closeSide();
      }}
    />
  );
}
