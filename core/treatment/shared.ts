import type { Step, StepLook, Treatment } from './treatment';

/**
 * Looks that a series shares: the steps that came from one follow it when it is changed, each keeping what was changed of it
 * where it is.
 */
export interface SharedLook {
  id: string;
  revision: number;
  /** Its steps; their ids are theirs for good. */
  treatment: Treatment;
  /** The revision with which each of its steps came, by their ids. */
  since: Record<string, number>;
}

/** A step that follows a look. */
export type Held = Step & { look: StepLook };

export const isHeldBy = (step: Step, lookId: string): step is Held => step.look?.id === lookId;

/** The steps of a treatment that follow a look. */
export const heldBy = (treatment: Treatment, lookId: string): Held[] =>
  treatment.steps.filter(s => isHeldBy(s, lookId));

/** The looks that a treatment's steps follow. */
export const looksOf = ({ steps }: Treatment): string[] => [
  ...new Set(steps.flatMap(({ look }) => (look ? [look.id] : []))),
];

/** Steps that a look was made of, in its order, as ones that follow it from now on. */
export function linked(
  treatment: Treatment,
  ids: readonly string[],
  { id, revision, treatment: { steps } }: Omit<SharedLook, 'since'>,
): Treatment {
  const links = new Map(ids.map((stepId, i) => [stepId, steps[i].id]));
  return {
    ...treatment,
    steps: treatment.steps.map(s => {
      const step = links.get(s.id);
      return step === undefined ? s : ({ ...s, look: { id, revision, step, changed: [] } } as Step);
    }),
  };
}

/** A look as it is laid on so that what comes of it follows it. */
export const toFollow = (look: Omit<SharedLook, 'since'>): Treatment =>
  linked(
    look.treatment,
    look.treatment.steps.map(s => s.id),
    look,
  );

/** A treatment whose steps follow no other looks than these: what came from another series is the photograph's own. */
export const followingOnly = (treatment: Treatment, lookIds: readonly string[]): Treatment =>
  looksOf(treatment)
    .filter(id => !lookIds.includes(id))
    .reduce(letGo, treatment);

/** Steps without the look that they followed: they are the photograph's own. */
export const letGo = (treatment: Treatment, lookId: string): Treatment => ({
  ...treatment,
  steps: treatment.steps.map(s => {
    if (!isHeldBy(s, lookId)) return s;
    const { look: _, ...own } = s;
    return own;
  }),
});

/** A treatment whose steps say that they are as a look is now. */
export const withRevision = (
  treatment: Treatment,
  { id, revision }: Pick<SharedLook, 'id' | 'revision'>,
) => ({
  ...treatment,
  steps: treatment.steps.map(s => (isHeldBy(s, id) ? ({ ...s, look: { ...s.look, revision } } as Step) : s)),
});
