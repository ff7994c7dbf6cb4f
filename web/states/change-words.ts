import type { Treatment } from '../../core/treatment/treatment';
import type { Setting } from '../../words/setting';
import { settingsOfStep } from '../../words/step-settings';

/** What a change of the history did, in words: `Split tone highlights hue 42° → 38°`. */

const written = (setting: Setting): string =>
  setting.type === 'number' ? setting.written(setting.value) : setting.written(setting.value);

/** The settings that two treatments have otherwise, of steps that both have. */
function changed(before: Treatment, after: Treatment): { from: Setting; to: Setting }[] {
  return after.steps.flatMap(step => {
    const old = before.steps.find(s => s.id === step.id && s.kind === step.kind);
    if (!old || old === step) return [];
    const known = new Map(settingsOfStep(before, old).map(s => [s.name, s]));
    return settingsOfStep(after, step).flatMap(to => {
      const from = known.get(to.name);
      return from && from.value !== to.value && !to.derived ? [{ from, to }] : [];
    });
  });
}

/** The name of a change with what it changed from and to, where that is one number or choice. */
export function wordsOfChange(label: string, before: Treatment | null, after: Treatment): string {
  const named = label || 'Changed';
  if (!before) return named;
  const all = changed(before, after);
  if (all.length !== 1) return named;
  const [{ from, to }] = all;
  // A name that says the value already is left as it is.
  const [old, now] = [written(from), written(to)];
  return named.endsWith(` ${now}`)
    ? `${named.slice(0, -now.length)}${old} → ${now}`
    : `${named} ${old} → ${now}`;
}
