import { freshIds } from './fresh-ids';
import type { Step, Treatment } from './treatment';
import { alone, mapped, tidyTrays, traysOf, type Alternative } from './trays';

/**
 * Alternatives: neighbouring steps of one stage and one group that lie in one tray, one of them at work, the others put aside.
 * Which of them it is changes nothing else of them: each keeps its settings, and whether it is on.
 */

/** Whether a step is laid on the picture: it is on, and not put aside for another one. */
export const isAtWork = ({ enabled, alternative }: Step): boolean => enabled && !alternative?.aside;

/** The steps of the tray that a step lies in; none where there is no such step. */
export const trayWith = ({ steps }: Pick<Treatment, 'steps'>, id: string): Step[] =>
  traysOf(steps).find(tray => tray.some(s => s.id === id)) ?? [];

/** The step of a tray that is not put aside. */
export const shownOf = (tray: readonly Step[]): Step => tray.find(s => !s.alternative?.aside) ?? tray[0];

/** The step that is seen where this one lies: itself, or the one that it is put aside for. */
export function seenFor(treatment: Pick<Treatment, 'steps'>, id: string | null): string | null {
  const step = treatment.steps.find(s => s.id === id);
  return step?.alternative?.aside ? shownOf(trayWith(treatment, step.id)).id : id;
}

const inTray = (step: Step, alternative: Alternative): Step => ({ ...step, alternative }) as Step;

/** A treatment with those steps changed that a function gives another one for. */
function withEach(treatment: Treatment, change: (step: Step) => Step): Treatment {
  const steps = mapped(treatment.steps, change);
  return steps === treatment.steps ? treatment : { ...treatment, steps: [...steps] };
}

/** Without alternatives that are none; the same treatment where there is nothing to be put right. */
export function tidyAlternatives(treatment: Treatment): Treatment {
  const steps = tidyTrays(treatment.steps);
  return steps === treatment.steps ? treatment : { ...treatment, steps: [...steps] };
}

/** The names of the trays that hold alternatives. */
export const traysNamed = ({ steps }: Pick<Treatment, 'steps'>): string[] => [
  ...new Set(steps.flatMap(({ alternative }) => (alternative ? [alternative.tray] : []))),
];

/** Puts an alternative of its tray to work in place of the one that is: on or off as that was. */
export function showAlternative(treatment: Treatment, id: string): Treatment {
  const tray = trayWith(treatment, id);
  const shown = tray.length > 1 ? shownOf(tray) : null;
  if (!shown || shown.id === id) return treatment;
  return withEach(treatment, s => {
    if (!tray.includes(s)) return s;
    const isIt = s.id === id;
    const of = inTray(s, { ...s.alternative!, aside: !isIt });
    return isIt && of.enabled !== shown.enabled ? ({ ...of, enabled: shown.enabled } as Step) : of;
  });
}

/** The alternative after (1) or before (-1) the one that is at work in a step's tray, in a ring; null where there is none. */
export function nextAlternative(treatment: Treatment, id: string, by: -1 | 1): string | null {
  const tray = trayWith(treatment, id);
  if (tray.length < 2) return null;
  return tray[(tray.indexOf(shownOf(tray)) + by + tray.length) % tray.length].id;
}

/**
 * Lays a step of the treatment into the tray of another one, behind it and at work in its place; it takes the stage and the group of
 * that tray. The same treatment where one of the two is not there.
 */
export function layBeside(treatment: Treatment, id: string, besideId: string): Treatment {
  const step = treatment.steps.find(s => s.id === id);
  const beside = treatment.steps.find(s => s.id === besideId);
  if (!step || !beside || trayWith(treatment, besideId).includes(step)) return treatment;
  const { stage, group } = beside;
  const tray = beside.alternative?.tray ?? freshIds('a', traysNamed(treatment))();
  const rest = { ...treatment, steps: treatment.steps.filter(s => s !== step) };
  const mates = trayWith(rest, besideId);
  const at = rest.steps.indexOf(beside) + 1;
  const steps = rest.steps.map(s => (mates.includes(s) ? inTray(s, { tray, aside: true }) : s));
  const laid = inTray({ ...step, stage, group } as Step, { tray, aside: false });
  return tidyAlternatives({ ...treatment, steps: steps.toSpliced(at, 0, laid) });
}

/** Lays the alternatives of a step's tray into trays of their own: the one at work stays so, the others are off. */
export function layOut(treatment: Treatment, id: string): Treatment {
  const tray = trayWith(treatment, id);
  return tray.length < 2 ? treatment : withEach(treatment, s => (tray.includes(s) ? alone(s) : s));
}

/**
 * Before steps are taken out of their trays: whoever is next to one that was at work takes its place.
 * @param ids of the steps that go
 */
export function withSuccessors(treatment: Treatment, ids: readonly string[]): Treatment {
  return traysOf(treatment.steps).reduce((of, tray) => {
    const shown = shownOf(tray);
    if (tray.length < 2 || !ids.includes(shown.id)) return of;
    const at = tray.indexOf(shown);
    const next = [...tray.slice(at), ...tray.slice(0, at)].find(s => !ids.includes(s.id));
    return next ? showAlternative(of, next.id) : of;
  }, treatment);
}
