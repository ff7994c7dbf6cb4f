import type { Batch } from '../../contract/batches';
import { countOf } from '../../words/words';

/** What has become of the photographs of a change, in words. */
export function batchInWords({ state, label, items }: Batch, titles: ReadonlyMap<string, string>): string {
  const count = (of: Batch['items'][number]['state']) => items.filter(i => i.state === of).length;
  const name = (id: string) => titles.get(id) ?? 'a photograph that is gone';
  const said = items.filter(i => i.problem !== null).map(i => `${name(i.photographId)}: ${i.problem}`);
  const why = said.length ? ` ${said.join('; ')}.` : '';
  if (state === 'undone')
    return `${label}: undone for ${countOf(count('undone'), 'photograph').toLowerCase()}.${why}`;
  const parts = [`done to ${countOf(count('done'), 'photograph').toLowerCase()}`];
  if (count('same')) parts.push(`${count('same')} had nothing to change`);
  if (count('failed')) parts.push(`${count('failed')} failed`);
  if (count('waiting')) parts.push(`${count('waiting')} left as they were`);
  return `${label}: ${parts.join(', ')}.${why}`;
}
