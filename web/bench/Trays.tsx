import { useDeferredValue } from 'react';
import type { Treatment } from '../../core/treatment/treatment';
import { TrayLine } from '../trays/TrayLine';
import { useBenchState, useRested, useWork } from './work';

/** Whether two treatments have the same steps in the same places, whatever they are set to. */
const looksAlike = (a: Treatment, b: Treatment): boolean =>
  a.steps.length === b.steps.length &&
  a.steps.every((step, i) => {
    const other = b.steps[i];
    return (
      (['id', 'stage', 'group', 'enabled', 'name'] as const).every(key => step[key] === other[key]) &&
      step.alternative?.tray === other.alternative?.tray &&
      step.alternative?.aside === other.alternative?.aside
    );
  });

/** The tray line of the take. */
export function Trays({ chosen, picked }: { chosen: string | null; picked: readonly string[] }) {
  const { bench, picture, sharing, copying } = useWork();
  const { treatment } = useRested();
  // What moved no tray is shown there a little later, built in pieces between what the hand does meanwhile.
  const deferred = useDeferredValue(treatment);
  const onLine = looksAlike(deferred, treatment) ? deferred : treatment;
  const lampAt = useBenchState(s => s.lampAt);
  const side = useBenchState(s => s.side);
  return (
    <TrayLine
      picture={picture}
      treatment={onLine}
      chosen={chosen}
      lamp={Math.min(lampAt ?? treatment.steps.length, treatment.steps.length)}
      edits={bench.edits}
      picked={picked}
      onPick={bench.pickRange}
      onCopy={copying.copy}
      onChoose={bench.chooseTray}
      onLamp={bench.setLamp}
      onAdd={bench.toggleAdding}
      adding={side.what === 'add' ? side.stage : null}
      onTint={bench.toggleTint}
      tinting={side.what === 'tint'}
      shared={sharing.ids}
    />
  );
}
