import type { Step, Treatment } from './treatment';

/**
 * The first steps of a treatment at their whole strength, as what comes next among them sees it: the last group, where it
 * goes on, has not been laid on in part yet.
 * @param count how many steps
 */
export function firstSteps(treatment: Treatment, count: number): Treatment {
  const steps = treatment.steps.slice(0, count);
  const last = steps.at(-1)?.group ?? null;
  const goesOn = last !== null && treatment.steps[count]?.group === last;
  const groups = goesOn
    ? treatment.groups.map(g => (g.id === last ? { ...g, strength: 1 } : g))
    : treatment.groups;
  return { ...treatment, strength: 1, steps, groups };
}

/** What lies beneath a step; nothing where there is no such step. */
export function beneathStep(treatment: Treatment, id: string): Treatment {
  return firstSteps(treatment, Math.max(0, placeOf(treatment, id)));
}

/** A step laid on what lies beneath it, with no strength of a group or of the whole. */
export function withStep(treatment: Treatment, step: Step): Treatment {
  const beneath = beneathStep(treatment, step.id);
  return { ...beneath, steps: [...beneath.steps, { ...step, group: null } as Step] };
}

const placeOf = (treatment: Treatment, id: string): number => treatment.steps.findIndex(s => s.id === id);
