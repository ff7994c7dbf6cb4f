import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nothingTold, toldNext, type SavingTold } from './saving-told';
import type { Saving } from './queue';

const after = (states: readonly Saving['state'][]): SavingTold =>
  states.reduce((told, state) => toldNext(told, state, 'The server is away.'), nothingTold);

describe('what is read out of saving', () => {
  it('is nothing before anything is done', () => expect(after(['saved', 'saved']).text).toBe(''));

  it('is the first save, once', () => {
    const first = after(['saved', 'saving', 'saved']);
    expect(first.text).toBe('Saved. From now on each change is.');
    // The same object: nothing is said again.
    expect(
      ['saving', 'saved', 'saving', 'saved'].reduce((t, s) => toldNext(t, s as Saving['state']), first),
    ).toBe(first);
  });

  it('is what is not saved, with the reason, and that it is again', () => {
    const states: Saving['state'][] = ['saving', 'saved', 'saving', 'waiting'];
    expect(after(states).text).toBe('Not saved. The server is away.');
    expect(after([...states, 'saving', 'saved']).text).toBe('Saved again.');
  });

  it('never says that it is saved while it is not, whatever happens', () => {
    const states = fc.array(
      fc.constantFrom<Saving['state']>('saved', 'saving', 'waiting', 'stale', 'refused'),
      { minLength: 1 },
    );
    fc.assert(
      fc.property(states, all => {
        const { text, isOwed } = after(all);
        const trouble = all.findLastIndex(s => s !== 'saved' && s !== 'saving');
        const good = all.lastIndexOf('saved');
        if (trouble > good) expect(text).not.toMatch(/^Saved/);
        if (isOwed) expect(all.at(-1)).not.toBe('saved');
      }),
    );
  });
});
