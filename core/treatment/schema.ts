import { z } from 'zod';
import { mixNames } from '../colour/mixes';
import { frameSchema } from '../frame/schema';
import type { Mask } from '../masks/mask';
import { beneathPart } from '../masks/parts';
import { tooMuchPainting } from '../masks/painting';
import { maskSchema } from '../masks/schema';
import { tooMuchBeneath } from '../masks/standing';
import { idSchema, rangeSchema, referenceSchema, settingsSchema } from '../settings/schema';
import { stepKind, stepKinds } from '../steps';
import { stages, type Stage, type StepKind } from '../steps/define';
import { tidyTrays } from './trays';
import {
  FORMAT,
  MOST_MASKS,
  MOST_STEPS,
  TreatmentError,
  VERSION,
  type Step,
  type StepGroup,
  type Treatment,
} from './treatment';

/** Treatments as they come from outside: what is read of them, and how what is wrong is named. */

const fractionSchema = z.number().min(0).max(1);

const stepFrame = {
  id: idSchema.optional(),
  stage: z.enum(stages).optional(),
  name: z.string().max(120).default(''),
  enabled: z.boolean().default(true),
  group: z.string().trim().min(1).max(120).nullable().default(null),
  strength: fractionSchema.default(1),
  reach: z
    .strictObject({
      own: rangeSchema.default([0, 0, 1, 1]),
      beneath: rangeSchema.default([0, 0, 1, 1]),
    })
    .prefault({}),
  mask: idSchema.nullable().default(null),
  look: z
    .strictObject({
      id: idSchema,
      revision: z.int().min(1),
      step: idSchema.optional(),
      changed: z.array(z.string().min(1).max(60)).max(100).default([]),
    })
    .optional(),
  alternative: z.strictObject({ tray: idSchema, aside: z.boolean().default(false) }).optional(),
};

/** The settings of a kind; what an earlier version wrote is read as well. */
function settingsOfKind({ fields, earlier }: Pick<StepKind, 'fields' | 'earlier'>) {
  const schema = settingsSchema(fields);
  if (!earlier) return schema;
  const isObject = (v: unknown): v is Record<string, unknown> =>
    typeof v === 'object' && v !== null && !Array.isArray(v);
  return z.preprocess(settings => (isObject(settings) ? earlier(settings) : settings), schema);
}

const stepSchema = z.discriminatedUnion(
  'kind',
  // eslint-disable-next-line no-restricted-syntax -- the union is made of a list, whose length its type wants to know
  stepKinds.map(k =>
    z.strictObject({
      kind: z.literal(k.kind),
      ...stepFrame,
      mix: z.enum(mixNames).default(stepKind(k.kind)!.mix ?? 'normal'),
      settings: settingsOfKind(k),
    }),
  ) as never,
  {
    error: issue =>
      issue.code === 'invalid_union' && typeof (issue.input as { kind?: unknown })?.kind === 'string'
        ? `unknown step kind ${JSON.stringify((issue.input as { kind: string }).kind)}`
        : undefined,
  },
);

const groupSchema = z.strictObject({
  id: z.string().min(1).max(120),
  name: z.string().trim().min(1).max(120),
  strength: fractionSchema.default(1),
});

const treatmentSchema = z.strictObject({
  format: z.literal(FORMAT),
  version: z.literal(VERSION, {
    error: issue => `version ${JSON.stringify(issue.input)} is not known; this is version ${VERSION}`,
  }),
  strength: fractionSchema.default(1),
  frame: frameSchema,
  steps: z.array(stepSchema).max(MOST_STEPS).default([]),
  groups: z.array(groupSchema).max(MOST_STEPS).default([]),
  masks: z.array(maskSchema).max(MOST_MASKS).default([]),
  tables: z.record(idSchema, referenceSchema).default({}),
});

function pathText(path: readonly PropertyKey[]): string {
  return path.map((p, i) => (typeof p === 'number' ? `[${p}]` : i ? `.${String(p)}` : String(p))).join('');
}

/** A Zod error's first issue as one place and one reason; unknown keys are named in the place. */
export function firstIssue(error: z.ZodError): { path: string; reason: string } {
  const issue = error.issues[0];
  const path = issue.code === 'unrecognized_keys' ? [...issue.path, issue.keys[0]] : issue.path;
  const reason = issue.code === 'unrecognized_keys' ? 'unknown setting' : issue.message;
  return { path: pathText(path), reason };
}

/** Masks must have ids of their own, and may stand on others, but never in a ring and not without end. */
function checkMasks(masks: Mask[]): void {
  const places = new Map<string, number>();
  masks.forEach((mask, i) => {
    if (places.has(mask.id)) throw new TreatmentError(`masks[${i}].id`, 'used twice');
    places.set(mask.id, i);
  });
  const state = new Map<number, 'open' | 'done'>();
  const visit = (i: number): void => {
    state.set(i, 'open');
    masks[i].parts.forEach((part, j) => {
      const beneath = beneathPart(part);
      if (beneath === undefined) return;
      const at = `masks[${i}].parts[${j}].mask`;
      const other = places.get(beneath);
      if (other === undefined) throw new TreatmentError(at, `unknown mask ${JSON.stringify(beneath)}`);
      if (state.get(other) === 'open') throw new TreatmentError(at, 'the mask stands on itself');
      if (!state.has(other)) visit(other);
    });
    state.set(i, 'done');
  };
  masks.forEach((_, i) => state.has(i) || visit(i));
  masks.forEach((mask, i) => {
    const problem = tooMuchBeneath(mask, masks);
    if (problem) throw new TreatmentError(`masks[${i}].parts`, problem);
  });
  const painting = tooMuchPainting(masks);
  if (painting) throw new TreatmentError('masks', `hold ${painting}`);
}

type ReadStep = Omit<Step, 'id' | 'stage'> & { id?: string; stage?: Stage };

/** Gives each step its id and stage, and checks that what it names is there. */
function settleSteps(read: ReadStep[], masks: Mask[], tables: Treatment['tables']): Step[] {
  const taken = new Set<string>();
  const given = new Set(read.map(s => s.id).filter(id => id !== undefined));
  const known = new Set(masks.map(m => m.id));
  let last = 0;
  return read.map((step, i) => {
    const at = `steps[${i}]`;
    if (step.id !== undefined && taken.has(step.id)) throw new TreatmentError(`${at}.id`, 'used twice');
    let id = step.id;
    for (let n = i + 1; id === undefined; n++) if (!taken.has(`s${n}`) && !given.has(`s${n}`)) id = `s${n}`;
    taken.add(id);
    const usual = stages.indexOf(stepKind(step.kind)!.stage);
    const stage = step.stage ?? stages[Math.max(usual, last)];
    const order = stages.indexOf(stage);
    if (order < last) throw new TreatmentError(`${at}.stage`, `comes after ${stages[last]}`);
    last = order;
    if (step.mask !== null && !known.has(step.mask)) {
      throw new TreatmentError(`${at}.mask`, `unknown mask ${JSON.stringify(step.mask)}`);
    }
    const { table } = step.settings as { table?: string | null };
    if (typeof table === 'string' && !Object.hasOwn(tables, table)) {
      throw new TreatmentError(`${at}.settings.table`, `unknown colour table ${JSON.stringify(table)}`);
    }
    const look = step.look && { ...step.look, step: step.look.step ?? id };
    return { ...step, id, stage, ...(look && { look }) } as Step;
  });
}

/** Groups have ids of their own; one that steps name alone is called by what they name. */
function settleGroups(groups: readonly StepGroup[], steps: readonly Step[]): StepGroup[] {
  const known = new Set<string>();
  groups.forEach(({ id }, i) => {
    if (known.has(id)) throw new TreatmentError(`groups[${i}].id`, 'used twice');
    known.add(id);
  });
  const named = steps.flatMap(({ group }) => (group === null || known.has(group) ? [] : [group]));
  return [...groups, ...Array.from(new Set(named), id => ({ id, name: id, strength: 1 }))];
}

/** So many things may be wrong with what was made to be wrong that there is no room to list them. */
function safely<T>(read: () => T): T {
  try {
    return read();
  } catch (error) {
    if (error instanceof RangeError) throw new TreatmentError('', 'more is wrong with it than can be named');
    throw error;
  }
}

/**
 * Reads a treatment, with every default filled in. What it carries stands in it as references. Nothing is half-read: it
 * throws a TreatmentError that names the first wrong place.
 */
export function parseTreatment(json: unknown): Treatment {
  const read = safely(() => treatmentSchema.safeParse(json));
  if (!read.success) {
    const { path, reason } = firstIssue(read.error);
    throw new TreatmentError(path, reason);
  }
  const { strength, frame, masks, tables } = read.data;
  checkMasks(masks);
  const steps = [...tidyTrays(settleSteps(read.data.steps as ReadStep[], masks, tables))];
  const groups = settleGroups(read.data.groups, steps);
  return { format: FORMAT, version: VERSION, strength, frame, steps, groups, masks, tables };
}
