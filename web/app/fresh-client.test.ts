import { QueryObserver } from '@tanstack/react-query';
import { expect, it } from 'vitest';
import { FreshQueryClient } from './fresh-client';

/** A value that changes while it is asked for: each answer is what it was when it was asked. */
function shelf() {
  const at = { value: 1, asked: 0 };
  const queryFn = async () => {
    at.asked++;
    const { value } = at;
    await new Promise(done => setTimeout(done, 20));
    return value;
  };
  const client = new FreshQueryClient();
  const observer = new QueryObserver(client, { queryKey: ['shelf'], queryFn });
  const seen: unknown[] = [];
  const stop = observer.subscribe(({ data }) => seen.push(data));
  return { at, client, observer, seen, stop };
}

it('asks again for what was changed while its first answer was on its way', async () => {
  const { at, client, observer, stop } = shelf();
  await new Promise(done => setTimeout(done, 5));
  at.value = 2;
  await client.invalidateQueries();
  expect(observer.getCurrentResult().data).toBe(2);
  expect(at.asked).toBe(2);
  stop();
});

it('asks once for what has answered already', async () => {
  const { at, client, observer, stop } = shelf();
  await new Promise(done => setTimeout(done, 40));
  at.value = 3;
  await client.invalidateQueries({ queryKey: ['shelf'] });
  expect([observer.getCurrentResult().data, at.asked]).toEqual([3, 2]);
  await client.invalidateQueries({ queryKey: ['another'] });
  expect(at.asked).toBe(2);
  stop();
});
