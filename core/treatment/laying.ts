import { stages } from '../steps/define';
import { stepKind } from '../steps';
import { wholeFrame } from '../frame/frame';
import type { Mask } from '../masks/mask';
import { onOthers, kindOfPart } from '../masks/parts';
import { standingOn } from '../masks/standing';
import type { Reference } from '../settings/fields';
import { tidyAlternatives, traysNamed } from './alternatives';
import { freshIds } from './fresh-ids';
import { runsOf, strengthened, tidyGroups } from './groups';
import { MOST_MASKS, MOST_STEPS, type Step, type StepGroup, type Treatment } from './treatment';

/** A treatment, or some steps of it, taken from one photograph and laid on another. */

/** The areas that steps lie on, and those that these stand on, in the order of the treatment. */
function areasOf(steps: readonly Step[], masks: readonly Mask[]): Mask[] {
  const used = new Set<Mask>();
  for (const { mask } of steps) {
    const own = masks.find(m => m.id === mask);
    if (own) for (const each of standingOn(own, masks)) used.add(each);
  }
  return masks.filter(m => used.has(m));
}

const tableOf = ({ settings }: Step): string | null => (settings as { table?: string | null }).table ?? null;

/**
 * Some steps of a treatment, as a treatment by themselves: with their areas, tables and groups, in no frame.
 * @param ids of the steps
 */
export function partOf(treatment: Treatment, ids: readonly string[]): Treatment {
  const steps = treatment.steps.filter(s => ids.includes(s.id));
  const tables = steps.map(tableOf);
  return tidyAlternatives(
    withoutEmptyGroups({
      ...treatment,
      strength: 1,
      frame: wholeFrame(),
      steps,
      masks: areasOf(steps, treatment.masks),
      tables: Object.fromEntries(Object.entries(treatment.tables).filter(([id]) => tables.includes(id))),
    }),
  );
}

/** A treatment as it looks: without what was put aside for another step, and the areas, tables and groups of that alone. */
export function withoutAside(treatment: Treatment): Treatment {
  const seen = treatment.steps.filter(s => !s.alternative?.aside);
  if (seen.length === treatment.steps.length) return treatment;
  const { strength, frame } = treatment;
  const ids = seen.map(s => s.id);
  return tidyGroups({ ...partOf(treatment, ids), strength, frame });
}

/** How one treatment is laid on another. */
export interface Laying {
  /** In place of the steps that are there, or as the last ones of each stage. */
  how: 'instead' | 'added';
  /** The frame comes along. */
  frame: boolean;
  /** Areas that were painted by hand come along, and the steps on them; placed ovals and gradients always do. */
  painted: boolean;
  /** Laid on as a group of this name, of a strength (0..1). */
  as?: { name: string; strength: number };
}

export interface Laid {
  treatment: Treatment;
  /** The steps that were laid on, by their ids there. */
  laid: string[];
  /** Steps that stayed behind, since their areas were painted for another picture. */
  left: Step[];
}

/** Whether a step lies on an area that was painted by hand for its own picture, or that stands on such a one. */
export function isOnPainted({ mask }: Step, { masks }: Pick<Treatment, 'masks'>): boolean {
  const area = masks.find(m => m.id === mask);
  if (!area) return false;
  return standingOn(area, masks).some(each => each.parts.some(part => kindOfPart(part).byHand));
}

/** Without groups that no step stands in. */
function withoutEmptyGroups(treatment: Treatment): Treatment {
  const used = new Set(treatment.steps.map(s => s.group));
  return { ...treatment, groups: treatment.groups.filter(g => used.has(g.id)) };
}

/** Steps as the last ones of their stages. */
function inStages(before: readonly Step[], more: readonly Step[]): Step[] {
  return stages.flatMap(stage => [
    ...before.filter(s => s.stage === stage),
    ...more.filter(s => s.stage === stage),
  ]);
}

/** A treatment in which a step's conversion stays whole while the rest gives way: then no colour comes back. */
const keepsWhole = (steps: readonly Step[]): readonly Step[] => {
  const last = steps.findLastIndex(s => stepKind(s.kind)?.leavesGrey?.(s.settings) && s.mask === null);
  return last < steps.length - 1 ? steps.slice(last + 1) : steps;
};

/** Steps under one name and strength: those after a conversion, or all where nothing comes after it. */
function asGroup(
  treatment: Treatment,
  ids: readonly string[],
  { name, strength }: Omit<StepGroup, 'id'>,
): Treatment {
  const laid = treatment.steps.filter(s => ids.includes(s.id));
  const under = keepsWhole(laid);
  const id = freshIds(
    'g',
    treatment.groups.map(g => g.id),
  )();
  const inGroup = {
    ...treatment,
    groups: [...treatment.groups, { id, name, strength }],
    steps: treatment.steps.map(s => (under.includes(s) ? ({ ...s, group: id } as Step) : s)),
  };
  // A step that stands alone between others is no group: it takes the strength on itself.
  const alone = runsOf(inGroup.steps).flatMap(r => (r.group === id && r.steps.length === 1 ? r.steps : []));
  return withoutEmptyGroups({
    ...inGroup,
    steps: inGroup.steps.map(s => (alone.includes(s) ? strengthened({ ...s, group: null }, strength) : s)),
  });
}

/**
 * Lays a treatment on another one. What it carries under ids that are taken there gets others; a colour table that is there
 * already is not carried twice. Throws a RangeError where there would be too many steps or areas.
 */
export function layTreatment(onto: Treatment, part: Treatment, laying: Laying): Laid {
  const { how, frame, painted, as } = laying;
  const base: Treatment =
    how === 'instead' ? { ...onto, strength: 1, steps: [], groups: [], masks: [], tables: {} } : onto;
  const left = painted ? [] : part.steps.filter(s => isOnPainted(s, part));
  const coming = part.steps.filter(s => !left.includes(s));
  const areas = areasOf(coming, part.masks);
  if (base.steps.length + coming.length > MOST_STEPS) {
    throw new RangeError(`more than ${MOST_STEPS} steps`);
  }
  if (base.masks.length + areas.length > MOST_MASKS) throw new RangeError(`more than ${MOST_MASKS} areas`);

  const nextStep = freshIds(
    's',
    base.steps.map(s => s.id),
  );
  const nextMask = freshIds(
    'm',
    base.masks.map(m => m.id),
  );
  const nextGroup = freshIds(
    'g',
    base.groups.map(g => g.id),
  );
  const nextTable = freshIds('t', Object.keys(base.tables));
  const nextTray = freshIds('a', traysNamed(base));
  const trayNames = new Map(traysNamed(part).map(name => [name, nextTray()]));
  const maskIds = new Map(areas.map(m => [m.id, nextMask()]));
  const groupIds = new Map(part.groups.map(g => [g.id, nextGroup()]));
  const tables: Record<string, Reference> = { ...base.tables };
  const tableIds = new Map(
    Object.entries(part.tables).map(([id, reference]) => {
      const known = Object.entries(tables).find(([, { sha256 }]) => sha256 === reference.sha256);
      const here = known?.[0] ?? nextTable();
      tables[here] = reference;
      return [id, here];
    }),
  );
  const steps = coming.map(s => {
    const table = tableOf(s);
    const settings = table === null ? s.settings : { ...s.settings, table: tableIds.get(table) };
    const { alternative } = s;
    return {
      ...s,
      ...(alternative && { alternative: { ...alternative, tray: trayNames.get(alternative.tray)! } }),
      id: nextStep(),
      group: s.group && groupIds.get(s.group),
      mask: s.mask && maskIds.get(s.mask),
      settings,
    } as Step;
  });
  const masks = areas.map(m => ({
    ...m,
    id: maskIds.get(m.id)!,
    parts: m.parts.map(part => onOthers(part, maskIds)),
  }));
  const laid = steps.map(s => s.id);
  let treatment = withoutEmptyGroups({
    ...base,
    frame: frame ? part.frame : base.frame,
    steps: inStages(base.steps, steps),
    masks: [...base.masks, ...masks],
    groups: [...base.groups, ...part.groups.map(g => ({ ...g, id: groupIds.get(g.id)! }))],
    tables,
  });
  const strength = part.strength * (as?.strength ?? 1);
  if (how === 'instead' && !as) treatment = { ...treatment, strength };
  else if (as || strength < 1) {
    treatment = asGroup(treatment, laid, { name: as?.name ?? 'Laid on', strength });
  }
  return { treatment: tidyAlternatives(treatment), laid, left };
}
