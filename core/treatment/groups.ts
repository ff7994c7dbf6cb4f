import type { Step, Treatment } from './schema';

/** Groups: neighbouring steps of one stage under one name. */

/** Neighbours in a stage that belong together: the steps of a group, or one step alone. */
export interface Run {
  group: string | null;
  steps: Step[];
}

/** The steps of a stage (in order) as runs of one group each. */
export function runsOf(steps: readonly Step[]): Run[] {
  const runs: Run[] = [];
  for (const step of steps) {
    const last = runs.at(-1);
    if (last && step.group !== null && last.group === step.group) last.steps.push(step);
    else runs.push({ group: step.group, steps: [step] });
  }
  return runs;
}

/** The run that a step stands in. */
function runOf(treatment: Treatment, id: string): Run | undefined {
  const step = treatment.steps.find(s => s.id === id);
  return runsOf(treatment.steps.filter(s => s.stage === step?.stage)).find(r =>
    r.steps.some(s => s.id === id),
  );
}

const changeAll = (treatment: Treatment, of: readonly Step[], change: Partial<Step>): Treatment => ({
  ...treatment,
  steps: treatment.steps.map(s => (of.includes(s) ? ({ ...s, ...change } as Step) : s)),
});

/** The neighbour before a step in its stage, with which it can be grouped. */
export function neighbourBefore(treatment: Treatment, id: string): Step | undefined {
  const step = treatment.steps.find(s => s.id === id);
  const inStage = treatment.steps.filter(s => s.stage === step?.stage);
  return inStage[inStage.findIndex(s => s.id === id) - 1];
}

function freshName(treatment: Treatment): string {
  for (let n = 1; ; n++) {
    const name = `Group ${n}`;
    if (!treatment.steps.some(s => s.group === name)) return name;
  }
}

/**
 * Puts a step, and the group that it may stand in, into one group with the neighbour before it. The same
 * where there is none, or they are in one group already.
 */
export function groupWithBefore(treatment: Treatment, id: string): Treatment {
  const before = neighbourBefore(treatment, id);
  const run = runOf(treatment, id);
  if (!before || !run || run.steps.includes(before)) return treatment;
  const other = runOf(treatment, before.id)!;
  return changeAll(treatment, [...other.steps, ...run.steps], {
    group: other.group ?? run.group ?? freshName(treatment),
  });
}

/** Takes a step out of its group, to stand behind it; a group of one is none. */
export function leaveGroup(treatment: Treatment, id: string): Treatment {
  const run = runOf(treatment, id);
  if (!run || run.group === null) return treatment;
  const step = run.steps.find(s => s.id === id)!;
  const rest = run.steps.filter(s => s !== step);
  const at = treatment.steps.indexOf(run.steps[0]);
  const left = [
    ...(rest.length === 1 ? [{ ...rest[0], group: null }] : rest),
    { ...step, group: null },
  ] as Step[];
  return { ...treatment, steps: treatment.steps.toSpliced(at, run.steps.length, ...left) };
}

/** Dissolves the group that a step stands in. */
export function ungroup(treatment: Treatment, id: string): Treatment {
  const run = runOf(treatment, id);
  return !run || run.group === null ? treatment : changeAll(treatment, run.steps, { group: null });
}

/** Names the group that a step stands in; an empty name leaves it as it is. */
export function nameGroup(treatment: Treatment, id: string, name: string): Treatment {
  const run = runOf(treatment, id);
  const group = name.trim().slice(0, 80);
  return !run || run.group === null || group === '' ? treatment : changeAll(treatment, run.steps, { group });
}

/** Switches all steps of the group that a step stands in. */
export function switchGroup(treatment: Treatment, id: string, enabled: boolean): Treatment {
  const run = runOf(treatment, id);
  return run ? changeAll(treatment, run.steps, { enabled }) : treatment;
}

/** The group that a step belongs to once it stands between these two: theirs, where they share one. */
export const groupBetween = (before: Step | undefined, after: Step | undefined): string | null =>
  before && after && before.group === after.group ? before.group : null;
