import { beneathStep } from './beneath';
import { wordsOf } from './area-names';
import { changeStep, newStep } from './edit';
import { emptyMask, type Mask } from '../masks/mask';
import { readsOf } from '../masks/define';
import { beneathPart, kindOfPart, type MaskPart } from '../masks/parts';
import { readsPicture as maskReads, soughtIn, standingOn, tooMuchBeneath } from '../masks/standing';
import type { Stroke } from '../settings/fields';
import { bareTreatment, type Step, type Treatment } from './treatment';

/** Edits of areas: named masks that steps stand on and that can be reused. Each returns a new treatment. */

function freshMaskId(treatment: Treatment): string {
  for (let n = treatment.masks.length + 1; ; n++) {
    if (!treatment.masks.some(m => m.id === `m${n}`)) return `m${n}`;
  }
}

/** A new, empty area under a name that no other has. */
export function addArea(treatment: Treatment, name = ''): { treatment: Treatment; area: string } {
  const id = freshMaskId(treatment);
  const names = treatment.masks.map(m => m.name);
  let called = name.trim().slice(0, 120);
  for (let n = 1; called === '' || names.includes(called); n++) called = wordsOf(name, n);
  return { treatment: { ...treatment, masks: [...treatment.masks, emptyMask(id, called)] }, area: id };
}

export function changeArea(treatment: Treatment, id: string, change: Partial<Omit<Mask, 'id'>>): Treatment {
  return { ...treatment, masks: treatment.masks.map(m => (m.id === id ? { ...m, ...change } : m)) };
}

export const areaOf = (treatment: Treatment, id: string | null): Mask | undefined =>
  treatment.masks.find(m => m.id === id);

/** Lays a step on an area, or on the whole picture. */
export const layOn = (treatment: Treatment, stepId: string, area: string | null): Treatment =>
  changeStep(treatment, stepId, { mask: area });

/**
 * Adds a stroke of the brush: to the last part where that is painted, else as a part after the others, which it
 * adds to or takes away from by itself.
 */
export function addStroke(treatment: Treatment, id: string, stroke: Stroke): Treatment {
  const area = areaOf(treatment, id);
  if (!area) return treatment;
  const last = area.parts.at(-1);
  if (last?.kind === 'brush' && (last.op === 'subtract' ? stroke.erase : last.op === 'add')) {
    // What takes away from an earlier part must not start from nothing: it is a part of its own.
    const alone = area.parts.length === 1 || last.op === 'subtract';
    if (alone || !stroke.erase) {
      const laid = last.op === 'subtract' ? { ...stroke, erase: false } : stroke;
      const parts = area.parts.with(-1, { ...last, strokes: [...last.strokes, laid] });
      return changeArea(treatment, id, { parts });
    }
  }
  if (stroke.erase && area.parts.length === 0) return treatment;
  const part: MaskPart = {
    kind: 'brush',
    op: stroke.erase ? 'subtract' : 'add',
    strokes: [{ ...stroke, erase: false }],
  };
  return changeArea(treatment, id, { parts: [...area.parts, part] });
}

/** Adds a part; one that takes away or meets with nothing before it is left out. */
export function addPart(treatment: Treatment, id: string, part: MaskPart): Treatment {
  const area = areaOf(treatment, id);
  if (!area || (part.op !== 'add' && area.parts.length === 0)) return treatment;
  return changeArea(treatment, id, { parts: [...area.parts, part] });
}

export function changePart(treatment: Treatment, id: string, index: number, part: MaskPart): Treatment {
  const area = areaOf(treatment, id);
  return area?.parts[index] ? changeArea(treatment, id, { parts: area.parts.with(index, part) }) : treatment;
}

/** Takes a part out; a part that takes away never becomes the first, since it would then stand for the whole picture. */
export function removePart(treatment: Treatment, id: string, index: number): Treatment {
  const area = areaOf(treatment, id);
  if (!area?.parts[index]) return treatment;
  let parts = area.parts.toSpliced(index, 1);
  while (parts.length > 0 && parts[0].op !== 'add') parts = parts.slice(1);
  return changeArea(treatment, id, { parts });
}

/** Whether an area stands on another, itself or through others. */
function standsOn(treatment: Treatment, id: string, other: string): boolean {
  const area = areaOf(treatment, id);
  return !!area && standingOn(area, treatment.masks).some(each => each !== area && each.id === other);
}

/** Whether an area may be made of another too: never in a ring, and not without end. */
export function mayStandOn(treatment: Treatment, id: string, other: string): boolean {
  if (id === other || standsOn(treatment, other, id)) return false;
  const made = addPart(treatment, id, { kind: 'mask', op: 'add', mask: other });
  return made.masks.every(mask => tooMuchBeneath(mask, made.masks) === null);
}

/** Whether an area depends on the picture beneath it, by tones, by hues or by edges, itself or through others. */
export function readsPicture(treatment: Treatment, id: string): boolean {
  const area = areaOf(treatment, id);
  return (
    !!area &&
    (maskReads(area, treatment.masks) ||
      standingOn(area, treatment.masks).some(each => each.refine > 0 || each.fine > 0))
  );
}

/**
 * Lays a step on all but what is painted out: on a new area that holds the whole picture; a step that has an area keeps
 * it.
 */
export function sparing(treatment: Treatment, stepId: string, name = ''): Treatment {
  const step = treatment.steps.find(s => s.id === stepId);
  if (!step || step.mask !== null) return treatment;
  const { treatment: made, area } = addArea(treatment, name);
  return layOn(addPart(made, area, { kind: 'whole', op: 'add' }), stepId, area);
}

/** What uses an area: steps that lie on it, and areas made of it. */
export function usersOf(treatment: Treatment, id: string): { steps: Step[]; areas: Mask[] } {
  return {
    steps: treatment.steps.filter(s => s.mask === id),
    areas: treatment.masks.filter(m => m.parts.some(p => beneathPart(p) === id)),
  };
}

/** Takes an area away: its steps lie on the whole picture then, and parts of other areas made of it go. */
export function removeArea(treatment: Treatment, id: string): Treatment {
  let rest = treatment;
  for (const other of treatment.masks) {
    for (let index = other.parts.length - 1; index >= 0; index--) {
      if (beneathPart(other.parts[index]) === id) rest = removePart(rest, other.id, index);
    }
  }
  return {
    ...rest,
    masks: rest.masks.filter(m => m.id !== id),
    steps: rest.steps.map(s => (s.mask === id ? ({ ...s, mask: null, enabled: false } as Step) : s)),
  };
}

/** A second area made of one: everything but it. It follows when that one is changed. */
export function addInverse(treatment: Treatment, id: string): { treatment: Treatment; area: string } {
  const area = areaOf(treatment, id);
  const made = addArea(treatment, area ? `Not ${area.name}` : '');
  return {
    area: made.area,
    treatment: changeArea(made.treatment, made.area, {
      invert: true,
      parts: [{ kind: 'mask', op: 'add', mask: id }],
    }),
  };
}

/** How an area is shown over the picture. */
export type AreaShown = 'film' | 'grey' | 'edge' | 'off';

const SHOWN = 'shown area';
const EDGE = 'shown edge';

/** An area alone, as it is for the first step that is laid through it: read from the picture beneath that. */
function beneathUser(treatment: Treatment, id: string, shown: Step): Treatment {
  const user = treatment.steps.find(s => s.mask === id);
  const beneath = user ? beneathStep(treatment, user.id) : treatment;
  const stage = beneath.steps.at(-1)?.stage === 'ground' ? 'mono' : 'finish';
  return { ...beneath, steps: [...beneath.steps, { ...shown, stage, alone: true }] };
}

/** A step that covers an area with a colour. */
function covering(
  treatment: Treatment,
  name: string,
  colour: string,
  mask: string | null,
  strength = 1,
): Step {
  const made = newStep(treatment, 'wash', 'finish');
  return {
    ...made,
    id: name,
    mix: 'normal',
    mask,
    strength,
    settings: { ...made.settings, pigment: { kind: 'flat', colour } },
  } as Step;
}

/**
 * An area in one colour upon paper, for looking alone, as far as it is found in the photograph itself; null where nothing of it is, or where
 * it is read from what lies beneath.
 */
export function foundUpon(
  { frame }: Pick<Treatment, 'frame'>,
  area: Mask,
  masks: readonly Mask[],
  paper: string,
  colour: string,
): Treatment | null {
  const all = standingOn(area, masks);
  const reads = all.flatMap(each => each.parts.map(part => readsOf(kindOfPart(part), part)));
  if (soughtIn(area, masks).length === 0 || reads.includes('beneath')) return null;
  const bare: Treatment = { ...bareTreatment(), frame, masks: all };
  return { ...bare, steps: [covering(bare, EDGE, paper, null), covering(bare, SHOWN, colour, area.id)] };
}

/**
 * The treatment with an area shown over it, for looking alone: a film of a colour, the area in grey, or a line at its
 * edge.
 * @param line width of that line, a fraction of the long edge
 */
export function showingArea(
  treatment: Treatment,
  id: string,
  how: AreaShown,
  colour: string,
  line = 0.0016,
): Treatment {
  const area = areaOf(treatment, id);
  if (!area || how === 'off') return treatment;
  const wash = (name: string, pigment: string, mask: string | null, strength: number): Step =>
    covering(treatment, name, pigment, mask, strength);
  // An area that nothing has been added to is nowhere, and needs nothing shown.
  const add = (...steps: Step[]): Treatment => ({ ...treatment, steps: [...treatment.steps, ...steps] });
  if (how === 'film') return add(wash(SHOWN, colour, id, 0.55));
  if (how === 'grey') return { ...beneathUser(treatment, id, wash(SHOWN, '#ffffff', id, 1)), strength: 1 };
  const around: Mask = { ...emptyMask(EDGE, ''), grow: line, parts: [{ kind: 'mask', op: 'add', mask: id }] };
  const ring: Mask = {
    ...emptyMask(SHOWN, ''),
    parts: [
      { kind: 'mask', op: 'add', mask: EDGE },
      { kind: 'mask', op: 'subtract', mask: id },
    ],
  };
  const shown = add(wash(SHOWN, colour, SHOWN, 1));
  return { ...shown, masks: [...treatment.masks, around, ring] };
}
