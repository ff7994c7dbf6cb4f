import { expect, it } from 'vitest';
import type { Batch } from '../../contract/batches';
import { batchInWords } from './batch-words';

const titles = new Map([
  ['a', 'Four sheds'],
  ['b', 'Third door'],
]);
type Item = Batch['items'][number];
const item = (photographId: string, state: Item['state'], problem: string | null = null): Item => ({
  photographId,
  state,
  problem,
});
const batch = (state: Batch['state'], ...items: Item[]): Batch => ({
  id: '1',
  seriesId: '2',
  label: 'Harbour cold',
  state,
  items,
});

it.each([
  [batch('done', item('a', 'done'), item('b', 'done')), 'Harbour cold: done to two photographs.'],
  [
    batch('done', item('a', 'done'), item('b', 'failed', 'more than 200 steps')),
    'Harbour cold: done to one photograph, 1 failed. Third door: more than 200 steps.',
  ],
  [
    batch('stopped', item('a', 'same'), item('b', 'waiting')),
    'Harbour cold: done to no photographs, 1 had nothing to change, 1 left as they were.',
  ],
  [
    batch('undone', item('a', 'undone'), item('b', 'done', 'was changed since, and stays')),
    'Harbour cold: undone for one photograph. Third door: was changed since, and stays.',
  ],
])('says what has become of each', (of, words) => expect(batchInWords(of, titles)).toBe(words));
