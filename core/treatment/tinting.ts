import type { NamedPigment } from '../colour/pigments';
import type { Stroke } from '../settings/fields';
import { addArea, addInverse, addPart, addStroke, areaOf, changeArea, layOn } from './areas';
import { addStep, changeStep, newStep } from './edit';
import { addToSpread, againstAll, mend, spreadWith } from './rough-strokes';
import type { Step, Treatment } from './treatment';

/** One act to tint: a stroke of a pigment becomes a wash on an area of its own, and further strokes of it go on there. */

/** How a stroke becomes an area: painted within edges, by the thing that it lies on, or spreading against those of other pigments. */
export const ways = ['edges', 'thing', 'spread'] as const;
export type Way = (typeof ways)[number];

/** A treatment, and the wash that was worked on. */
export interface Tinted {
  treatment: Treatment;
  step: string;
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** Whether a step is a wash of a pigment on an area. */
const isOf = (step: Step | undefined, { pigment, depth }: NamedPigment): boolean => {
  if (step?.kind !== 'wash' || step.mask === null) return false;
  const settings = step.settings as Step<'wash'>['settings'];
  return same(settings.pigment, pigment) && settings.depth === depth;
};

/** The washes of a treatment that lie on areas, in order. */
export const washesOf = ({ steps }: Treatment): Step[] =>
  steps.filter(s => s.kind === 'wash' && s.mask !== null);

/** A new wash of a pigment on an area. */
export function addWash(treatment: Treatment, { pigment, depth }: NamedPigment, area: string): Tinted {
  const step = newStep(treatment, 'wash', 'colour');
  const washed = {
    ...step,
    settings: { ...step.settings, pigment: structuredClone(pigment), depth },
  } as Step;
  return { treatment: layOn(addStep(treatment, washed), step.id, area), step: step.id };
}

/** The wash that a stroke of a pigment goes on with: the one at hand, else, where strokes spread, that of the same pigment beside it. */
function washFor(treatment: Treatment, at: string | null, named: NamedPigment, way: Way): Step | undefined {
  const here = treatment.steps.find(s => s.id === at);
  if (isOf(here, named)) return here;
  if (way !== 'spread' || !here?.mask) return undefined;
  const linked = spreadWith(treatment, here.mask);
  return washesOf(treatment).find(s => linked.includes(s.mask!) && isOf(s, named));
}

/** Adds a stroke to the area of a wash. */
function drawOn(treatment: Treatment, area: string, stroke: Stroke, way: Way): Treatment {
  if (way === 'edges') return addStroke(treatment, area, stroke);
  return mend(treatment, area, stroke, false);
}

/**
 * What a stroke of a pigment would be painted on, before it is: the wash that it goes on with, or a new one on a new, empty area. The
 * same as `tint` makes.
 */
export function readyToTint(
  treatment: Treatment,
  at: string | null,
  named: NamedPigment,
): { treatment: Treatment; area: string } {
  const wash = washFor(treatment, at, named, 'edges');
  if (wash) return { treatment, area: wash.mask! };
  const made = addArea(treatment, named.name);
  return { treatment: addWash(made.treatment, named, made.area).treatment, area: made.area };
}

/**
 * Lays a stroke of a pigment.
 * @param at the step at hand
 */
export function tint(
  treatment: Treatment,
  at: string | null,
  named: NamedPigment,
  stroke: Stroke,
  way: Way,
): Tinted {
  const wash = washFor(treatment, at, named, way);
  if (wash) return { treatment: drawOn(treatment, wash.mask!, stroke, way), step: wash.id };
  const made = addArea(treatment, named.name);
  if (way !== 'spread') return addWash(drawOn(made.treatment, made.area, stroke, way), named, made.area);
  const beside = treatment.steps.find(s => s.id === at)?.mask;
  const linked = beside ? spreadWith(treatment, beside) : [];
  const strokesOut = againstAll(treatment, linked);
  const found = addPart(addToSpread(made.treatment, linked, null, stroke), made.area, {
    kind: 'found',
    op: 'add',
    strokesIn: [stroke],
    strokesOut,
  });
  return addWash(found, named, made.area);
}

/** A stroke that says "leave as it is", against all areas that spread together with that of a step; null where none does. */
export function leaveAsItIs(treatment: Treatment, at: string | null, stroke: Stroke): Treatment | null {
  const area = treatment.steps.find(s => s.id === at)?.mask;
  const linked = area ? spreadWith(treatment, area) : [];
  return linked.length ? addToSpread(treatment, linked, null, stroke) : null;
}

/** A wash in another pigment, its name too where it was not given one. */
export const recoloured = (treatment: Treatment, id: string, { pigment, depth }: NamedPigment): Treatment => {
  const step = treatment.steps.find(s => s.id === id);
  if (step?.kind !== 'wash') return treatment;
  const settings = { ...step.settings, pigment: structuredClone(pigment), depth };
  return changeStep(treatment, id, { settings } as Partial<Step>);
};

/** The same wash once more on the same area, over it: to strengthen it, or to go on from. */
export function againOn(treatment: Treatment, id: string): Tinted | null {
  const step = treatment.steps.find(s => s.id === id);
  if (!step?.mask) return null;
  const settings = step.settings as Step<'wash'>['settings'];
  const made = addWash(treatment, { name: '', pigment: settings.pigment, depth: settings.depth }, step.mask);
  return {
    ...made,
    treatment: changeStep(made.treatment, made.step, { mix: step.mix, strength: step.strength }),
  };
}

/** A wash of a pigment on all but the area of a step. */
export function besideArea(treatment: Treatment, id: string, named: NamedPigment): Tinted | null {
  const area = treatment.steps.find(s => s.id === id)?.mask;
  if (!area) return null;
  const made = addInverse(treatment, area);
  return addWash(made.treatment, named, made.area);
}

/** A wash of a pigment on all that no wash lies on yet. */
export function onTheRest(treatment: Treatment, named: NamedPigment): Tinted | null {
  const areas = [...new Set(washesOf(treatment).map(s => s.mask!))].filter(id => areaOf(treatment, id));
  if (!areas.length) return null;
  const made = addArea(treatment, 'The rest');
  const rest = changeArea(made.treatment, made.area, {
    invert: true,
    parts: areas.map(mask => ({ kind: 'mask', op: 'add', mask })),
  });
  return addWash(rest, named, made.area);
}
