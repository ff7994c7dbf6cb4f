import { z } from 'zod';
import { frameSchema } from '../core/frame/schema';
import type { Operation } from '../core/treatment/patch';
import { MOST_OPERATIONS } from '../core/treatment/treatment';
import type { Treatment } from '../core/treatment/treatment';
import { byId, counted, countedInAddress } from './common';
import { MOST_TREATMENT } from './limits';
import { declare } from './route';

/** Takes: treatments of a photograph, each with its history. */

export const takeSummary = z.object({
  id: z.uuid(),
  letter: z.string(),
  name: z.string(),
  revision: z.int(),
  /** Kinds of the steps that are on, in order. */
  steps: z.array(z.string()),
  /** Its frame; null where it is not known without reading the treatment. */
  frame: frameSchema.nullable(),
});
export type TakeSummary = z.infer<typeof takeSummary>;

const revision = counted.min(1);
const label = z.string().max(120).default('');
/** Names a change, so that one whose answer was lost is not made twice. */
const command = z.uuid().optional();

/** A treatment as its format has it; the core reads it, and says what is wrong and where. */
// eslint-disable-next-line no-restricted-syntax -- the core reads it whole; here only its head is looked at
export const treatmentView = z.looseObject({ format: z.string(), version: z.int() }) as unknown as z.ZodType<
  Treatment,
  Treatment
>;

/** JSON Patch, RFC 6902; its values are checked with the treatment that it makes. */
const looseOperation = z.looseObject({
  op: z.enum(['add', 'remove', 'replace', 'move', 'copy', 'test']),
  path: z.string().max(1000),
  from: z.string().max(1000).optional(),
});
// eslint-disable-next-line no-restricted-syntax -- which values go with which operation is told where the patch is laid on
const operationSchema = looseOperation as unknown as z.ZodType<Operation, Operation>;

const patchSchema = z.array(operationSchema).max(MOST_OPERATIONS);

/**
 * A patch that is sent: what it makes is never larger than it is itself. `move` and `copy`, which a few hundred bytes can
 * multiply without end, and `test` are not taken; Lamp Wash sends none of them.
 */
export const sentPatch = patchSchema.refine(
  patch => patch.every(({ op }) => op === 'add' || op === 'remove' || op === 'replace'),
  'may add, remove and replace; it has no other operation',
);

/** Where a take stands: what every change of it answers with. */
const takeState = z.object({
  id: z.uuid(),
  photographId: z.uuid(),
  letter: z.string(),
  name: z.string(),
  revision: z.int(),
  /** The number of the current state in the take's history. */
  state: z.int(),
  /** The last change that was named, if the current state is still its. */
  command: z.uuid().nullable(),
  /** What undo would take back, and redo bring again; null where there is nothing. */
  undo: z.string().nullable(),
  redo: z.string().nullable(),
});
export type TakeState = z.infer<typeof takeState>;

const takeView = takeState.extend({ treatment: treatmentView });
export type Take = z.infer<typeof takeView>;

export const createTake = declare({
  method: 'post',
  path: '/api/photographs/:id/takes',
  summary: 'Makes a take: a copy of another one of the photograph, or bare. It becomes the current one.',
  params: byId,
  body: z.strictObject({
    from: z.uuid().optional(),
    treatment: z.unknown().optional(),
    name: z.string().max(120).default(''),
  }),
  answer: takeView,
  holdsTreatment: true,
  most: 64 * 1024 * 1024,
});

export const getTake = declare({
  method: 'get',
  path: '/api/takes/:id',
  summary: 'A take with its treatment and revision.',
  params: byId,
  answer: takeView,
});

export const getTakeState = declare({
  method: 'get',
  path: '/api/takes/:id/states/:state',
  summary: 'A treatment of the take’s history.',
  params: z.strictObject({ id: z.uuid(), state: countedInAddress }),
  answer: treatmentView,
});

/** A state of the history, made from the one before it. */
const made = z.object({ state: z.int(), label: z.string(), patch: patchSchema });

export const getHistory = declare({
  method: 'get',
  path: '/api/takes/:id/history',
  summary: 'The states about a state: those that undo leads back to, and those that redo leads on to.',
  params: byId,
  query: z.strictObject({
    state: countedInAddress,
    back: z.coerce.number().int().min(0).max(500).default(60),
  }),
  answer: z.object({
    /** The earliest state told, whole. */
    base: z.object({ state: z.int(), label: z.string(), treatment: treatmentView }),
    /** There are earlier ones. */
    more: z.boolean(),
    /** From the base to the state asked for. */
    past: z.array(made),
    /** Beyond it, as redo would go. */
    future: z.array(made),
  }),
});
export type History = z.infer<NonNullable<typeof getHistory.answer>>;

export const renameTake = declare({
  method: 'patch',
  path: '/api/takes/:id',
  summary: 'Renames a take.',
  params: byId,
  body: z.strictObject({ name: z.string().trim().max(120) }),
  answer: takeState,
});

export const removeTake = declare({
  method: 'delete',
  path: '/api/takes/:id',
  summary: 'Puts a take aside; a photograph keeps at least one. It can be brought back.',
  params: byId,
});

export const restoreTake = declare({
  method: 'post',
  path: '/api/takes/:id/restore',
  summary: 'Brings a take back and makes it the current one.',
  params: byId,
  answer: takeState,
});

export const patchTreatment = declare({
  method: 'patch',
  path: '/api/takes/:id/treatment',
  summary:
    'Changes the treatment of a revision by a JSON Patch (RFC 6902); 409 with the newest state where that is stale.',
  params: byId,
  body: z.strictObject({ revision, patch: sentPatch, label, command }),
  answer: takeState,
  most: MOST_TREATMENT + 64 * 1024,
});

export const putTreatment = declare({
  method: 'put',
  path: '/api/takes/:id/treatment',
  summary:
    'Saves a whole treatment that was made from a revision; 409 with the newest state where that is stale.',
  params: byId,
  body: z.strictObject({
    revision,
    treatment: z.unknown().refine(given => given !== undefined, 'is missing'),
    label,
  }),
  answer: takeView,
  holdsTreatment: true,
  most: 64 * 1024 * 1024,
});

const moving = z.strictObject({ revision, command });

export const undoTake = declare({
  method: 'post',
  path: '/api/takes/:id/undo',
  summary: 'Takes back the last change.',
  params: byId,
  body: moving,
  answer: takeState,
});

export const redoTake = declare({
  method: 'post',
  path: '/api/takes/:id/redo',
  summary: 'Brings back what was taken back.',
  params: byId,
  body: moving,
  answer: takeState,
});

export const jumpTake = declare({
  method: 'post',
  path: '/api/takes/:id/jump',
  summary: 'Goes to any state of the history. Undo leads on from there.',
  params: byId,
  body: z.strictObject({ revision, command, state: counted }),
  answer: takeState,
});

export const takeEdges = [160, 480, 960] as const;

export const getTakePicture = declare({
  method: 'get',
  path: '/api/takes/:id/picture',
  summary: 'The take as a small JPEG for thumbnails. Put the revision into the address to have it kept.',
  params: byId,
  query: z.strictObject({
    edge: z.coerce.number().pipe(z.literal(takeEdges)).default(480),
    revision: countedInAddress.optional(),
  }),
  gives: 'image/jpeg',
});

export const fitTake = declare({
  method: 'post',
  path: '/api/takes/:id/fit',
  summary:
    'The treatment of a take brought towards the middle of its series, by least squares: how strong its toning is, a tint over it, its ends. Nothing is changed. 409 where fewer than three photographs of the series are treated.',
  params: byId,
  answer: z.object({ treatment: treatmentView }),
});
