import { describe, expect, it } from 'vitest';
import { stages } from '../steps/define';
import { stepKind, stepKinds } from '../steps';
import { read } from '../testing/pictures';
import { parseTreatment } from './schema';
import { setOut, usualSteps } from './usual-steps';

describe('the steps that there are to add', () => {
  it('hold every kind once as it is set out, those of the stage first, each under a key of its own', () => {
    const named = usualSteps('ground');
    expect(new Set(named.map(u => u.kind))).toEqual(new Set(stepKinds.map(k => k.kind)));
    expect(named.some(u => u.group === 'More')).toBe(false);
    for (const stage of stages) {
      const all = usualSteps(stage);
      expect(new Set(all.map(u => u.key)).size).toBe(all.length);
      expect(all[0].stage).toBe(stage);
      const plain = all.filter(u => u.name === null).map(u => u.kind);
      expect(new Set(plain).size).toBe(plain.length);
      const first = all.findIndex(u => u.stage !== stage);
      expect(all.slice(first).every(u => u.stage !== stage)).toBe(true);
    }
  });

  const between = read([
    { id: 's1', kind: 'mono' },
    { id: 's2', kind: 'grain', stage: 'finish' },
  ]);

  it.each(usualSteps('ground').map(u => [u.key, u] as const))(
    '%s comes last in its stage, as the format reads it, and does what it says beside its kind alone',
    (_, usual) => {
      const { step, tried, begun } = setOut(between, usual, 'tone');
      expect(tried.steps.map(s => s.id)).toEqual(['s1', step, 's2']);
      for (const made of [tried, begun]) {
        expect(parseTreatment(JSON.parse(JSON.stringify(made)))).toEqual(made);
      }
      const [, added] = tried.steps;
      const plain = { ...stepKind(usual.kind)!.defaults, ...stepKind(usual.kind)!.fresh };
      if (usual.name === null) expect(added.settings).toEqual(plain);
      else expect(added.settings).not.toEqual(plain);
    },
  );

  it('for parts of the picture begin on an area that is empty, and are tried on the whole', () => {
    const washes = usualSteps('colour').filter(u => stepKind(u.kind)!.startsOnArea);
    expect(washes.map(u => u.kind)).toEqual(['wash', 'keep-colour', 'local-light']);
    for (const usual of washes) {
      const { step, tried, begun } = setOut(between, usual, 'colour');
      expect(tried.masks).toEqual([]);
      const laid = begun.steps.find(s => s.id === step)!;
      expect(begun.masks.find(m => m.id === laid.mask)?.parts).toEqual([]);
    }
  });

  it('are laid on anew each time: settings are not shared between two', () => {
    const [usual] = usualSteps('tone').filter(u => u.name === 'Sepia');
    const one = setOut(between, usual, 'tone');
    const two = setOut(one.begun, usual, 'tone');
    const [a, b] = [one.step, two.step].map(id => two.begun.steps.find(s => s.id === id)!.settings);
    expect(a).toEqual(b);
    expect(a).not.toBe(b);
  });
});
