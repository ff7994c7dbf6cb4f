import { expect, it } from 'vitest';
import { mixer, mixNames } from '../../core/colour/mixes';

/** Numbers in 0..255 that are the same in each run. */
function numbers(seed: number): () => number {
  let now = seed;
  return () => (now = (Math.imul(now, 1664525) + 1013904223) >>> 0) >>> 24;
}

it.each(mixNames.filter(m => m !== 'average' && m !== 'normal'))(
  '%s is what the browser’s own canvas makes of the same colours',
  mode => {
    const context = new OffscreenCanvas(1, 1).getContext('2d')!;
    const fill = (c: readonly number[]) => {
      context.fillStyle = `rgb(${c.join(' ')})`;
      context.fillRect(0, 0, 1, 1);
    };
    const next = numbers(5);
    const mix = mixer(mode);
    for (let pair = 0; pair < 60; pair++) {
      const [beneath, own] = [0, 1].map(() => [next(), next(), next()]);
      context.globalCompositeOperation = 'source-over';
      fill(beneath);
      context.globalCompositeOperation = mode as GlobalCompositeOperation;
      fill(own);
      const drawn = context.getImageData(0, 0, 1, 1).data;
      const result = Float64Array.from(own, v => v / 255);
      mix(
        Float64Array.from(beneath, v => v / 255),
        result,
      );
      for (let k = 0; k < 3; k++) {
        expect(Math.abs(result[k] * 255 - drawn[k]), `${mode} of ${own} on ${beneath}`).toBeLessThanOrEqual(
          2.01,
        );
      }
    }
  },
);
