import { useRef } from 'react';
import { stepKind, type Settings } from '../../core/steps';
import { changeStep } from '../../core/treatment/edit';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { Handles } from '../print/Handles';
import type { OnWall } from '../print/tool';
import { nameOfStep } from '../../words/step-names';

/** How the chosen step is held on the picture, where its kind says so. */
export function StepHandles({
  step,
  onWall,
  now,
  onPreview,
  onCommit,
}: {
  step: Step;
  onWall: OnWall;
  /** The newest treatment. */
  now: () => Treatment;
  onPreview: (treatment: Treatment) => void;
  onCommit: (treatment: Treatment, label: string) => void;
}) {
  const made = useRef<Treatment | null>(null);
  const overlay = stepKind(step.kind)?.overlay?.(step.settings, onWall);
  if (!overlay) return null;
  return (
    <Handles
      {...overlay}
      onWall={onWall}
      onMove={settings => {
        made.current = changeStep(now(), step.id, { settings: settings as Settings });
        onPreview(made.current);
      }}
      onRest={() => {
        if (made.current) onCommit(made.current, `${nameOfStep(step)} on the picture`);
        made.current = null;
      }}
    />
  );
}
