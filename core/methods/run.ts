import type { PictureReading } from '../analysis/reading';
import { isAtWork, layBeside, showAlternative, shownOf, trayWith } from '../treatment/alternatives';
import { addStep, changeStep, newStep, removeSteps } from '../treatment/edit';
import { stepKind } from '../steps';
import type { Bath } from '../steps/baths';
import type { MaskPart } from '../masks/parts';
import { isWhole } from '../masks/reach';
import { maskSchema } from '../masks/schema';
import { usersOf } from '../treatment/areas';
import type { Step, Treatment } from '../treatment/treatment';
import { parseTreatment } from '../treatment/schema';
import { holds, valueFor, type Facts } from './facts';
import type { Method, Page, Put } from './schema';

/** A method on a treatment: what its pages lay, whether they have, and how it is taken off again. Steps are ordinary ones. */

/** Whether a method can be done on a photograph. */
export const isFor = ({ needs }: Method, { grey, values }: Facts): boolean =>
  needs === undefined || (!grey && (needs === 'colour' || Number(values.things) > 0));

/** The pages that a method has for a picture. */
export const pagesFor = ({ pages }: Method, facts: Facts): Page[] =>
  pages.filter(page => page.when.every(condition => holds(condition, facts)));

const pageOf = ({ pages }: Method, key: string): Page => pages.find(p => p.key === key)!;

/** The id of the step that a page puts. */
const idOf = (method: Method, key: string): string => `${method.key}.${key}`;

/** The step that a page puts, goes on with, or changes; where it is one of several, the one at work. */
export function stepOf(method: Method, page: Page, { steps }: Pick<Treatment, 'steps'>): Step | undefined {
  const { deed } = page;
  if (deed.does === 'series') return undefined;
  if (deed.does === 'choose') {
    const first = stepOf(method, pageOf(method, deed.in), { steps });
    return first && shownOf(trayWith({ steps }, first.id));
  }
  if (deed.does !== 'put') return stepOf(method, pageOf(method, deed.in), { steps });
  const own = steps.find(s => s.id === idOf(method, page.key));
  return own ?? (deed.reuse ? overAll(deed, steps) : undefined);
}

/** A step of the kind that a page puts, at work over the whole picture. */
const overAll = ({ kind }: Pick<Put, 'kind'>, steps: readonly Step[]): Step | undefined =>
  steps.find(
    s =>
      s.kind === kind &&
      isAtWork(s) &&
      s.mask === null &&
      s.strength > 0 &&
      [s.reach.own, s.reach.beneath].every(isWhole),
  );

/** Whether the step of a page was there already, and is not of this method. */
export const isReused = (method: Method, page: Page, treatment: Pick<Treatment, 'steps'>): boolean => {
  const step = page.deed.does === 'put' ? stepOf(method, page, treatment) : undefined;
  return step !== undefined && step.id !== idOf(method, page.key);
};

type Values = Record<string, unknown>;
const isGroup = (v: unknown): v is Values => typeof v === 'object' && v !== null && !Array.isArray(v);

/** Settings with others over them, group by group. */
const over = (settings: Values, others: Values): Values =>
  Object.fromEntries(
    Object.entries({ ...settings, ...others }).map(([name, value]) => {
      const was = settings[name];
      return [name, name in others && isGroup(was) && isGroup(value) ? over(was, value) : value];
    }),
  );

/** Those of some settings that others name. */
const within = (settings: Values, others: Values): Values =>
  Object.fromEntries(
    Object.entries(others).map(([name, value]) => {
      const own = settings[name];
      return [name, isGroup(own) && isGroup(value) ? within(own, value) : own];
    }),
  );

/** Settings as the format has them: checked, the rest as the kind is set out. */
function settled(kind: Step['kind'], settings: Values): Step['settings'] {
  const treatment = parseTreatment({ format: 'lampwash-treatment', version: 1, steps: [{ kind, settings }] });
  return treatment.steps[0].settings;
}

/** The parts of an area about what is noticed in a picture: its hue, in an oval where it lies together. Where nothing is, its lights. */
function partsOfThing({ things: [thing] }: PictureReading, facts: Facts): { name: string; parts: object[] } {
  if (!thing) return { name: 'The lights', parts: [{ kind: 'tones', range: [0.45, 0.7, 1, 1] }] };
  const { blob, family } = thing;
  const hues = {
    kind: 'hues',
    centre: facts.values['thing.hue'],
    width: 46,
    softness: 0.5,
    colour: facts.values['thing.near'],
  };
  const oval = {
    kind: 'oval',
    op: 'intersect',
    ...(blob && { centre: blob.centre, radii: blob.radii }),
    feather: 0.25,
  };
  return { name: `The ${family}`, parts: [hues, ...(blob ? [oval] : [])] };
}

/** A treatment with the area of a step, and its id. */
function withArea(
  method: Method,
  treatment: Treatment,
  key: string,
  area: NonNullable<Put['area']>,
  reading: PictureReading,
  facts: Facts,
): { treatment: Treatment; id: string } {
  if (typeof area === 'object' && 'of' in area) {
    const of = stepOf(method, pageOf(method, area.of), treatment);
    if (of?.mask) return { treatment, id: of.mask };
    const { deed } = pageOf(method, area.of);
    const its = deed.does === 'put' ? deed.area : undefined;
    return withArea(method, treatment, area.of, its ?? 'thing', reading, facts);
  }
  const id = idOf(method, key);
  if (treatment.masks.some(m => m.id === id)) return { treatment, id };
  const made =
    area === 'thing'
      ? { ...partsOfThing(reading, facts), feather: 0.004 }
      : { ...area, parts: area.parts.map(part => valueFor(part, facts)) };
  const mask = maskSchema.parse({ ...made, id, parts: made.parts as MaskPart[] });
  return { treatment: { ...treatment, masks: [...treatment.masks, mask] }, id };
}

function put(
  method: Method,
  page: Page,
  deed: Put,
  of: Treatment,
  reading: PictureReading,
  facts: Facts,
): Treatment {
  const id = idOf(method, page.key);
  const area = deed.area ? withArea(method, of, page.key, deed.area, reading, facts) : null;
  const settings = valueFor(deed.settings, facts) as Values;
  const fresh = newStep(of, deed.kind);
  const step = {
    ...fresh,
    id,
    name: deed.name,
    strength: Number(valueFor(deed.strength, facts)),
    mask: area?.id ?? null,
    settings: settled(deed.kind, settings),
  } as Step;
  const laid = addStep(area?.treatment ?? of, step);
  const beside = deed.beside
    ? stepOf(method, pageOf(method, deed.beside), of)
    : deed.instead
      ? overAll(deed, of.steps)
      : undefined;
  // Behind its own others in the tray: they stand in the order of the pages, behind what was at work there.
  const last = beside && (trayWith(of, beside.id).findLast(s => s.id.startsWith(idOf(method, ''))) ?? beside);
  return last ? layBeside(laid, id, last.id) : laid;
}

/** Whether a page has done what it does. */
export function isLaid(method: Method, page: Page, treatment: Pick<Treatment, 'steps'>): boolean {
  const { deed } = page;
  const step = stepOf(method, page, treatment);
  if (deed.does === 'series') return false;
  if (!step || deed.does === 'put' || deed.does === 'choose') return step !== undefined;
  const settings = { ...step.settings } as Values;
  if (deed.does === 'bath') return (settings.baths as Bath[]).some(b => b.toner === deed.bath.toner);
  const same = within(stepKind(step.kind)!.defaults as Values, deed.settings);
  return JSON.stringify(within(settings, deed.settings)) !== JSON.stringify(same);
}

/**
 * A treatment with what a page does, and with what that needs of pages before it; the same where it is done already.
 * @param reading of the picture beneath
 * Throws a RangeError where the method reads what is not there.
 */
export function layPage(
  method: Method,
  page: Page,
  treatment: Treatment,
  reading: PictureReading,
  facts: Facts,
): Treatment {
  const { deed } = page;
  if (isLaid(method, page, treatment) || deed.does === 'series') return treatment;
  if (deed.does === 'put') return put(method, page, deed, treatment, reading, facts);
  const of = layPage(method, pageOf(method, deed.in), treatment, reading, facts);
  const step = stepOf(method, page, of);
  if (!step || deed.does === 'choose') return of;
  const settings = { ...step.settings } as Values;
  const changed =
    deed.does === 'bath'
      ? { ...settings, baths: [...(settings.baths as Bath[]), valueFor(deed.bath, facts)] }
      : over(settings, valueFor(deed.settings, facts) as Values);
  return changeStep(of, step.id, { settings: settled(step.kind, changed) });
}

/** A treatment without what a page does: what was there before the method stays. */
export function takeOff(method: Method, page: Page, treatment: Treatment): Treatment {
  const { deed } = page;
  const step = stepOf(method, page, treatment);
  if (!step || !isLaid(method, page, treatment) || isReused(method, page, treatment)) return treatment;
  if (deed.does === 'put') {
    const without = removeSteps(beforeIt(treatment, step), [step.id]);
    const isOwn = (id: string) => id === idOf(method, page.key) && !isUsed(without, id);
    return { ...without, masks: without.masks.filter(m => !isOwn(m.id)) };
  }
  if (deed.does === 'series' || deed.does === 'choose') return treatment;
  const settings = { ...step.settings } as Values;
  const changed =
    deed.does === 'bath'
      ? { ...settings, baths: (settings.baths as Bath[]).filter(b => b.toner !== deed.bath.toner) }
      : over(settings, within(stepKind(step.kind)!.defaults as Values, deed.settings));
  return changeStep(treatment, step.id, { settings: settled(step.kind, changed) });
}

/** A treatment with the alternative before a step at work, where the step is: what gave way to it comes back. */
function beforeIt(treatment: Treatment, step: Step): Treatment {
  const tray = trayWith(treatment, step.id);
  const before = tray[tray.indexOf(step) - 1];
  return before && shownOf(tray) === step ? showAlternative(treatment, before.id) : treatment;
}

function isUsed(treatment: Treatment, id: string): boolean {
  const { steps, areas } = usersOf(treatment, id);
  return steps.length + areas.length > 0;
}

/** The last of the pages of a method that is done; null where none is. */
export function takenUpAt(method: Method, pages: readonly Page[], treatment: Treatment): number | null {
  const last = pages.findLastIndex(
    page =>
      isLaid(method, page, treatment) && !isReused(method, page, treatment) && page.deed.does !== 'choose',
  );
  return last < 0 ? null : last;
}
