import { stages, type Stage } from '../steps/define';
import { stepKind, type Kind } from '../steps';
import { tidyAlternatives, traysNamed, trayWith, withSuccessors } from './alternatives';
import { traysOf } from './trays';
import { freshIds } from './fresh-ids';
import { freshGroup, groupBetween, groupOf, tidyGroups } from './groups';
import type { Step, Treatment } from './treatment';

/** Edits of a treatment. Each returns a new one and leaves the old as it was. */

/** A short id that no step of the treatment has. */
export function freshId(treatment: Treatment): string {
  for (let n = treatment.steps.length + 1; ; n++) {
    if (!treatment.steps.some(s => s.id === `s${n}`)) return `s${n}`;
  }
}

/** A step of a kind as it is set out: with its defaults, and what its kind sets out otherwise. */
export function newStep<K extends Kind>(treatment: Treatment, kind: K, stage?: Stage): Step<K> {
  const definition = stepKind(kind);
  if (!definition) throw new RangeError(`unknown step kind ${kind}`);
  return {
    id: freshId(treatment),
    kind,
    stage: stage ?? definition.stage,
    name: '',
    enabled: true,
    group: null,
    strength: 1,
    mix: definition.mix ?? 'normal',
    reach: { own: [0, 0, 1, 1], beneath: [0, 0, 1, 1] },
    mask: null,
    settings: structuredClone({ ...definition.defaults, ...definition.fresh }) as Step<K>['settings'],
  };
}

/** Adds a step as the last of its stage. */
export function addStep(treatment: Treatment, step: Step): Treatment {
  const order = stages.indexOf(step.stage);
  const at = treatment.steps.findIndex(s => stages.indexOf(s.stage) > order);
  const steps = treatment.steps.slice();
  steps.splice(at < 0 ? steps.length : at, 0, step);
  return { ...treatment, steps };
}

export const removeStep = (treatment: Treatment, id: string): Treatment => removeSteps(treatment, [id]);

/** Without some steps; where one of several alternatives goes, the next one is at work in its place. */
export function removeSteps(treatment: Treatment, ids: readonly string[]): Treatment {
  const left = withSuccessors(treatment, ids);
  const steps = left.steps.filter(s => !ids.includes(s.id));
  return tidyAlternatives(tidyGroups({ ...treatment, steps }));
}

export function changeStep(treatment: Treatment, id: string, change: Partial<Step>): Treatment {
  return {
    ...treatment,
    steps: treatment.steps.map(s => (s.id === id ? ({ ...s, ...change } as Step) : s)),
  };
}

function withSetting(settings: object, path: readonly string[], value: unknown): object {
  // All of them at once.
  if (path.length === 0) return value as object;
  const [name, ...rest] = path;
  const inner = (settings as Record<string, unknown>)[name];
  return { ...settings, [name]: rest.length ? withSetting(inner as object, rest, value) : value };
}

/** Sets one setting of a step, named by its path: `['shadows', 'hue']`; with an empty path all of them. */
export function changeSetting(
  treatment: Treatment,
  id: string,
  path: readonly string[],
  value: unknown,
): Treatment {
  const step = treatment.steps.find(s => s.id === id);
  if (!step) return treatment;
  const settings = withSetting(step.settings, path, value) as Step['settings'];
  return changeStep(treatment, id, { settings });
}

/**
 * Puts a step, with its alternatives, into a stage, before the step at `place` among the others of that stage (0 is first; beyond
 * the end is last). It comes between no alternatives of others, but behind them.
 */
export function placeStep(treatment: Treatment, id: string, stage: Stage, place: number): Treatment {
  const step = treatment.steps.find(s => s.id === id);
  if (!step) return treatment;
  const tray = trayWith(treatment, id);
  const others = treatment.steps.filter(s => !tray.includes(s));
  const order = stages.indexOf(stage);
  const begins = others.filter(s => stages.indexOf(s.stage) < order).length;
  const inStage = others.filter(s => s.stage === stage).length;
  let at = begins + Math.min(Math.max(0, place), inStage);
  const within = traysOf(others).find(t => t.includes(others[at]));
  if (within && within[0] !== others[at]) at = others.indexOf(within.at(-1)!) + 1;
  const [before, after] = [others[at - 1], others[at]];
  // Within its own group it stays there, also at the ends.
  const own = step.group !== null && [before, after].some(s => s?.group === step.group);
  const group = own ? step.group : groupBetween(before, after);
  const placed = tray.map(s => ({ ...s, stage, group }) as Step);
  return tidyGroups({ ...treatment, steps: others.toSpliced(at, 0, ...placed) });
}

/** Moves a step, with its alternatives, one place along the line: past its neighbour, or at a stage's end into the next stage. */
export function nudgeStep(treatment: Treatment, id: string, by: -1 | 1): Treatment {
  const step = treatment.steps.find(s => s.id === id);
  if (!step) return treatment;
  const trays = traysOf(treatment.steps.filter(s => s.stage === step.stage));
  const own = trays.findIndex(tray => tray.includes(step));
  const others = trays.toSpliced(own, 1);
  if (own + by >= 0 && own + by <= others.length) {
    return placeStep(treatment, id, step.stage, others.slice(0, own + by).flat().length);
  }
  const next = stages[stages.indexOf(step.stage) + by];
  if (!next) return treatment;
  return placeStep(treatment, id, next, by > 0 ? 0 : Number.MAX_SAFE_INTEGER);
}

/** A second of a step, right after its tray, in its group. It follows no look: that is what the first does. */
export function copyStep(treatment: Treatment, id: string): { treatment: Treatment; copy: string } {
  const { treatment: made, copies } = copySteps(treatment, [id]);
  return { treatment: made, copy: copies[0] };
}

/**
 * Doubles steps: in each stage the copies stand behind the last of them, in their order. A whole group of one stage is
 * doubled as a group of its own, a whole tray as a tray of its own.
 */
export function copySteps(
  treatment: Treatment,
  ids: readonly string[],
): { treatment: Treatment; copies: string[] } {
  const copied = treatment.steps.filter(s => ids.includes(s.id));
  let made = treatment;
  const groups = new Map<string, string>();
  for (const { group } of copied) {
    if (group === null || groups.has(group)) continue;
    const members = treatment.steps.filter(s => s.group === group);
    const isWhole = members.every(s => ids.includes(s.id) && s.stage === members[0].stage);
    if (!isWhole) continue;
    const { name, strength } = groupOf(treatment, group)!;
    const fresh = { ...freshGroup(made), strength };
    const called = `${name} again`;
    const named = made.groups.some(g => g.name === called) ? fresh : { ...fresh, name: called.slice(0, 80) };
    made = { ...made, groups: [...made.groups, named] };
    groups.set(group, named.id);
  }
  const nextTray = freshIds('a', traysNamed(treatment));
  const isWhole = (tray: readonly Step[]) => tray.length === trayWith(treatment, tray[0].id).length;
  const trays = new Map(
    traysOf(copied).flatMap(tray => {
      const name = tray[0].alternative?.tray;
      return name !== undefined && isWhole(tray) ? [[name, nextTray()] as const] : [];
    }),
  );
  const copies: string[] = [];
  for (const stage of stages) {
    const here = copied.filter(s => s.stage === stage);
    if (here.length === 0) continue;
    let at = made.steps.indexOf(trayWith(made, here.at(-1)!.id).at(-1)!) + 1;
    for (const { look: _, alternative, ...step } of here) {
      const [before, after] = [made.steps[at - 1], made.steps[at]];
      const own = step.group === null ? null : (groups.get(step.group) ?? step.group);
      const isFresh = own !== step.group;
      // Within a group it belongs to that; beside its own it stays in it.
      const group = groupBetween(before, after) ?? (isFresh || before.group === own ? own : null);
      const tray = alternative && trays.get(alternative.tray);
      const copy = {
        ...structuredClone(step),
        id: freshId(made),
        group,
        ...(tray !== undefined && { alternative: { ...alternative!, tray } }),
        // What was put aside is not at work by itself.
        ...(alternative?.aside && tray === undefined && { enabled: false }),
      } as Step;
      made = { ...made, steps: made.steps.toSpliced(at++, 0, copy) };
      copies.push(copy.id);
    }
  }
  return { treatment: tidyAlternatives(tidyGroups(made)), copies };
}
