import type { Kind } from '../steps';
import { layTreatment, type Laying } from './laying';
import type { Step, Treatment } from './treatment';

/** Something that is done to the treatments of many photographs at once. */
export type BatchWork =
  | { do: 'lay'; treatment: Treatment; laying: Laying }
  | { do: 'switch'; kind: Kind; on: boolean }
  | { do: 'strength'; kind: Kind; strength: number };

/** A treatment with the work done to it; the very same where a switch or a strength changes nothing. Throws a RangeError where there is no room. */
export function withWork(treatment: Treatment, work: BatchWork): Treatment {
  if (work.do === 'lay') return layTreatment(treatment, work.treatment, work.laying).treatment;
  const change: Partial<Step> = work.do === 'switch' ? { enabled: work.on } : { strength: work.strength };
  const isDone = (s: Step) => (work.do === 'switch' ? s.enabled === work.on : s.strength === work.strength);
  if (treatment.steps.every(s => s.kind !== work.kind || isDone(s))) return treatment;
  return {
    ...treatment,
    steps: treatment.steps.map(s => (s.kind === work.kind ? ({ ...s, ...change } as Step) : s)),
  };
}
