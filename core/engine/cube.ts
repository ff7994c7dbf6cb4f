import type { CubeTable } from '../formats/cube';
import type { Treatment } from '../treatment/schema';
import { activeSteps, contextOf, exactly, fitsTable } from './lay';

/**
 * A treatment as a 3D colour table, its colours clipped to 0..1. Throws a RangeError that names the steps where
 * it has masks or steps that need more than a colour. The frame plays no part.
 * @param size entries along an axis, 2..129
 */
export function cubeOf(treatment: Treatment, size: number): CubeTable {
  const context = contextOf(treatment);
  const blocking = treatment.steps.flatMap((step, i) => {
    if (!activeSteps(treatment).includes(step) || fitsTable(step, context)) return [];
    const why = step.mask === null ? 'looks beyond a single colour' : 'has a mask';
    return [`steps[${i}] (${step.kind}${step.name ? ` "${step.name}"` : ''}) ${why}`];
  });
  if (blocking.length) throw new RangeError(`cannot be a colour table: ${blocking.join('; ')}`);
  const point = exactly(treatment);
  const values = new Float32Array(size ** 3 * 3);
  const c = new Float64Array(3);
  let o = 0;
  for (let b = 0; b < size; b++) {
    for (let g = 0; g < size; g++) {
      for (let r = 0; r < size; r++) {
        c[0] = r / (size - 1);
        c[1] = g / (size - 1);
        c[2] = b / (size - 1);
        point(c);
        for (let k = 0; k < 3; k++) values[o++] = Math.min(1, Math.max(0, c[k]));
      }
    }
  }
  return { title: 'Lamp Wash', dimensions: 3, size, domainMin: [0, 0, 0], domainMax: [1, 1, 1], values };
}
