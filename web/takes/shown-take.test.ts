import { expect, it } from 'vitest';
import { shownTake } from './shown-take';

const photograph = (currentTakeId: string, ...ids: string[]) => ({
  currentTakeId,
  takes: ids.map(id => ({ id })),
});

it('is the one that was opened, where it is there', () => {
  expect(shownTake({ id: 'B', before: 'A' }, photograph('A', 'A', 'B'))).toBe('B');
});

it('stays the one before while a new one is not known yet, whatever the photograph last stood at', () => {
  expect(shownTake({ id: 'C', before: 'B' }, photograph('A', 'A', 'B'))).toBe('B');
});

it('is the one that the photograph stands at where both are gone', () => {
  expect(shownTake({ id: 'C', before: 'B' }, photograph('A', 'A'))).toBe('A');
});
