import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { stages } from '../steps/define';
import { stepKinds } from '../steps';
import { addStep, changeStep, newStep, nudgeStep, placeStep, removeStep } from './edit';
import { bareTreatment, TreatmentError, type Step, type Treatment } from './treatment';
import { parseTreatment } from './schema';

const read = (rest: object) => parseTreatment({ format: 'lampwash-treatment', version: 1, ...rest });
const refusal = (json: unknown) => {
  try {
    parseTreatment(json);
  } catch (error) {
    expect(error).toBeInstanceOf(TreatmentError);
    return (error as TreatmentError).message;
  }
  throw new Error('was read');
};

describe('reading a treatment', () => {
  it('reads the curves of the first version as those of today, and nothing between the two', () => {
    const lifted = [
      [0, 0.1],
      [1, 1],
    ];
    const step = (settings: object) => ({ steps: [{ kind: 'curve', settings }] });
    const today = read(step({ points: { red: lifted } }));
    expect(read(step({ red: lifted }))).toEqual(today);
    expect((today.steps[0] as Step<'curve'>).settings.points.red).toEqual(lifted);
    const both = { format: 'lampwash-treatment', version: 1, ...step({ points: {}, red: lifted }) };
    expect(refusal(both)).toContain('steps[0].settings.red: unknown setting');
  });

  it('fills in every default', () => {
    const t = read({ steps: [{ kind: 'mono' }, { kind: 'split-tone' }] });
    expect(t.steps[0]).toMatchObject({
      id: 's1',
      stage: 'mono',
      enabled: true,
      strength: 1,
      mix: 'normal',
      reach: { own: [0, 0, 1, 1], beneath: [0, 0, 1, 1] },
      mask: null,
      settings: { method: 'luminance', response: { red: 0, magenta: 0 } },
    });
    expect(t.steps[1].stage).toBe('tone');
  });

  it('is the identity on what it wrote', () => {
    const t = read({ strength: 0.5, steps: stepKinds.map(k => ({ kind: k.kind })) });
    expect(parseTreatment(JSON.parse(JSON.stringify(t)))).toEqual(t);
  });

  it.each([
    [null, ''],
    ['text', ''],
    [{}, 'format'],
    [{ format: 'other', version: 1 }, 'format'],
    [{ format: 'lampwash-treatment', version: 99 }, 'version: version 99 is not known'],
    [{ format: 'lampwash-treatment', version: 1, colour: 1 }, 'colour: unknown setting'],
    [{ format: 'lampwash-treatment', version: 1, steps: {} }, 'steps'],
    [
      { format: 'lampwash-treatment', version: 1, steps: [{ kind: 'nosuch' }] },
      'steps[0].kind: unknown step kind "nosuch"',
    ],
    [
      { format: 'lampwash-treatment', version: 1, steps: [{ kind: 'light', settings: { expsure: 1 } }] },
      'steps[0].settings.expsure: unknown setting',
    ],
    [
      {
        format: 'lampwash-treatment',
        version: 1,
        steps: [{ kind: 'mono' }, { kind: 'light', settings: { exposure: 9 } }],
      },
      'steps[1].settings.exposure',
    ],
    [
      { format: 'lampwash-treatment', version: 1, steps: [{ kind: 'light', settings: { exposure: NaN } }] },
      'steps[0].settings.exposure',
    ],
    [
      { format: 'lampwash-treatment', version: 1, steps: [{ kind: 'mono', strength: 2 }] },
      'steps[0].strength',
    ],
    [{ format: 'lampwash-treatment', version: 1, steps: [{ kind: 'mono', mix: 'burn' }] }, 'steps[0].mix'],
    [{ format: 'lampwash-treatment', version: 1, steps: [{ kind: 'mono', mask: 'm1' }] }, 'steps[0].mask'],
    [
      {
        format: 'lampwash-treatment',
        version: 1,
        steps: [{ kind: 'mono', reach: { own: [0.5, 0.2, 1, 1] } }],
      },
      'steps[0].reach.own: the four ends must not fall',
    ],
    [
      {
        format: 'lampwash-treatment',
        version: 1,
        steps: [
          { kind: 'mono', id: 'a' },
          { kind: 'mono', id: 'a' },
        ],
      },
      'steps[1].id: used twice',
    ],
    [
      {
        format: 'lampwash-treatment',
        version: 1,
        steps: [
          { kind: 'mono', stage: 'tone' },
          { kind: 'light', stage: 'ground' },
        ],
      },
      'steps[1].stage: comes after tone',
    ],
    [{ format: 'lampwash-treatment', version: 1, steps: Array(201).fill({ kind: 'mono' }) }, 'steps'],
  ])('refuses %j and names the place', (json, place) => {
    expect(refusal(json)).toContain(place);
  });

  it('names the first of very many wrong things', () => {
    const painted = (points: unknown) => ({
      ...bareTreatment(),
      masks: [
        { id: 'm1', parts: [{ kind: 'brush', strokes: Array.from({ length: 3000 }, () => ({ points })) }] },
      ],
    });
    const points = Array.from({ length: 200 }, () => [0.1, 0.2]);
    expect(() => parseTreatment(painted(points))).toThrow('masks[0].parts[0].strokes[0].points[0]');
    const parts = Array.from({ length: 150 }, () => ({ kind: 'brush', strokes: Array(5000).fill(1) }));
    expect(() => parseTreatment({ ...bareTreatment(), masks: [{ id: 'm1', parts }] })).toThrow(
      TreatmentError,
    );
  });

  it.each([
    [[], 'at least one point'],
    [Array(20_001).fill([0, 0, 1]), 'at most 20000'],
    ['0 0 1', 'an array'],
    [
      [
        [0, 0, 1],
        [0, 0],
      ],
      'three numbers',
    ],
    [[[0, 0, 1.5]], 'from 0 to 1'],
    [[[0, -5, 1]], 'from -4 to 5'],
    [[[0, NaN, 1]], 'from -4 to 5'],
    [[[0, '0', 1]], 'from -4 to 5'],
  ])('refuses the points of a stroke that are %j', (points, reason) => {
    const masks = [{ id: 'm1', parts: [{ kind: 'brush', strokes: [{ points }] }] }];
    expect(() => parseTreatment({ ...bareTreatment(), masks })).toThrow(reason as string);
  });

  it('does not read a stroke again that came out of it, whatever else has changed', () => {
    const masks = [{ id: 'm1', parts: [{ kind: 'brush', strokes: [{ points: [[0, 0, 1]] }] }] }];
    const once = parseTreatment({ ...bareTreatment(), masks });
    const again = parseTreatment({ ...once, strength: 0.5 });
    const strokeOf = (t: Treatment) => (t.masks[0].parts[0] as { strokes: unknown[] }).strokes[0];
    expect(strokeOf(again)).toBe(strokeOf(once));
    expect(Object.isFrozen(strokeOf(once))).toBe(true);
  });

  it('never throws anything but a TreatmentError', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.jsonValue(), (steps, settings) => {
        for (const json of [
          steps,
          { format: 'lampwash-treatment', version: 1, steps },
          { format: 'lampwash-treatment', version: 1, steps: [{ kind: 'light', settings }] },
        ]) {
          try {
            parseTreatment(json);
          } catch (error) {
            expect(error).toBeInstanceOf(TreatmentError);
          }
        }
      }),
    );
  });
});

describe('editing', () => {
  const build = () => {
    let t: Treatment = bareTreatment();
    for (const kind of ['split-tone', 'mono', 'light', 'split-tone'] as const)
      t = addStep(t, newStep(t, kind) as Step);
    return t;
  };
  const line = (t: Treatment) => t.steps.map(s => `${s.stage}:${s.id}`).join(' ');

  it('adds each step at the end of its stage, with an id of its own', () => {
    const t = build();
    expect(t.steps.map(s => s.kind)).toEqual(['light', 'mono', 'split-tone', 'split-tone']);
    expect(new Set(t.steps.map(s => s.id)).size).toBe(4);
  });

  it('every sequence of edits leaves a treatment that reads back the same, stages never falling', () => {
    const edit = fc.tuple(
      fc.constantFrom('nudge+', 'nudge-', 'place', 'remove', 'add'),
      fc.nat(9),
      fc.nat(9),
    );
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 25 }), edits => {
        let t = build();
        for (const [what, a, b] of edits) {
          const id = t.steps[a % Math.max(1, t.steps.length)]?.id ?? '';
          if (what === 'nudge+') t = nudgeStep(t, id, 1);
          else if (what === 'nudge-') t = nudgeStep(t, id, -1);
          else if (what === 'place') t = placeStep(t, id, stages[b % 5], a);
          else if (what === 'remove') t = removeStep(t, id);
          else t = addStep(t, newStep(t, stepKinds[b % stepKinds.length].kind));
          expect(parseTreatment(t)).toEqual(t);
        }
      }),
    );
  });

  it('nudging there and back is where it was, and stops at the ends of the line', () => {
    const t = build();
    const id = t.steps[1].id;
    expect(line(nudgeStep(nudgeStep(t, id, 1), id, -1))).toBe(line(t));
    let end = t;
    for (let i = 0; i < 12; i++) end = nudgeStep(end, id, 1);
    expect(end.steps.at(-1)).toMatchObject({ id, stage: 'finish' });
    for (let i = 0; i < 20; i++) end = nudgeStep(end, id, -1);
    expect(end.steps[0]).toMatchObject({ id, stage: 'ground' });
  });

  it('changes a step and leaves the old treatment as it was', () => {
    const t = build();
    const changed = changeStep(t, t.steps[0].id, { strength: 0.2 });
    expect(changed.steps[0].strength).toBe(0.2);
    expect(t.steps[0].strength).toBe(1);
  });
});
