import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { Stroke } from '../../core/settings/fields';
import { parseTreatment } from '../../core/treatment/schema';
import type { Treatment } from '../../core/treatment/treatment';
import { Receiver, Sender, type SentTreatment } from './sent-treatment';

/** Treatments go to workers with each stroke once: what arrives is what was sent, whatever the order, deaths and undos. */

const stroke = (n: number): Stroke => ({
  points: [[n / 2000, 0.5, 1]],
  radius: 0.02,
  hardness: 1,
  flow: 1,
  erase: false,
  keepEdges: 0,
});
/** Strokes that many treatments have in common. */
const all = Array.from({ length: 1500 }, (_, n) => stroke(n));

const treated = (areas: number[][]): Treatment => {
  const bare = parseTreatment({
    format: 'lampwash-treatment',
    version: 1,
    masks: areas.map((_, i) => ({ id: `m${i}`, parts: [{ kind: 'brush', strokes: [] }] })),
    steps: [{ kind: 'mono' }],
  });
  return {
    ...bare,
    masks: bare.masks.map((mask, i) => ({
      ...mask,
      parts: [{ ...mask.parts[0], strokes: areas[i].map(n => all[n]) }],
    })),
  };
};

const areas = fc.array(fc.array(fc.nat(all.length - 1), { maxLength: 400 }), { maxLength: 3 });
const acts = fc.array(
  fc.oneof(
    { weight: 8, arbitrary: fc.record({ what: fc.constant('send' as const), areas }) },
    { weight: 1, arbitrary: fc.constant({ what: 'die' as const }) },
  ),
  { maxLength: 12 },
);

/** As a worker gets it. */
const cloned = (sent: SentTreatment) => structuredClone(sent);

it('what arrives is what was sent, and no stroke goes twice to a worker that has it', () => {
  fc.assert(
    fc.property(acts, all => {
      const sender = new Sender();
      let receiver = new Receiver();
      let had = new Set<number>();
      for (const act of all) {
        if (act.what === 'die') {
          receiver = new Receiver();
          sender.begin();
          had = new Set();
          continue;
        }
        const treatment = treated(act.areas);
        const sent = sender.send(treatment);
        for (const [number] of sent.strokes) {
          expect(had.has(number)).toBe(false);
          had.add(number);
        }
        for (const number of sent.forget) had.delete(number);
        expect(receiver.receive(cloned(sent))).toEqual(treatment);
      }
      // What is kept beside the last treatment has a bound.
      const last = sender.send(treated([]));
      for (const number of last.forget) had.delete(number);
      expect(had.size).toBeLessThanOrEqual(500);
    }),
    { numRuns: 60 },
  );
});

it('a stroke that a worker has is the same object there, and one without strokes is sent as it is', () => {
  const [sender, receiver] = [new Sender(), new Receiver()];
  const first = receiver.receive(cloned(sender.send(treated([[1, 2]]))));
  const second = receiver.receive(cloned(sender.send(treated([[1, 2, 3], [2]]))));
  const strokes = ({ masks }: Treatment, i: number) => {
    const [part] = masks[i].parts;
    if (part.kind !== 'brush') throw new Error('no brush');
    return part.strokes;
  };
  expect(strokes(second, 0)[1]).toBe(strokes(first, 0)[1]);
  expect(strokes(second, 1)[0]).toBe(strokes(first, 0)[1]);
  const plain = treated([]);
  expect(sender.send(plain).told).toBe(plain);
});

it('a stroke that was never sent is named as a fault, and not left out', () => {
  const sent = new Sender().send(treated([[7]]));
  expect(() => new Receiver().receive({ ...sent, strokes: [] })).toThrow(/before it was sent/);
});
