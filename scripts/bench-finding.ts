import sharp from 'sharp';
import { geometryOf } from '../core/frame/geometry';
import { frameSchema } from '../core/frame/schema';
import { boxMean } from '../core/kernels/planes';
import { coverageOf } from '../core/masks/coverage';
import { SIGHT_EDGE, sightOf } from '../core/masks/finding/sight';
import { emptyMask } from '../core/masks/mask';
import type { Stroke } from '../core/settings/fields';
import { roughStrokes } from '../demo/objects/strokes';

/**
 * How long the area finder takes on a photograph of 18 megapixels, as `npm run bench` prints it: the first answer, a further stroke, and
 * five pigments that spread, beside a box mean of the same picture in the same run.
 */

const median = (all: number[]) => all.toSorted((a, b) => a - b)[Math.floor(all.length / 2)];

/** The demo's still life, made as large as a camera's picture, at the size at which areas look at it. */
async function photograph() {
  const large = await sharp('demo/photographs/quinces-and-enamel-jug.jpg')
    .resize(5184, 3456, { fit: 'fill' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { data, info } = await sharp(large.data, {
    raw: { width: large.info.width, height: large.info.height, channels: 3 },
  })
    .resize(SIGHT_EDGE)
    .raw()
    .toBuffer({ resolveWithObject: true });
  const rgb = new Float32Array(data.length);
  for (let i = 0; i < rgb.length; i++) rgb[i] = data[i] / 255;
  return { codes: new Uint8Array(data), rgb, width: info.width, height: info.height };
}

const { codes, rgb, width, height } = await photograph();
const whole = { x: 0, y: 0, width, height };
const geometry = geometryOf(whole, frameSchema.parse({}));
const beneath = rgb.slice();

const stroke = (radius: number, ...places: [number, number][]): Stroke => ({
  points: places.map(([x, y]) => [x, y, 1]),
  radius,
  hardness: 1,
  flow: 1,
  erase: false,
  keepEdges: 0,
});
/** Five pigments: two quinces, the jug, the cloth, the table, the wall. */
const pigments = [
  [stroke(0.009, [0.15, 0.6], [0.22, 0.64])],
  [stroke(0.009, [0.56, 0.2], [0.6, 0.6])],
  [stroke(0.009, [0.2, 0.85], [0.45, 0.85])],
  [stroke(0.009, [0.7, 0.8], [0.9, 0.85])],
  [stroke(0.009, [0.1, 0.2], [0.4, 0.3]), stroke(0.009, [0.85, 0.2], [0.9, 0.4])],
];

const times: Record<string, number[]> = {
  sight: [],
  first: [],
  further: [],
  spread: [],
  again: [],
  fine: [],
  mean: [],
};
const took = (name: string, run: () => unknown) => {
  const began = performance.now();
  run();
  times[name].push(performance.now() - began);
};
for (let round = 0; round < 9; round++) {
  const sight = sightOf(codes, width, height, false);
  took('sight', () => sightOf(codes, width, height, false));
  const find = (strokesIn: readonly Stroke[], strokesOut: readonly Stroke[]) => {
    const part = {
      kind: 'found' as const,
      op: 'add' as const,
      strokesIn: [...strokesIn],
      strokesOut: [...strokesOut],
    };
    const { survey } = coverageOf('m', [{ ...emptyMask('m', ''), parts: [part] }], 0);
    survey!(whole, geometry, { beneath, ground: rgb, sight });
  };
  const { strokesIn, strokesOut } = roughStrokes['front-quince'];
  took('first', () => find(strokesIn, []));
  for (let n = 1; n <= strokesOut.length; n++) took('further', () => find(strokesIn, strokesOut.slice(0, n)));
  took('spread', () => {
    for (const own of pigments) find(own, pigments.filter(p => p !== own).flat());
  });
  took('again', () => find(strokesIn, strokesOut));
}
for (let round = 0; round < 9; round++) {
  const around = {
    kind: 'brush' as const,
    op: 'add' as const,
    strokes: [stroke(0.08, [0.17, 0.58], [0.2, 0.64]), stroke(0.16, [0.6, 0.25], [0.62, 0.5])],
  };
  took('fine', () => {
    const { survey } = coverageOf('m', [{ ...emptyMask('m', ''), fine: 0.02, parts: [around] }], 0);
    survey!(whole, geometry, { beneath, ground: rgb });
  });
  took('mean', () => {
    for (let k = 0; k < 10; k++) boxMean({ width, height, values: rgb.subarray(0, width * height) }, 8);
  });
}
const mean = median(times.mean) / 10;
const line = (name: string, key: string, bar: string) =>
  console.log(
    `  ${name.padEnd(34)} ${median(times[key]).toFixed(0).padStart(5)} ms  ${(median(times[key]) / mean).toFixed(0).padStart(4)} times a box mean${bar}`,
  );
console.log('\nThe area finder, a photograph of 18 megapixels:');
line('the photograph made ready', 'sight', '');
line('first answer', 'first', '  (bar 300 ms)');
line('a further stroke', 'further', '  (bar 150 ms)');
line('five pigments that spread', 'spread', '  (bar 1500 ms)');
line('the same again', 'again', '');
line('a fine edge of two things', 'fine', '');
