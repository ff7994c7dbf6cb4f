import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { read } from '../../core/testing/pictures';
import { nameOf, overlaid, treatmentOf, type Against, type Shelf } from './against';
import { afterPress, type Shown, type Way } from './compared';

const whole = read([
  { id: 'a', kind: 'mono' },
  { id: 'b', kind: 'split-tone', stage: 'tone' },
  { id: 'c', kind: 'grain', stage: 'finish' },
]);
const other = read([{ id: 'z', kind: 'light' }]);
const shelf: Shelf = {
  now: { ...whole, steps: whole.steps.slice(0, 2) },
  whole,
  chosen: 'b',
  before: null,
  takes: new Map([['2', other]]),
  letters: new Map([
    ['1', 'A'],
    ['2', 'B'],
  ]),
  take: '1',
};
const stepsOf = (against: Against) =>
  treatmentOf(against, shelf)?.steps.map(s => s.id + (s.enabled ? '' : ' off'));

describe('what the picture is compared with', () => {
  it('is what its name says', () => {
    const all: [Against, string[] | undefined, string][] = [
      [{ what: 'now' }, ['a', 'b'], 'Take A, up to Split tone'],
      [{ what: 'bare' }, [], 'Bare'],
      [{ what: 'before' }, undefined, 'Before the last change'],
      [{ what: 'take', id: '2' }, ['z'], 'Take B'],
      [{ what: 'take', id: '3' }, undefined, 'Take put aside'],
      [{ what: 'upTo', step: 'c' }, ['a', 'b', 'c'], 'Up to Grain'],
      [{ what: 'upTo', step: 'gone' }, undefined, 'Up to '],
      [{ what: 'without' }, ['a', 'b off'], 'Without Split tone'],
      [{ what: 'moment', treatment: other, label: 'Grain size 40' }, ['z'], 'After Grain size 40'],
    ];
    for (const [against, steps, name] of all) {
      expect([stepsOf(against), nameOf(against, shelf)]).toEqual([steps, name]);
    }
  });

  it('lies in the frame of now, half and half', () => {
    const turned = { ...other, frame: { ...other.frame, straighten: 2 } };
    expect(overlaid(turned, shelf.now).frame).toBe(shelf.now.frame);
    expect(overlaid(shelf.whole, shelf.now)).toBe(shelf.whole);
  });
});

describe('a press of a way to compare', () => {
  const way = fc.constantFrom<Way>('bare', 'half', 'side');
  const kept = fc.record({ way: fc.option(way), kept: fc.constant(true) });

  it('clicked twice leaves nothing; held leaves what was there before; clicked once, itself', () => {
    fc.assert(
      fc.property(way, kept, (pressed, before: Shown) => {
        const once = afterPress(pressed, before, true);
        if (before.way === pressed) expect(once.way).toBeNull();
        else {
          expect(once).toEqual({ way: pressed, kept: true });
          expect(afterPress(pressed, once, true).way).toBeNull();
          expect(afterPress(pressed, before, false)).toEqual(before);
        }
      }),
    );
  });
});
