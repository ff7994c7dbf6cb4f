import type { Scale } from '../frame/geometry';
import type { Sought } from '../masks/finding/memory';
import type { Treatment } from '../treatment/treatment';
import { keepTables, type KeptTable } from './kept-tables';
import { activeSteps } from './lay';
import type { Pass } from './pass';
import { keyOfSteps, passesOf, type PlanContext } from './passes';

/** How a treatment is computed. */
export interface Plan {
  passes: Pass[];
  /** Equal keys mean equal pixels for the same photograph and frame. */
  key: string;
  /** Within the tolerance of the exact steps: always, but for a draft. */
  fine: boolean;
  /** The strength of the whole that is still to be applied against the bare picture; 1 where it is in a table. */
  strength: number;
  /** Only points without masks, after what may prepare the codes: then no pixel needs anything but itself. */
  simple: boolean;
  /** Some pass wants a look at the whole picture first. */
  surveyed: boolean;
  /** What masks find in the photograph itself: where that is anything, the survey wants its sight. */
  sought: readonly Sought[];
  /** How many pixels around a part are needed to render it. */
  margin: (scale: Scale) => number;
}

export interface Planner {
  (treatment: Treatment, context: PlanContext): Plan;
  /** The tables of the last plan, to be handed to another planner. */
  tables: () => KeptTable[];
  /** Takes in tables that another planner baked. */
  learn: (tables: readonly KeptTable[]) => void;
}

/**
 * A planner that keeps its last baked tables, so that moving one control bakes only what it changes.
 * @param keep tables kept
 */
export function createPlanner(keep = 48): Planner {
  const kept = keepTables(keep);
  const plan = (treatment: Treatment, context: PlanContext): Plan => {
    kept.begin();
    const steps = activeSteps(treatment);
    const key = keyOfSteps(treatment, context.grey, steps);
    const { passes, fine, strength } = passesOf(treatment, steps, context, kept);
    return {
      passes,
      key: fine ? key : `draft ${key}`,
      fine,
      strength,
      simple:
        strength === 1 &&
        passes.every((p, i) =>
          p.kind === 'field'
            ? i === 0 && passes.length > 1 && p.prepares
            : p.kind === 'points' && !p.coverage && !p.reads,
        ),
      surveyed: passes.some(p => (p.kind === 'field' && p.field.survey) || p.coverage?.survey),
      sought: passes.flatMap(p => p.coverage?.sought ?? []),
      margin: scale =>
        passes.reduce((sum, p) => sum + (p.kind === 'field' ? (p.field.margin?.(scale) ?? 0) : 0), 0),
    };
  };
  return Object.assign(plan, { tables: kept.asked, learn: kept.learn });
}
