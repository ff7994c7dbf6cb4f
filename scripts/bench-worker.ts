import { geometryOf } from '../core/frame/geometry';
import { createPlanner } from '../core/engine/plan';
import { render8, type Kept } from '../core/engine/render';
import { createSurveyor } from '../core/engine/survey';
import type { Step } from '../core/treatment/treatment';
import { parseTreatment } from '../core/treatment/schema';

/** What `npm run bench` runs in a web worker: a control dragged at two sizes of screen. */

const read = (steps: object[], masks: object[] = []) =>
  parseTreatment({ format: 'lampwash-treatment', version: 1, steps, masks });

const treatments = {
  'ten steps, a toning control dragged': read([
    { kind: 'light', settings: { exposure: 0.2, shadows: 0.3 } },
    { kind: 'white-balance', settings: { warmth: 0.1 } },
    { kind: 'colour-bands', settings: { blue: { saturation: -0.3 } } },
    { kind: 'mono', settings: { method: 'response', response: { blue: -0.5 } } },
    {
      kind: 'curve',
      settings: {
        points: {
          all: [
            [0, 0.05],
            [0.4, 0.38],
            [1, 0.97],
          ],
        },
      },
    },
    { kind: 'levels', settings: { gamma: 1.05 } },
    { kind: 'filter', settings: { density: 0.2 } },
    { kind: 'baths', settings: { baths: [{ toner: 'sepia', time: 0.4 }] } },
    { kind: 'gradient-map', strength: 0.2 },
    { kind: 'split-tone', settings: { shadows: { hue: 220, saturation: 0.3 } } },
  ]),
  'ten steps, the light dragged': read([
    { kind: 'light', settings: { exposure: 0.2 } },
    { kind: 'mono', settings: { method: 'response', response: { blue: -0.5 } } },
    {
      kind: 'curve',
      settings: {
        points: {
          all: [
            [0, 0.05],
            [0.4, 0.38],
            [1, 0.97],
          ],
        },
      },
    },
    { kind: 'split-tone', settings: { shadows: { hue: 220, saturation: 0.3 } } },
    { kind: 'levels', settings: { gamma: 1.05 } },
    { kind: 'filter', settings: { density: 0.2 } },
    { kind: 'baths', settings: { baths: [{ toner: 'sepia', time: 0.4 }] } },
    { kind: 'gradient-map', strength: 0.2 },
    { kind: 'tint', settings: { saturation: 0.1 } },
    { kind: 'levels', settings: { outBlack: 0.02 } },
  ]),
  'a conversion by response in part, dragged': read([
    { kind: 'mono', settings: { method: 'response', response: { blue: -0.5 } } },
    { kind: 'split-tone', settings: { shadows: { hue: 220, saturation: 0.3 } } },
  ]),
  'a mono, three washes, the last one dragged': read(
    [
      { kind: 'mono' },
      { kind: 'wash', mask: 'm', settings: { pigment: { kind: 'flat', colour: '#b5793c' } } },
      { kind: 'wash', mask: 'n', settings: { pigment: { kind: 'flat', colour: '#4a7a4a' } } },
      { kind: 'wash', mask: 'o', settings: { pigment: { kind: 'flat', colour: '#7aa0c0' } } },
    ],
    [0.2, 0.5, 0.8].map((x, i) => ({
      id: 'mno'[i],
      parts: [{ kind: 'oval', centre: [x, 0.5], radii: [0.12, 0.2], feather: 0.4 }],
    })),
  ),
  'local contrast dragged beneath a mono and a tint': read([
    { kind: 'local-contrast', settings: { coarse: 0.4, medium: 0.4 } },
    { kind: 'mono' },
    { kind: 'tint', settings: { saturation: 0.2 } },
  ]),
};

function picture(width: number, height: number) {
  const codes = new Uint16Array(width * height * 3);
  let seed = 11;
  for (let i = 0; i < width * height; i++) {
    const x = (i % width) / width;
    const y = Math.floor(i / width) / height;
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    const n = (seed / 2 ** 32 - 0.5) * 0.05;
    const rgb = [x, y, (1 - x) * (0.5 + 0.5 * Math.sin(9 * y))];
    for (let k = 0; k < 3; k++) codes[i * 3 + k] = Math.min(1, Math.max(0, rgb[k] + n)) * 65535;
  }
  return { codes, width, height, x: 0, y: 0 };
}

const median = (list: number[]) => list.toSorted((a, b) => a - b)[Math.floor(list.length / 2)];
const timesOf = (work: (i: number) => void, count: number) =>
  Array.from({ length: count }, (_, i) => {
    const began = performance.now();
    work(i);
    return performance.now() - began;
  });

const rows: { name: string; megapixels: number; perMegapixel: number; ratio: number }[] = [];
for (const [width, height] of [
  [960, 640],
  [1860, 1240],
]) {
  const tile = picture(width, height);
  const megapixels = (width * height) / 1e6;
  const image = new ImageData(width, height);
  const canvas = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  const copy = median(
    timesOf(() => {
      canvas.putImageData(image, 0, 0);
      canvas.getImageData(0, 0, width, height);
    }, 15),
  );
  for (const [name, treatment] of Object.entries(treatments)) {
    const geometry = geometryOf({ width, height }, treatment.frame);
    const planner = createPlanner();
    const surveyor = createSurveyor(tile.codes, geometry);
    const kept: Kept = {};
    const first = ['light', 'local', 'conversion'].some(word => name.includes(word));
    const dragged = first ? 0 : treatment.steps.length - 1;
    const draw = (i: number) => {
      const steps = treatment.steps.slice() as Step[];
      steps[dragged] = { ...steps[dragged], strength: 0.5 + 0.4 * Math.sin(i / 3) };
      const plan = planner({ ...treatment, steps }, { grey: false, pixels: width * height, draft: true });
      const surveys = surveyor(plan);
      render8(plan, tile, image.data, 4, { grey: false, geometry, surveys, kept });
    };
    timesOf(draw, 5);
    const ms = median(timesOf(draw, 21));
    rows.push({
      name,
      megapixels: Number(megapixels.toFixed(1)),
      perMegapixel: ms / megapixels,
      ratio: ms / copy,
    });
  }
}
postMessage(rows);
