import { stepKind, type Settings } from '../core/steps';
import type { Step } from '../core/treatment/treatment';
import { wordFor } from './words';
import { nameOfPigment } from './pigment-names';

/** What steps are called. */

/** The name of a step: its own, that of the pigment that a wash is, or that of its kind. */
export function nameOfStep(step: Step | undefined): string {
  if (!step) return '';
  if (step.name) return step.name;
  if (step.kind !== 'wash') return wordFor(step.kind);
  const { pigment } = step.settings as Settings<'wash'>;
  const taken = nameOfPigment(pigment);
  return taken ? `${taken} wash` : wordFor('wash');
}

/** A choice that some steps of one kind are set to otherwise, in words; null where they have none. */
function choiceApart(steps: readonly Step[]): ((step: Step) => string) | null {
  const fields = Object.entries(stepKind(steps[0].kind)?.fields ?? {});
  const of = (step: Step, name: string) => (step.settings as Record<string, unknown>)[name];
  const apart = fields.find(
    ([name, field]) => field.type === 'choice' && steps.some(s => of(s, name) !== of(steps[0], name)),
  );
  return apart ? step => wordFor(String(of(step, apart[0]))) : null;
}

/** The names of alternatives, each another one: those of one kind by what they are set to, or by their number. */
export function namesOfAlternatives(tray: readonly Step[]): string[] {
  const named = tray.map(step => {
    if (step.name) return step.name;
    const alike = tray.filter(s => !s.name && s.kind === step.kind && nameOfStep(s) === nameOfStep(step));
    return (alike.length > 1 && choiceApart(alike)?.(step)) || nameOfStep(step);
  });
  return named.map((name, i) => {
    const alike = named.flatMap((other, k) => (other === name ? [k] : []));
    return alike.length > 1 ? `${name} ${alike.indexOf(i) + 1}` : name;
  });
}
