import { trayWith } from './alternatives';
import { traysOf } from './trays';
import type { Step, StepGroup, Treatment } from './treatment';

/** Groups: neighbouring steps under one name and one strength. They may stand in neighbouring stages. */

/** Neighbours that belong together: the steps of a group, or what lies in one tray. */
export interface Run {
  group: string | null;
  steps: Step[];
}

/** Steps (in order) as runs of one group each, or of one tray. */
export function runsOf(steps: readonly Step[]): Run[] {
  const runs: Run[] = [];
  for (const tray of traysOf(steps)) {
    const last = runs.at(-1);
    const [{ group }] = tray;
    if (last && group !== null && last.group === group) last.steps.push(...tray);
    else runs.push({ group, steps: [...tray] });
  }
  return runs;
}

/** A group of a treatment by its id. */
export const groupOf = (treatment: Treatment, id: string | null): StepGroup | undefined =>
  treatment.groups.find(g => g.id === id);

/** The run that a step stands in. */
const runWith = (treatment: Treatment, id: string): Run | undefined =>
  runsOf(treatment.steps).find(r => r.steps.some(s => s.id === id));

/** A step at a share of its strength; one that follows a shared look keeps it from then on. */
export function strengthened(step: Step, share: number): Step {
  const { look } = step;
  if (share === 1) return step;
  const own = look && { ...look, changed: [...new Set([...look.changed, 'step.strength'])].toSorted() };
  return { ...step, strength: step.strength * share, ...(own && { look: own }) };
}

/** Without groups that no step stands in any more, and with no group of one: its step takes the strength on itself. */
export function tidyGroups(treatment: Treatment): Treatment {
  const alone = new Set(
    runsOf(treatment.steps)
      .filter(r => r.group !== null && r.steps.length === 1)
      .map(r => r.steps[0]),
  );
  const steps = alone.size
    ? treatment.steps.map(s =>
        alone.has(s) ? strengthened({ ...s, group: null }, groupOf(treatment, s.group)?.strength ?? 1) : s,
      )
    : treatment.steps;
  const used = new Set(steps.map(s => s.group));
  if (!alone.size && treatment.groups.every(g => used.has(g.id))) return treatment;
  return { ...treatment, steps, groups: treatment.groups.filter(g => used.has(g.id)) };
}

const changeAll = (treatment: Treatment, of: readonly Step[], change: Partial<Step>): Treatment => ({
  ...treatment,
  steps: treatment.steps.map(s => (of.includes(s) ? ({ ...s, ...change } as Step) : s)),
});

/** The neighbour before the tray of a step, with which it can be grouped. */
export function neighbourBefore(treatment: Treatment, id: string): Step | undefined {
  return treatment.steps[treatment.steps.indexOf(trayWith(treatment, id)[0]) - 1];
}

export function freshGroup({ groups }: Treatment): StepGroup {
  for (let n = 1; ; n++) {
    const id = `g${n}`;
    const name = `Group ${n}`;
    if (!groups.some(g => g.id === id || g.name === name)) return { id, name, strength: 1 };
  }
}

/**
 * Puts a step, and the group that it may stand in, into one group with the neighbour before it. The same
 * where there is none, or they are in one group already.
 */
export function groupWithBefore(treatment: Treatment, id: string): Treatment {
  const before = neighbourBefore(treatment, id);
  const run = runWith(treatment, id);
  if (!before || !run || run.steps.includes(before)) return treatment;
  const other = runWith(treatment, before.id)!;
  const known = other.group ?? run.group;
  const made = known === null ? freshGroup(treatment) : null;
  const group = known ?? made!.id;
  return tidyGroups(
    changeAll(
      made ? { ...treatment, groups: [...treatment.groups, made] } : treatment,
      [...other.steps, ...run.steps],
      { group },
    ),
  );
}

/** Puts steps, and all that stand between them, into one group, with the groups that they stand in. */
export function groupAll(treatment: Treatment, ids: readonly string[]): Treatment {
  const trays = traysOf(treatment.steps);
  const isMeant = (tray: readonly Step[]) => tray.some(s => ids.includes(s.id));
  const rest = trays.slice(trays.findIndex(isMeant) + 1, trays.findLastIndex(isMeant) + 1);
  return rest.reduce((of, [{ id }]) => groupWithBefore(of, id), treatment);
}

/**
 * Takes a step, with its alternatives, out of its group: to stand behind it, or before it where the group goes on into a later stage; from the
 * middle of three stages it stays where it is, and what comes after it is a group of its own.
 */
export function leaveGroup(treatment: Treatment, id: string): Treatment {
  const run = runWith(treatment, id);
  if (!run || run.group === null) return treatment;
  const { steps } = run;
  const tray = trayWith(treatment, id);
  const [{ stage }] = tray;
  const at = steps.indexOf(tray[0]);
  const left = tray.map(s => ({ ...s, group: null }) as Step);
  const rest = steps.toSpliced(at, tray.length);
  const goesOn = rest.slice(at).some(s => s.stage !== stage);
  const came = rest.slice(0, at).some(s => s.stage !== stage);
  const place = treatment.steps.indexOf(steps[0]);
  const laid = (all: Step[], groups = treatment.groups): Treatment =>
    tidyGroups({ ...treatment, groups, steps: treatment.steps.toSpliced(place, steps.length, ...all) });
  if (!goesOn) return laid([...rest, ...left]);
  if (!came) return laid([...left, ...rest]);
  const second = { ...freshGroup(treatment), strength: groupOf(treatment, run.group)!.strength };
  const after = rest.slice(at).map(s => ({ ...s, group: second.id }) as Step);
  return laid([...rest.slice(0, at), ...left, ...after], [...treatment.groups, second]);
}

/** Dissolves the group that a step stands in. */
export function ungroup(treatment: Treatment, id: string): Treatment {
  const run = runWith(treatment, id);
  return !run || run.group === null
    ? treatment
    : tidyGroups(changeAll(treatment, run.steps, { group: null }));
}

/** Changes the group that a step stands in. */
function changeGroup(treatment: Treatment, id: string, change: Partial<StepGroup>): Treatment {
  const run = runWith(treatment, id);
  if (!run || run.group === null) return treatment;
  return {
    ...treatment,
    groups: treatment.groups.map(g => (g.id === run.group ? { ...g, ...change } : g)),
  };
}

/** Names the group that a step stands in; an empty name leaves it as it is. */
export function nameGroup(treatment: Treatment, id: string, name: string): Treatment {
  const called = name.trim().slice(0, 80);
  return called === '' ? treatment : changeGroup(treatment, id, { name: called });
}

/** Sets the strength (0..1) of the group that a step stands in. */
export const strengthenGroup = (treatment: Treatment, id: string, strength: number): Treatment =>
  changeGroup(treatment, id, { strength });

/** Switches all steps of the group that a step stands in. */
export function switchGroup(treatment: Treatment, id: string, enabled: boolean): Treatment {
  const run = runWith(treatment, id);
  return run ? changeAll(treatment, run.steps, { enabled }) : treatment;
}

/** The group that a step belongs to once it stands between these two: theirs, where they share one. */
export const groupBetween = (before: Step | undefined, after: Step | undefined): string | null =>
  before && after && before.group === after.group ? before.group : null;
