import { isGrey } from '../colour/grey';
import { coverageOf, type Coverage } from '../masks/coverage';
import { isWhole } from '../masks/reach';
import type { Field, Laid, Point, StepContext } from '../steps/define';
import type { Step, Treatment } from '../treatment/treatment';
import { abandonable } from './abandoned';
import { bakeColours, bakeGreys, growColours, type Baked } from './bake';
import type { Occupied } from '../kernels/occupied';
import type { KeptTables } from './kept-tables';
import { maskKey, pixelKey } from './keys';
import {
  contextOf,
  coversFully,
  exactly,
  groundStepsOf,
  inTurn,
  isPointStep,
  isTogether,
  itemsOf,
  kindOf,
  layOn,
  stepsOf,
  type Item,
  type Together,
} from './lay';
import type { Pass } from './pass';
import { runPoints } from './points';

/**
 * The passes of a treatment, laid out one after another: runs of steps that see each colour alone are baked, into a 3D
 * table while the picture has colour and a 1D table once one number a pixel is left; steps with masks, and those that look
 * at neighbours, are passes of their own.
 */

export interface PlanContext {
  /** The photograph has one number a pixel (R = G = B everywhere). */
  grey: boolean;
  /** How many pixels will be rendered: a table with more nodes than this costs more than it saves. With none nothing is baked. */
  pixels: number;
  /**
   * The colours that the first table of colours reads: those of the photograph in its frame, or of what a first pass
   * prepares. Left out where any may come.
   */
  occupied?: Occupied;
  /** For a first answer: the coarsest tables, fine or not (half within 0.2/255, a few off by 5). */
  draft?: boolean;
  /** Asked while tables are baked: where it says so, planning throws `Abandoned`, and keeps what it had. */
  isAbandoned?: () => boolean;
}

/**
 * A picture with fewer pixels than this is rendered exactly, or in a draft nearly so: a table would cost more than it saves.
 */
const FEWEST_PIXELS = 20_000;

/** The share of a picture that a mask is expected to touch, for choosing tables. */
const MASKED_SHARE = 0.25;

/** Greys that a ramp holds where what comes in is not known: beyond it steps run exactly. */
const WIDE_SPAN: [number, number] = [-0.5, 1.5];

/** What is carried along while the passes are laid out. */
interface Layout {
  treatment: Treatment;
  context: PlanContext;
  use: StepContext;
  kept: KeptTables;
  passes: Pass[];
  /** One number a pixel is left. */
  grey: boolean;
  /** The greys that may come in. */
  span: [number, number];
  /** All tables are within the tolerance of the exact steps. */
  fine: boolean;
}

/** The tables that steps read, by what is in them. */
const tablesKey = ({ treatment }: Pick<Layout, 'treatment'>, steps: readonly Step[]) =>
  steps.map(({ settings }) => {
    const { table } = settings as { table?: string | null };
    return table ? treatment.tables[table].sha256 : 0;
  });

/** What the pixels of a treatment depend on, for steps that do anything. */
export const keyOfSteps = (treatment: Treatment, grey: boolean, steps: readonly Step[]): string =>
  JSON.stringify([
    grey,
    treatment.strength,
    itemsOf(steps, treatment.groups).map(item => (isTogether(item) ? [item.strength, item.steps.length] : 1)),
    steps.map(s => [pixelKey(s), s.mask && maskKey(s.mask, treatment.masks), s.stage === 'ground']),
    tablesKey({ treatment }, steps),
  ]);

/** What is known of the colours that come next: nothing, once anything has been done to them. */
const occupiedHere = ({ context, passes }: Layout): Occupied | null =>
  passes.every(p => p.kind === 'field' && p.prepares) ? (context.occupied ?? null) : null;

const mayBeGivenUp = (point: Point, { isAbandoned }: PlanContext): Point =>
  isAbandoned ? abandonable(point, isAbandoned) : point;

/** A point over colours as a table, where the pixels are worth one. */
function bakedColours(
  layout: Layout,
  point: Point,
  channels: 1 | 3,
  name: string,
  pixels: number,
  occupied: Occupied | null,
): Baked {
  const { context, kept } = layout;
  if (pixels < FEWEST_PIXELS) {
    return context.draft
      ? { table: { kind: 'alike' }, fine: false }
      : { table: { kind: 'exact' }, fine: true };
  }
  return kept.of(
    JSON.stringify(['grid', channels, name]),
    context.draft ?? false,
    (coarse, read, known) => {
      const asked = mayBeGivenUp(point, context);
      return known && read ? growColours(known, asked, read) : bakeColours(asked, channels, coarse, read);
    },
    occupied,
  );
}

/** How a pass over each colour differs from one over all pixels. */
interface Points {
  leavesGrey?: boolean;
  coverage?: Coverage | null;
  maskOf?: unknown;
  strength?: number;
  reads?: StepContext | null;
  onGround?: boolean;
  /** The same by a compiled kernel, where there is one. */
  compiled?: Laid | null;
}

/** Adds a pass over each colour, baked for greys or for colours where a table is worth it. */
function addPoints(
  layout: Layout,
  point: Point,
  of: readonly unknown[],
  {
    leavesGrey = false,
    coverage = null,
    maskOf = null,
    strength = 1,
    reads = null,
    onGround = false,
    compiled = null,
  }: Points = {},
): void {
  const { context, kept } = layout;
  const draft = context.draft ?? false;
  const name = JSON.stringify(of);
  const pixels = coverage ? context.pixels * MASKED_SHARE : context.pixels;
  let made: Baked = { table: { kind: 'exact' }, fine: true };
  if (compiled) made = { table: { kind: 'compiled', run: compiled }, fine: true };
  else if (!reads && layout.grey && context.pixels > 0) {
    const [from, to] = layout.span;
    made = kept.of(JSON.stringify(['ramp', from, to, name]), draft, coarse =>
      bakeGreys(mayBeGivenUp(point, context), from, to, coarse),
    );
  } else if (!reads)
    made = bakedColours(layout, point, leavesGrey ? 1 : 3, name, pixels, occupiedHere(layout));
  const { table } = made;
  layout.fine &&= made.fine;
  layout.passes.push({
    kind: 'points',
    key: JSON.stringify([name, layout.grey, table.kind, made.fine, maskOf, strength]),
    does: JSON.stringify([name, layout.grey, maskOf, strength]),
    maskKey: coverage?.placed ? JSON.stringify(maskOf) : undefined,
    table,
    point,
    coverage,
    strength,
    reads,
    onGround,
  });
  if (leavesGrey && !coverage) {
    layout.grey = true;
    layout.span = (table.kind === 'grid' && table.span) || WIDE_SPAN;
  } else if (layout.grey) {
    layout.grey = table.kind === 'ramp' && isGrey(table.ramp.values);
    layout.span = WIDE_SPAN;
  }
}

/** Items as what their pixels depend on. */
const itemKeys = (items: readonly Item[]): unknown[] =>
  items.map(item =>
    isTogether(item) ? ['together', item.strength, item.steps.map(pixelKey)] : pixelKey(item),
  );

/** How many of the first items it takes until the picture is grey; 0 where it never is. */
function itemsUntilGrey(items: readonly Item[]): number {
  return (
    items.findIndex(
      item => !isTogether(item) && coversFully(item) && kindOf(item).leavesGrey?.(item.settings),
    ) + 1
  );
}

/** Adds a run of steps that see each colour alone: until it is grey, and after. */
function addRun(layout: Layout, items: readonly Item[], groundSteps: number): void {
  const add = (run: readonly Item[], more?: Points) =>
    addPoints(
      layout,
      inTurn(run, groundSteps, layout.use),
      [itemKeys(run), groundSteps, tablesKey(layout, run.flatMap(stepsOf))],
      more,
    );
  let rest = items;
  if (!layout.grey) {
    const until = itemsUntilGrey(items);
    const coloured = items.slice(0, until || items.length);
    // A step further on that reads the ground needs it from here: then the run stays whole.
    const later = items.slice(coloured.length);
    if (later.some(item => stepsOf(item).some(s => kindOf(s).usesGround))) {
      add(items);
      return;
    }
    add(coloured, { leavesGrey: until > 0 });
    rest = later;
  }
  if (rest.length) add(rest);
}

/** What a step's point makes of the picture that a field leaves: through a table of its own where one is worth it. */
function preparedField(layout: Layout, step: Step, before: Field): Field {
  const kind = kindOf(step);
  const point = kind.point(step.settings, layout.use);
  const channels = kind.leavesGrey?.(step.settings) ? 1 : 3;
  const name = JSON.stringify([step.kind, step.settings, tablesKey(layout, [step])]);
  const made = bakedColours(layout, point, channels, name, layout.context.pixels, null);
  layout.fine &&= made.fine;
  const through = { table: made.table, point, coverage: null, strength: 1, reads: null, onGround: false };
  return {
    ...before,
    own: (region, survey, out, placed) => {
      before.own(region, survey, out, placed);
      runPoints({ kind: 'points', key: name, does: name, ...through }, out, region, null, null);
    },
  };
}

/** Adds what is done to the picture before a step that then sees each colour alone. */
function addPreparing(layout: Layout, step: Step, field: Field, onGround: boolean): void {
  const surveyKey = field.surveyKey && JSON.stringify(['before', field.surveyKey, onGround]);
  const key = surveyKey ?? JSON.stringify(['before', pixelKey(step), onGround]);
  layout.passes.push({
    kind: 'field',
    key,
    does: key,
    surveyKey,
    field,
    step,
    coverage: null,
    onGround,
    prepares: true,
  });
}

/** Adds a step that stands by itself: one with a mask, or one that needs more than each colour. */
function addAlone(layout: Layout, step: Step, coverage: Coverage | null, onGround: boolean): void {
  const { treatment, use } = layout;
  if (step.alone && coverage) {
    const key = JSON.stringify(['alone', maskKey(step.mask!, treatment.masks), onGround]);
    layout.passes.push({
      kind: 'alone',
      key,
      does: key,
      coverage,
      onGround,
    });
    return;
  }
  const kind = kindOf(step);
  const before = layout.grey ? null : kind.prepares?.(step.settings);
  const bleed = kind.bleed?.(step.settings) ?? 0;
  const maskOf = step.mask && [maskKey(step.mask, treatment.masks), bleed];
  const field = kind.field?.(step.settings, use) ?? (before && preparedField(layout, step, before));
  if (!field) {
    const lays = isWhole(step.reach.own) && isWhole(step.reach.beneath) && !kind.overMix?.(step.settings);
    // A mask lays it on by its strength; so a table serves for any.
    const whole = coverage ? { ...step, strength: 1 } : step;
    addPoints(layout, layOn(whole, use), [pixelKey(whole), tablesKey(layout, [step]), onGround], {
      coverage,
      maskOf,
      strength: coverage ? step.strength : 1,
      reads: kind.usesGround ? use : null,
      onGround,
      compiled: lays && coverage ? (kind.laid?.(step.settings, step.mix) ?? null) : null,
    });
    return;
  }
  const does = JSON.stringify(['field', pixelKey(step), maskOf, onGround]);
  layout.passes.push({
    kind: 'field',
    // What was made through a draft's table is another picture.
    key: JSON.stringify([does, !before || layout.fine]),
    does,
    maskKey: coverage?.placed ? JSON.stringify(maskOf) : undefined,
    placedKey: field.placed && JSON.stringify([step.kind, field.placedKey ?? step.settings]),
    surveyKey: field.surveyKey && JSON.stringify([field.surveyKey, maskOf, onGround]),
    field,
    step,
    coverage,
    onGround,
  });
  const turnsGrey = coversFully(step) && kind.leavesGrey?.(step.settings);
  layout.grey = Boolean(turnsGrey) || (layout.grey && Boolean(field.keepsGrey));
  layout.span = WIDE_SPAN;
}

/** Adds the passes of steps: runs of those that see each colour alone, and what must stand by itself. */
function addSteps(layout: Layout, steps: readonly Step[]): void {
  const { treatment, use } = layout;
  const groundSteps = groundStepsOf(steps);
  const coverages = steps.map(s =>
    s.mask === null ? null : coverageOf(s.mask, treatment.masks, kindOf(s).bleed?.(s.settings) ?? 0),
  );
  const alone = steps.map(s => !isPointStep(s, use));
  const firstAlone = alone.indexOf(true);
  // A later pass reads the ground from a picture of it, unless it stands in one run with the source.
  const keepsGround = steps.some(
    (s, i) =>
      i >= groundSteps &&
      (coverages[i]?.needsGround ||
        (kindOf(s).usesGround && (alone[i] || (firstAlone >= 0 && i > firstAlone)))),
  );

  let open: Item[] = [];
  let openFrom = 0;
  const flush = () => {
    if (open.length) addRun(layout, open, Math.max(0, groundSteps - openFrom));
    open = [];
  };
  const join = (item: Item, i: number) => {
    if (!open.length) openFrom = i;
    open.push(item);
  };
  // In one run with the source a step finds the ground on the way; else it is read from its picture.
  const findsGround = (step: Step, i: number) =>
    !kindOf(step).usesGround || i < groundSteps || layout.passes.length === 0;
  const keepGround = (i: number) => {
    if (!keepsGround || i !== groundSteps) return;
    flush();
    layout.passes.push({ kind: 'ground', key: 'ground', does: 'ground', coverage: null });
  };

  const addStep = (step: Step, i: number) => {
    keepGround(i);
    const before = coversFully(step) && kindOf(step).prepares?.(step.settings);
    if (before) {
      // Before the whole run, where nothing else reads it: then it stays one table, and what moves in the run leaves what was
      // prepared as it is.
      if (keepsGround) flush();
      if (!layout.grey) addPreparing(layout, step, before, i < groundSteps);
      join(step, i);
    } else if (!alone[i] && findsGround(step, i)) join(step, i);
    else {
      flush();
      addAlone(layout, step, coverages[i], i < groundSteps);
    }
  };

  /** Steps that are laid on together: as one where each sees colours alone, else between two marks. */
  const addTogether = (item: Together, first: number) => {
    const last = first + item.steps.length;
    const asOne = item.steps.every((s, k) => !alone[first + k] && findsGround(s, first + k));
    const groundWithin = keepsGround && first < groundSteps && groundSteps < last;
    if (asOne && !groundWithin) {
      keepGround(first);
      join(item, first);
      return;
    }
    flush();
    const greyBefore = layout.grey;
    layout.passes.push({ kind: 'open', key: 'open', does: 'open', coverage: null });
    item.steps.forEach((s, k) => addStep(s, first + k));
    flush();
    const { strength } = item;
    const close = `close ${strength}`;
    layout.passes.push({ kind: 'close', key: close, does: close, coverage: null, strength });
    layout.grey &&= greyBefore;
    layout.span = WIDE_SPAN;
  };

  let i = 0;
  for (const item of itemsOf(steps, treatment.groups)) {
    if (isTogether(item)) addTogether(item, i);
    else addStep(item, i);
    i += stepsOf(item).length;
  }
  flush();
}

/**
 * Lays out the passes of the steps of a treatment that do anything.
 * @returns the passes; whether all tables are fine; the strength that is still to be applied against the bare picture
 */
export function passesOf(
  treatment: Treatment,
  steps: readonly Step[],
  context: PlanContext,
  kept: KeptTables,
): { passes: Pass[]; fine: boolean; strength: number } {
  const use = contextOf(treatment);
  const layout: Layout = {
    treatment,
    context,
    use,
    kept,
    passes: [],
    grey: context.grey,
    span: [0, 1],
    fine: true,
  };
  let strength = 1;
  if (steps.length && treatment.strength < 1 && steps.every(s => isPointStep(s, use))) {
    addPoints(layout, exactly(treatment), [keyOfSteps(treatment, context.grey, steps)]);
  } else if (steps.length) {
    strength = treatment.strength;
    addSteps(layout, steps);
  }
  const { passes, fine } = layout;
  return { passes, fine, strength };
}
