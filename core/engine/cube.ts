import { ciede2000 } from '../colour/ciede2000';
import { rgbToLab } from '../colour/lab';
import { applyCube, type CubeTable } from '../formats/cube';
import type { Step, Treatment } from '../treatment/treatment';
import { activeSteps, contextOf, exactly, fitsTable } from './lay';

/** A step at work that no colour table can hold: it lies on an area, or looks at more than a single colour. */
export interface LeftOut {
  step: Step;
  why: 'area' | 'beyond';
}

/** The steps at work that a colour table leaves out. */
export function leftOut(treatment: Treatment): LeftOut[] {
  const context = contextOf(treatment);
  return activeSteps(treatment)
    .filter(step => !fitsTable(step, context))
    .map(step => ({ step, why: step.mask === null ? 'beyond' : 'area' }));
}

/** A treatment without what a colour table cannot hold. */
export function asColours(treatment: Treatment): Treatment {
  const left = leftOut(treatment).map(({ step }) => step.id);
  return left.length ? { ...treatment, steps: treatment.steps.filter(s => !left.includes(s.id)) } : treatment;
}

/**
 * A treatment as a 3D colour table, its colours clipped to 0..1. Throws a RangeError that names the steps where
 * it has masks or steps that need more than a colour. The frame plays no part.
 * @param size entries along an axis, 2..129
 */
export function cubeOf(treatment: Treatment, size: number): CubeTable {
  const blocking = leftOut(treatment).map(({ step, why }) => {
    const place = `steps[${treatment.steps.indexOf(step)}] (${step.kind}${step.name ? ` "${step.name}"` : ''})`;
    return `${place} ${why === 'beyond' ? 'looks beyond a single colour' : 'has a mask'}`;
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

/** How far a table is from a picture that it stands for, as CIEDE2000. */
export interface Exactness {
  mean: number;
  worst: number;
}

/**
 * How exactly a table gives a treated picture.
 * @param bare 16-bit RGB codes of the picture that the table is applied to
 * @param treated of the same picture as it is treated
 */
export function exactnessOf(table: CubeTable, bare: Uint16Array, treated: Uint16Array): Exactness {
  const apply = applyCube(table);
  const c = new Float64Array(3);
  const count = bare.length / 3;
  let sum = 0;
  let worst = 0;
  for (let i = 0; i < bare.length; i += 3) {
    for (let k = 0; k < 3; k++) c[k] = bare[i + k] / 65535;
    apply(c);
    const difference = ciede2000(
      rgbToLab(c[0], c[1], c[2]),
      rgbToLab(treated[i] / 65535, treated[i + 1] / 65535, treated[i + 2] / 65535),
    );
    sum += difference;
    if (difference > worst) worst = difference;
  }
  return { mean: count ? sum / count : 0, worst };
}
