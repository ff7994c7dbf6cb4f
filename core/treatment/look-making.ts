import { withoutLeft } from './following';
import { freshIds } from './fresh-ids';
import { layTreatment, partOf } from './laying';
import { isSameArea } from './own-changes';
import type { Step, Treatment } from './treatment';
import type { SharedLook } from './shared';

/** Shared looks made of a photograph's steps, and made anew. */

/** A look's treatment with one of its steps as it is here. */
export function withStepOf(look: SharedLook, treatment: Treatment, stepId: string): Treatment {
  const step = treatment.steps.find(s => s.id === stepId);
  const at = look.treatment.steps.findIndex(s => s.id === step?.look?.step);
  if (!step || at < 0) return look.treatment;
  const old = look.treatment.steps[at];
  const bare = { ...look.treatment, steps: [], groups: [] };
  const laying = { how: 'added', frame: false, painted: true } as const;
  const { treatment: laid } = layTreatment(bare, partOf(treatment, [stepId]), laying);
  const { look: _, ...now } = laid.steps[0];
  const kept = isSameArea(step, treatment, old, look.treatment) ? { mask: old.mask } : {};
  const made = { ...now, ...kept, id: old.id, group: old.group, stage: old.stage } as Step;
  const { masks, tables } = laid;
  const steps = look.treatment.steps.with(at, made);
  return withoutLeft({ ...look.treatment, steps, masks, tables }, look.treatment, [old]);
}

/**
 * Steps of a treatment as those of a look, each by itself: ones that follow it already keep the ids that they have in it.
 */
export function asLook(treatment: Treatment, ids: readonly string[], lookId: string | null): Treatment {
  const part = partOf(treatment, ids);
  const taken = new Set<string>();
  const next = freshIds(
    'n',
    part.steps.flatMap(({ look }) => (look ? [look.step] : [])),
  );
  return {
    ...part,
    steps: part.steps.map(step => {
      const { look, alternative: _, ...own } = step;
      const id = look?.id === lookId && !taken.has(look.step) ? look.step : next();
      taken.add(id);
      return { ...own, id };
    }),
  };
}

/**
 * A look's next state: steps that it had keep their ids, the others get new ones that none ever had. One that comes again
 * after it was gone counts as new.
 */
export function nextRevision(look: SharedLook | null, treatment: Treatment): Omit<SharedLook, 'id'> {
  const revision = (look?.revision ?? 0) + 1;
  const since = { ...look?.since };
  const had = new Set(look?.treatment.steps.map(s => s.id));
  const steps = treatment.steps.map((s, i) => {
    const { look: _, ...step } = s;
    const id = Object.hasOwn(since, s.id) ? s.id : `r${revision}-${i + 1}`;
    if (!had.has(id)) since[id] = revision;
    return { ...step, id } as Step;
  });
  return { revision, since, treatment: { ...treatment, steps } };
}
