import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { touchedBy } from '../masks/touched';
import { strokeUpTo } from '../testing/arbitraries';
import { picture } from '../testing/pictures';
import { addStroke, showingArea, type AreaShown } from '../treatment/areas';
import type { Stroke } from '../settings/fields';
import type { Treatment } from '../treatment/treatment';
import { parseTreatment } from '../treatment/schema';
import { geometryOf } from '../frame/geometry';
import { createPlanner } from './plan';
import { render8, type Kept } from './render';

const treatment = fc
  .record({
    feather: fc.constantFrom(0, 0.01),
    grow: fc.constantFrom(0, 0.01, -0.01),
    bleed: fc.constantFrom(0, 0.02),
    invert: fc.boolean(),
    shown: fc.constantFrom<AreaShown>('off', 'film', 'edge'),
  })
  .map(({ feather, grow, bleed, invert, shown }): Treatment => {
    const pigment = (colour: string) => ({ pigment: { kind: 'flat', colour }, bleed });
    const made = parseTreatment({
      format: 'lampwash-treatment',
      version: 1,
      masks: [
        { id: 'a', feather, grow, invert, parts: [{ kind: 'brush', strokes: [] }] },
        { id: 'b', invert: true, parts: [{ kind: 'mask', mask: 'a' }] },
      ],
      steps: [
        { kind: 'mono' },
        { kind: 'wash', mask: 'a', settings: pigment('#b0703c') },
        { kind: 'wash', mask: 'b', strength: 0.5, settings: pigment('#3f6d78') },
        { kind: 'vignette', settings: { amount: -0.5 } },
        { kind: 'grain', settings: { amount: 0.4 } },
      ],
    });
    return showingArea(made, 'a', shown, '#22c9a8');
  });
// One that keeps to edges is read from the picture: then all is rendered that it may cover.
const stroke = strokeUpTo(0.08, 4).map(s => ({ ...s, keepEdges: 0 }));

describe('painting on a rendered picture', () => {
  it('rendering only what a stroke touches gives the picture rendered whole', () => {
    const tile = picture(97, 163);
    const planner = createPlanner();
    fc.assert(
      fc.property(treatment, fc.array(stroke, { minLength: 1, maxLength: 3 }), (start, strokes) => {
        const geometry = geometryOf(tile, start.frame);
        const planOf = (t: Treatment) => planner(t, { grey: false, pixels: 1e6 });
        const options = { grey: false, geometry };
        const kept: Kept = {};
        const shown = new Uint8ClampedArray(97 * 163 * 4);
        render8(planOf(start), tile, shown, 4, { ...options, kept });
        let now = start;
        for (const each of strokes) {
          for (let length = 1; length <= each.points.length; length++) {
            const part: Stroke = { ...each, points: each.points.slice(0, length) };
            const added = { ...part, points: part.points.slice(Math.max(0, length - 2)) };
            const next = addStroke(now, 'a', part);
            const touched = touchedBy(added, 'a', next.masks, geometry, 0.02);
            const only = touched ?? { x: 0, y: 0, width: 0, height: 0 };
            render8(planOf(next), tile, shown, 4, { ...options, kept, only });
            const whole = new Uint8ClampedArray(97 * 163 * 4);
            render8(planOf(next), tile, whole, 4, options);
            expect(Buffer.compare(Buffer.from(shown), Buffer.from(whole))).toBe(0);
            if (length === each.points.length) now = next;
          }
        }
      }),
      { numRuns: 10 },
    );
  });
});
