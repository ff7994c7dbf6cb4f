import { wordFor } from '../../words/words';

/** What of a step beside its settings may be its own. */
const own: Record<string, string> = {
  'step.enabled': 'being on or off',
  'step.strength': 'strength',
  'step.mix': 'mix',
  'step.reach': 'reach',
  'step.name': 'name',
  'step.mask': 'area',
  'step.place': 'place',
};
const MOST = 3;

/** What was changed of a step that follows a look, in words: `hue, strength and area`. */
export function changedInWords(changed: readonly string[]): string {
  const names = changed.map(key => own[key] ?? wordFor(key).toLowerCase());
  const shown =
    names.length > MOST ? [...names.slice(0, MOST - 1), `${names.length - MOST + 1} more`] : names;
  return shown.length > 1 ? `${shown.slice(0, -1).join(', ')} and ${shown.at(-1)}` : shown.join();
}
