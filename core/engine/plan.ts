import { isGrey } from '../colour/grey';
import { coverageOf, type Coverage } from '../masks/coverage';
import type { Scale } from '../frame/geometry';
import type { Field, Point, StepContext } from '../steps/define';
import type { Mask } from '../masks/mask';
import type { Step, Treatment } from '../treatment/schema';
import { maskKey, pixelKey } from './keys';
import { bakeColours, bakeGreys, type Baked, type Table } from './bake';
import {
  activeSteps,
  contextOf,
  coversFully,
  exactly,
  groundStepsOf,
  inTurn,
  isPointStep,
  kindOf,
  layOn,
} from './lay';

/**
 * One thing done to a picture.
 * - `points`: each colour by itself, through a table or exactly, through a mask where there is one;
 * - `field`: a step that needs more than each colour, laid on through its mask;
 * - `ground`: what is there now is kept as the photograph with only its Ground steps.
 */
export type Pass = {
  key: string;
  /** What its survey depends on, beside the passes before it. */
  surveyKey?: string;
  /** What its mask depends on, where that is the place alone. */
  maskKey?: string;
  /** What the field's `placed` depends on. */
  placedKey?: string;
} & (
  | {
      kind: 'points';
      table: Table;
      /** The exact function, for colours that a table does not hold. */
      point: Point;
      coverage: Coverage | null;
      /** The context whose ground is set before `point` is asked; null where no step of the run reads it. */
      reads: StepContext | null;
      /** What is beneath counts as the ground: the step stands in the Ground stage. */
      onGround: boolean;
    }
  | { kind: 'field'; field: Field; step: Step; coverage: Coverage | null; onGround: boolean }
  | { kind: 'ground' }
);

export interface Plan {
  passes: Pass[];
  /** Equal keys mean equal pixels for the same photograph and frame. */
  key: string;
  /** Within the tolerance of the exact steps: always, but for a draft. */
  fine: boolean;
  /** The strength of the whole that is still to be applied against the bare picture; 1 where it is in a table. */
  strength: number;
  /** Only points without masks: no pixel needs anything but itself. */
  simple: boolean;
  /** Some pass wants a look at the whole picture first. */
  surveyed: boolean;
  /** How many pixels around a part are needed to render it. */
  margin: (scale: Scale) => number;
}

export interface PlanContext {
  /** The photograph has one number a pixel (R = G = B everywhere). */
  grey: boolean;
  /** How many pixels will be rendered: a table with more nodes than this costs more than it saves. */
  pixels: number;
  /** For a first answer: the coarsest tables, fine or not (half within 0.2/255, a few off by 5). */
  draft?: boolean;
}

/** A picture with fewer pixels than this is rendered exactly: a table would cost more than it saves. */
const FEWEST_PIXELS = 20_000;

/** Steps of grey to which a ramp's ends are widened, so that it is not baked anew for every small change. */
const SPAN_STEP = 0.5;
/** Greys that a ramp holds where what comes in is not known: beyond it steps run exactly. */
const WIDE_SPAN: [number, number] = [-0.5, 1.5];

const spans = new WeakMap<Float32Array, [number, number]>();

/** The greys that a grid leaves, at least 0..1, widened to whole steps. */
function greySpan(table: Table): [number, number] {
  if (table.kind !== 'grid') return WIDE_SPAN;
  const { values } = table.grid;
  let span = spans.get(values);
  if (!span) {
    let from = 0;
    let to = 1;
    for (let i = 0; i < values.length; i++) {
      if (values[i] < from) from = values[i];
      if (values[i] > to) to = values[i];
    }
    span = [Math.floor(from / SPAN_STEP) * SPAN_STEP, Math.ceil(to / SPAN_STEP) * SPAN_STEP];
    spans.set(values, span);
  }
  return span;
}

/** How many of the first steps it takes until the picture is grey; 0 where it never is. */
function stepsUntilGrey(steps: readonly Step[]): number {
  return steps.findIndex(s => coversFully(s) && kindOf(s).leavesGrey?.(s.settings)) + 1;
}

export interface Planner {
  (treatment: Treatment, context: PlanContext): Plan;
  /** The tables that are kept, to be handed to another planner. */
  tables: () => KeptTable[];
  /** Takes in tables that another planner baked. */
  learn: (tables: readonly KeptTable[]) => void;
}
export type KeptTable = readonly [key: string, baked: Baked];

/** What a planner carries along while it lays out the passes of one treatment. */
interface Layout {
  passes: Pass[];
  /** One number a pixel is left. */
  grey: boolean;
  /** The greys that may come in. */
  span: [number, number];
  fine: boolean;
}

/**
 * A planner that keeps its last baked tables, so that moving one control bakes only what it changes.
 * The plan bakes runs of steps that see each colour alone: into a 3D table while the picture has colour, into a
 * 1D table once one number a pixel is left. Each table is checked against the exact steps; where the error
 * passes 0.5/255 a finer one is baked, and where that fails too, or where the picture is smaller than the
 * table, the steps run exactly. Steps with masks, and steps that look at neighbours, are passes of their own.
 */
export function createPlanner(keep = 48): Planner {
  const kept = new Map<string, Baked>();
  const remember = (key: string, make: () => Baked): Baked => {
    const baked = kept.get(key) ?? make();
    kept.delete(key);
    kept.set(key, baked);
    if (kept.size > keep) kept.delete(kept.keys().next().value!);
    return baked;
  };
  /** A fine table that is kept serves a draft as well; none serves where it would be off: then exactly. */
  const baked = (of: string, bake: (draft: boolean) => Baked, draft: boolean): Baked => {
    const fine = kept.get(`fine ${of}`);
    if (draft && !fine) return remember(`draft ${of}`, () => bake(true));
    const table = remember(`fine ${of}`, () => bake(false));
    return table.fine ? table : { table: { kind: 'exact' }, fine: true };
  };

  const plan = (treatment: Treatment, context: PlanContext): Plan => {
    const { draft = false } = context;
    const steps = activeSteps(treatment);
    const use = contextOf(treatment);
    const { masks } = treatment;
    const tablesKey = (list: readonly Step[]) =>
      list.map(s => {
        const { table } = s.settings as { table?: string | null };
        return table ? treatment.tables[table].sha256 : 0;
      });
    const layout: Layout = { passes: [], grey: context.grey, span: [0, 1], fine: true };

    /** Adds a pass over each colour, baked for greys or for colours. */
    const points = (
      point: Point,
      of: readonly unknown[],
      more: {
        leavesGrey?: boolean;
        coverage?: Coverage | null;
        maskOf?: unknown;
        reads?: StepContext | null;
        onGround?: boolean;
      } = {},
    ) => {
      const { leavesGrey = false, coverage = null, maskOf = null, reads = null, onGround = false } = more;
      const name = JSON.stringify(of);
      const pixels = coverage ? context.pixels * MASKED_SHARE : context.pixels;
      let made: Baked = { table: { kind: 'exact' }, fine: true };
      if (!reads && layout.grey) {
        const [from, to] = layout.span;
        made = baked(
          JSON.stringify(['ramp', from, to, name]),
          coarse => bakeGreys(point, from, to, coarse),
          draft,
        );
      } else if (!reads && pixels >= FEWEST_PIXELS) {
        const channels = leavesGrey ? 1 : 3;
        made = baked(
          JSON.stringify(['grid', channels, name]),
          coarse => bakeColours(point, channels, coarse),
          draft,
        );
      }
      const { table } = made;
      layout.fine &&= made.fine;
      layout.passes.push({
        kind: 'points',
        key: JSON.stringify([name, layout.grey, table.kind, made.fine, maskOf]),
        maskKey: coverage?.placed ? JSON.stringify(maskOf) : undefined,
        table,
        point,
        coverage,
        reads,
        onGround,
      });
      if (leavesGrey && !coverage) {
        layout.grey = true;
        layout.span = table.kind === 'grid' ? greySpan(table) : WIDE_SPAN;
      } else if (layout.grey) {
        layout.grey = table.kind === 'ramp' && isGrey(table.ramp.values);
        layout.span = WIDE_SPAN;
      }
    };

    /** A run of steps that see each colour alone: until it is grey, and after. */
    const run = (list: readonly Step[], groundSteps: number) => {
      let rest = list;
      if (!layout.grey) {
        const until = stepsUntilGrey(list);
        const coloured = list.slice(0, until || list.length);
        // A step further on that reads the ground needs it from here: then the run stays whole.
        const later = list.slice(coloured.length);
        if (later.some(s => kindOf(s).usesGround)) {
          points(inTurn(list, groundSteps, use), [list.map(pixelKey), groundSteps, tablesKey(list)]);
          return;
        }
        points(
          inTurn(coloured, groundSteps, use),
          [coloured.map(pixelKey), groundSteps, tablesKey(coloured)],
          { leavesGrey: until > 0 },
        );
        rest = later;
      }
      if (rest.length)
        points(inTurn(rest, groundSteps, use), [rest.map(pixelKey), groundSteps, tablesKey(rest)]);
    };

    const key = JSON.stringify([
      context.grey,
      treatment.strength,
      steps.map(s => [pixelKey(s), s.mask && maskKey(s.mask, masks), s.stage === 'ground']),
      tablesKey(steps),
    ]);
    const allPoints = steps.every(s => isPointStep(s, use));
    let strength = 1;
    if (steps.length && allPoints && treatment.strength < 1) points(exactly(treatment), [key]);
    else if (steps.length) {
      strength = treatment.strength;
      layOut(steps, use, masks, { run, points, layout, tablesKey });
    }
    const { passes, fine } = layout;
    return {
      passes,
      key: fine ? key : `draft ${key}`,
      fine,
      strength,
      simple: strength === 1 && passes.every(p => p.kind === 'points' && !p.coverage && !p.reads),
      surveyed: passes.some(
        p => (p.kind === 'field' && p.field.survey) || (p.kind !== 'ground' && p.coverage?.survey),
      ),
      margin: scale =>
        passes.reduce((sum, p) => sum + (p.kind === 'field' ? (p.field.margin?.(scale) ?? 0) : 0), 0),
    };
  };
  return Object.assign(plan, {
    tables: () => [...kept],
    learn: (tables: readonly KeptTable[]) => {
      for (const [key, table] of tables) remember(key, () => table);
    },
  });
}

/** The share of a picture that a mask is expected to touch, for choosing tables. */
const MASKED_SHARE = 0.25;

interface Builders {
  run: (list: readonly Step[], groundSteps: number) => void;
  points: (
    point: Point,
    of: readonly unknown[],
    more?: {
      coverage?: Coverage | null;
      maskOf?: unknown;
      reads?: StepContext | null;
      onGround?: boolean;
    },
  ) => void;
  layout: Layout;
  tablesKey: (list: readonly Step[]) => unknown;
}

/** Lays out the passes of steps: runs of points, and what must stand by itself. */
function layOut(
  steps: readonly Step[],
  use: StepContext,
  masks: readonly Mask[],
  { run, points, layout, tablesKey }: Builders,
): void {
  const groundSteps = groundStepsOf(steps);
  const coverages = steps.map(s =>
    s.mask === null ? null : coverageOf(s.mask, masks, kindOf(s).bleed?.(s.settings) ?? 0),
  );
  const alone = steps.map(s => !isPointStep(s, use));
  const firstAlone = alone.indexOf(true);
  // A later pass reads the ground from a picture of it, unless it stands in one run with the source.
  const readsPicture = steps.map(
    (s, i) =>
      i >= groundSteps &&
      (coverages[i]?.needsGround ||
        (kindOf(s).usesGround && (alone[i] || (firstAlone >= 0 && i > firstAlone)))),
  );
  const keepsGround = readsPicture.includes(true);

  let open: Step[] = [];
  let openFrom = 0;
  const flush = () => {
    if (open.length) run(open, Math.max(0, groundSteps - openFrom));
    open = [];
  };
  steps.forEach((step, i) => {
    if (keepsGround && i === groundSteps) {
      flush();
      layout.passes.push({ kind: 'ground', key: 'ground' });
    }
    // In one run with the source a step finds the ground on the way; else it is read from its picture.
    const findsGround = !kindOf(step).usesGround || i < groundSteps || layout.passes.length === 0;
    const inRun = !alone[i] && findsGround;
    if (inRun) {
      if (!open.length) openFrom = i;
      open.push(step);
      return;
    }
    flush();
    const coverage = coverages[i];
    const onGround = i < groundSteps;
    const maskOf = step.mask && [maskKey(step.mask, masks), kindOf(step).bleed?.(step.settings) ?? 0];
    const field = kindOf(step).field?.(step.settings, use);
    if (field) {
      layout.passes.push({
        kind: 'field',
        key: JSON.stringify(['field', pixelKey(step), maskOf, onGround]),
        maskKey: coverage?.placed ? JSON.stringify(maskOf) : undefined,
        placedKey: field.placed && JSON.stringify([step.kind, field.placedKey ?? step.settings]),
        surveyKey: field.surveyKey && JSON.stringify([field.surveyKey, maskOf, onGround]),
        field,
        step,
        coverage,
        onGround,
      });
      const turnsGrey = coversFully(step) && kindOf(step).leavesGrey?.(step.settings);
      layout.grey = Boolean(turnsGrey) || (layout.grey && Boolean(field.keepsGrey));
      layout.span = WIDE_SPAN;
      return;
    }
    points(layOn(step, use), [pixelKey(step), tablesKey([step]), onGround], {
      coverage,
      maskOf,
      reads: kindOf(step).usesGround ? use : null,
      onGround,
    });
  });
  flush();
}
