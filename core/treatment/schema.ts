import { z } from 'zod';
import { mixNames } from '../colour/mixes';
import { stages, type Stage } from '../steps/define';
import { stepKind, stepKinds, type Kind, type Settings } from '../steps';
import type { Mix } from '../colour/mixes';

/** The treatment format, version 1. See docs/architecture.md for what of it this version computes. */
export const FORMAT = 'lampwash-treatment';
export const VERSION = 1;

/** A trapezoid over tones: 0 below a, up to 1 at b, 1 until c, down to 0 at d. */
export type Range = [number, number, number, number];

export interface Step<K extends Kind = Kind> {
  id: string;
  kind: K;
  stage: Stage;
  name: string;
  enabled: boolean;
  group: string | null;
  /** 0..1 */
  strength: number;
  mix: Mix;
  reach: { own: Range; beneath: Range };
  mask: null;
  settings: Settings<K>;
}

export interface Treatment {
  format: typeof FORMAT;
  version: typeof VERSION;
  /** 0..1, the whole treatment against the bare picture. */
  strength: number;
  steps: Step[];
}

/** A treatment that cannot be read, with the place in the JSON. */
export class TreatmentError extends Error {
  constructor(
    readonly path: string,
    readonly reason: string,
  ) {
    super(path ? `${path}: ${reason}` : reason);
    this.name = 'TreatmentError';
  }
}

const fractionSchema = z.number().min(0).max(1);
const rangeSchema = z
  .tuple([fractionSchema, fractionSchema, fractionSchema, fractionSchema])
  .refine(([a, b, c, d]) => a <= b && b <= c && c <= d, 'the four ends must not fall');

const stepFrame = {
  id: z.string().min(1).max(64).optional(),
  stage: z.enum(stages).optional(),
  name: z.string().max(120).default(''),
  enabled: z.boolean().default(true),
  group: z.string().max(120).nullable().default(null),
  strength: fractionSchema.default(1),
  mix: z.enum(mixNames).default('normal'),
  reach: z
    .strictObject({
      own: rangeSchema.default([0, 0, 1, 1]),
      beneath: rangeSchema.default([0, 0, 1, 1]),
    })
    .prefault({}),
  mask: z.null('masks are not computed by this version').default(null),
};

const stepSchema = z.discriminatedUnion(
  'kind',
  stepKinds.map(k =>
    z.strictObject({ kind: z.literal(k.kind), ...stepFrame, settings: k.settings }),
  ) as never,
  {
    error: issue =>
      issue.code === 'invalid_union' && typeof (issue.input as { kind?: unknown })?.kind === 'string'
        ? `unknown step kind ${JSON.stringify((issue.input as { kind: string }).kind)}`
        : undefined,
  },
);

const wholeFrame = z
  .strictObject({
    quarterTurns: z.literal(0).default(0),
    mirror: z.literal(false).default(false),
    angle: z.literal(0).default(0),
    keystone: z
      .strictObject({ vertical: z.literal(0).default(0), horizontal: z.literal(0).default(0) })
      .prefault({}),
    crop: z
      .strictObject({
        x: z.literal(0).default(0),
        y: z.literal(0).default(0),
        width: z.literal(1).default(1),
        height: z.literal(1).default(1),
      })
      .prefault({}),
  })
  .optional();

/** More steps than this are refused: no picture needs them, and a hostile file could stall a plan. */
const MOST_STEPS = 200;

const treatmentSchema = z.strictObject({
  format: z.literal(FORMAT),
  version: z.literal(VERSION, {
    error: issue => `version ${JSON.stringify(issue.input)} is not known; this is version ${VERSION}`,
  }),
  strength: fractionSchema.default(1),
  frame: wholeFrame,
  steps: z.array(stepSchema).max(MOST_STEPS).default([]),
  masks: z.tuple([], 'masks are not computed by this version').default([]),
  tables: z.strictObject({}, 'colour tables are not computed by this version').default({}),
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

/**
 * Reads a treatment, with every default filled in. Nothing is half-read: it throws a TreatmentError that
 * names the first wrong place.
 */
export function parseTreatment(json: unknown): Treatment {
  const read = treatmentSchema.safeParse(json);
  if (!read.success) {
    const { path, reason } = firstIssue(read.error);
    throw new TreatmentError(path, reason);
  }
  const taken = new Set<string>();
  let last = 0;
  const steps = (read.data.steps as (Omit<Step, 'id' | 'stage'> & { id?: string; stage?: Stage })[]).map(
    (step, i) => {
      const at = `steps[${i}]`;
      if (step.id !== undefined && taken.has(step.id)) throw new TreatmentError(`${at}.id`, 'used twice');
      let id = step.id;
      for (let n = i + 1; id === undefined; n++) if (!taken.has(`s${n}`)) id = `s${n}`;
      taken.add(id);
      const usual = stages.indexOf(stepKind(step.kind)!.stage);
      const stage = step.stage ?? stages[Math.max(usual, last)];
      const order = stages.indexOf(stage);
      if (order < last) throw new TreatmentError(`${at}.stage`, `comes after ${stages[last]}`);
      last = order;
      return { ...step, id, stage } as Step;
    },
  );
  return { format: FORMAT, version: VERSION, strength: read.data.strength, steps };
}

/** A treatment with no steps: the bare photograph. */
export function bareTreatment(): Treatment {
  return { format: FORMAT, version: VERSION, strength: 1, steps: [] };
}
