import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { geometryOf } from '../frame/geometry';
import { anyTreatment } from '../testing/arbitraries';
import { picture, read, sightFor } from '../testing/pictures';
import type { Treatment } from '../treatment/treatment';
import type { Pass } from './pass';
import { createPlanner, type Plan } from './plan';
import { createSurveyor } from './survey';

/** What is found in a whole picture, kept from one plan to the next. */

const source = picture(36, 24);
const planner = createPlanner();
const geometryFor = (treatment: Treatment) => geometryOf(source, treatment.frame);
const exactly = (treatment: Treatment): Plan => planner(treatment, { grey: false, pixels: 1 });

/** The same plan as a draft has it: through other tables, which here happen to give the same. */
const draftOf = (plan: Plan): Plan => ({
  ...plan,
  fine: false,
  passes: plan.passes.map(p => ({ ...p, key: `draft ${p.key}` })),
});

/** A plan whose surveys are counted. */
function counted(plan: Plan, count: () => void): Plan {
  const watched = (pass: Pass): Pass => {
    if (pass.kind !== 'field' || !pass.field.survey) return pass;
    const { survey } = pass.field;
    const field = {
      ...pass.field,
      survey: (whole: Parameters<typeof survey>[0]) => {
        count();
        return survey(whole);
      },
    };
    return { ...pass, field };
  };
  return { ...plan, passes: plan.passes.map(watched) };
}

const response = (blue: number, more: object[] = []) =>
  read([
    { kind: 'light', settings: { exposure: 0.2 } },
    ...more,
    { kind: 'mono', settings: { method: 'response', response: { blue } } },
    { kind: 'local-contrast', settings: { fine: 0.4 } },
  ]);

describe('a surveyor', () => {
  it('finds what one that has never looked finds, whatever came before', () => {
    const kinds = ['light', 'mono', 'local-contrast', 'local-light', 'glow', 'wash', 'keep-colour'];
    const some = fc.array(anyTreatment({ kinds, most: 4, frame: false }), { minLength: 1, maxLength: 3 });
    const turns = fc.array(fc.tuple(fc.nat(2), fc.boolean()), { minLength: 2, maxLength: 8 });
    fc.assert(
      fc.property(some, turns, (treatments, order) => {
        const geometry = geometryFor(treatments[0]);
        const look = createSurveyor(source.codes, geometry);
        for (const [which, draft] of order) {
          const plan = exactly(treatments[which % treatments.length]);
          const fresh = createSurveyor(source.codes, geometry)(plan, sightFor(plan, source));
          expect(look(draft ? draftOf(plan) : plan, sightFor(plan, source))).toEqual(fresh);
        }
      }),
      { numRuns: 40 },
    );
  }, 60_000);

  it('does not look again where a draft follows a fine picture, and the other way round only once', () => {
    const treatment = response(0.4);
    const look = createSurveyor(source.codes, geometryFor(treatment));
    const counts: number[] = [];
    const turn = (make: (plan: Plan) => Plan, blue: number) => {
      let count = 0;
      look(counted(make(exactly(response(blue))), () => count++));
      counts.push(count);
    };
    const fine = (plan: Plan) => plan;
    turn(draftOf, 0.4);
    turn(fine, 0.4);
    turn(draftOf, 0.4);
    turn(fine, 0.4);
    // Another response lies beneath the local contrast alone.
    turn(draftOf, 0.5);
    turn(fine, 0.5);
    turn(fine, 0.4);
    expect(counts).toEqual([2, 1, 0, 0, 1, 1, 0]);
  });

  it('keeps what it found for what is shown while a control is held', () => {
    const back = { kind: 'local-light', settings: { exposure: -2 } };
    const look = createSurveyor(source.codes, geometryFor(response(0.4)));
    let count = 0;
    const turn = (treatment: Treatment) => look(counted(exactly(treatment), () => count++));
    turn(response(0.4));
    turn(response(0.4, [back]));
    const first = count;
    for (let i = 0; i < 3; i++) {
      turn(response(0.4, [back]));
      turn(response(0.4));
    }
    expect(count).toBe(first);
  });
});
