import { describe, expect, it } from 'vitest';
import { addArea, addStroke, changeArea, layOn } from './areas';
import { addStep, changeStep, newStep } from './edit';
import { looksTheSame } from './same';
import { bareTreatment, type Step, type Treatment } from './treatment';

const stroke = {
  points: [[0.5, 0.5, 1] as [number, number, number]],
  radius: 0.1,
  hardness: 0.5,
  flow: 1,
  erase: false,
  keepEdges: 0,
};

describe('two treatments look the same', () => {
  const plain = addStep(bareTreatment(), newStep(bareTreatment(), 'mono') as Step);
  const { treatment: withAreas, area } = addArea(plain);
  const inverse = addArea(withAreas);
  const standing: Treatment = changeArea(inverse.treatment, inverse.area, {
    parts: [{ kind: 'mask', op: 'add', mask: area }],
  });
  const wash = newStep(standing, 'wash') as Step;
  const on = layOn(addStep(standing, wash), wash.id, inverse.area);

  it('while their steps and all beneath them are the same', () => {
    expect(looksTheSame(on, { ...on, steps: [...on.steps], masks: [...on.masks] })).toBe(true);
    // An area that no step lies on plays no part.
    expect(looksTheSame(on, addArea(on).treatment)).toBe(true);
  });

  it('not once a step, an area beneath one, the frame or the strength is another', () => {
    expect(looksTheSame(on, changeStep(on, wash.id, { strength: 0.5 }))).toBe(false);
    expect(looksTheSame(on, addStroke(on, area, stroke))).toBe(false);
    expect(looksTheSame(on, { ...on, frame: { ...on.frame, angle: 2 } })).toBe(false);
    expect(looksTheSame(on, { ...on, strength: 0.5 })).toBe(false);
    expect(looksTheSame(on, plain)).toBe(false);
  });

  it('not once a table that a step reads is another', () => {
    const table = newStep(on, 'colour-table') as Step;
    const reading = (sha256: string): Treatment => ({ ...base, tables: { t: { sha256 } } });
    const base = addStep(on, { ...table, settings: { ...table.settings, table: 't' } } as Step);
    expect(looksTheSame(reading('a'.repeat(64)), reading('a'.repeat(64)))).toBe(true);
    expect(looksTheSame(reading('a'.repeat(64)), reading('b'.repeat(64)))).toBe(false);
  });
});
