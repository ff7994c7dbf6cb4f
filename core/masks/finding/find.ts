import { drawTo, heard, steepen, weigh } from '../../kernels/evidence';
import { bondsIn, type Features } from '../../kernels/features';
import { geodesic } from '../../kernels/geodesic';
import { colourGuide, colourGuided, type ColourGuide } from '../../kernels/guided';
import { pyramidOf, solveSpread, type Pyramid } from '../../kernels/harmonic';
import { cut } from '../../kernels/lay';
import { likeness } from '../../kernels/likeness';
import { boundsOf } from '../../kernels/planes';
import type { Stroke } from '../../settings/fields';
import { strokeName } from '../stroke-name';
import { layStroke } from '../strokes';
import { beyondRings } from './ring';
import type { Sought } from './memory';
import type { Sight } from './sight';

/**
 * Finds what rough strokes mean. Each stroke speaks for what is like it and can be reached from it without crossing edges; what the
 * strokes say is spread over the picture, softly where it is soft and hardly at all over edges, then drawn to the edges around and
 * spread once more. After L. Grady, "Multilabel Random Walker Image Segmentation Using Prior Models", CVPR 2005, with distances as in
 * X. Bai, G. Sapiro, "Geodesic Matting", IJCV 82, 2009, and the edges of K. He, J. Sun, X. Tang, "Guided Image Filtering", 2013.
 */

export interface RoughStrokes {
  strokesIn: readonly Stroke[];
  strokesOut: readonly Stroke[];
}

/** What one stroke says: where it lies, and how much it speaks for each cell, 0..1. */
export interface Said {
  seeds: Uint8Array;
  evidence: Float32Array;
}

/** The way, in features, along which what a stroke says falls to a third; and what a long edge's length of it costs. */
const HEARD = 0.06;
/** Beyond such a way nothing is heard: less than a hundred thousandth. */
const FURTHEST = 12 * HEARD;
const ACROSS = 0.14;
/** Changes are heard as noise up to so much of what is usual around, squared. */
const NOISE = 0.5;

/**
 * What seeds say.
 * @param cell the length of a cell, a fraction of the photograph's long edge
 */
export function saidFrom(seeds: Uint8Array, grid: Features, cell: number): Said {
  const { width, height, features, rough } = grid;
  const evidence = likeness(grid, seeds);
  const noise = new Float32Array(rough.length);
  for (let i = 0; i < noise.length; i++) noise[i] = NOISE * rough[i];
  const way = geodesic(seeds, features, noise, width, height, ACROSS * cell);
  heard(evidence, way, HEARD, FURTHEST);
  for (let i = 0; i < seeds.length; i++) if (seeds[i]) evidence[i] = 1;
  return { seeds, evidence };
}

/** What one stroke says; made once for a photograph. */
function saidBy(stroke: Stroke, sight: Sight): Said {
  return sight.memory.remembered('said', strokeName(stroke), () => {
    const { width, height } = sight;
    const laid = new Float32Array(width * height);
    const lattice = { x: 0, y: 0, width, height, cell: 1 };
    // One thinner than a cell is one cell wide.
    const radius = Math.max(stroke.radius, 0.7 / Math.max(width, height));
    layStroke(laid, lattice, { ...stroke, radius, hardness: 1, flow: 1, erase: false }, { width, height });
    const seeds = new Uint8Array(laid.length);
    for (let i = 0; i < seeds.length; i++) if (laid[i] > 0.5) seeds[i] = 1;
    return saidFrom(seeds, sight, 1 / Math.max(width, height));
  });
}

/** The window in cells in which what is found is drawn to edges. */
const WINDOW = 16;

/** What is known about the edges of a grid. */
export interface Edges {
  pyramid: Pyramid;
  guide: ColourGuide;
}

export function edgesOf(grid: Features): Edges {
  const { width, height, features } = grid;
  const [f, g, h] = features.map(values => ({ width, height, values }));
  return { pyramid: pyramidOf(bondsIn(grid)), guide: colourGuide([f, g, h], WINDOW) };
}

/** How firmly cells are held: under strokes, beyond a ring, where strokes speak clearly, and where they do not. */
const SEEDED = 0.3;
const BEYOND = 2;
const SPOKEN = 0.01;
const BARELY = 2e-4;
/** How often what is found is drawn to edges, what counts as flat there, and how firmly it is held to them. */
const TIMES = 2;
const FLAT = 0.0002;
const DRAWN = 0.1;
/** What belongs less than so is not meant. */
const NOTHING = 1e-4;
/** How sharply what belongs is parted from what does not, before it is drawn to edges. */
const CUT = 5.5;

/**
 * How much each cell belongs to what is meant, 0..1.
 * @param unspoken how loud what nobody speaks of speaks for being left out
 * @param beyond cells that are surely not meant
 * @param pause called between the parts of the work: may throw
 * @param times how often what is found is drawn to edges
 */
export function spreadFrom(
  { width, height, features }: Features,
  { pyramid, guide }: Edges,
  inside: readonly Said[],
  outside: readonly Said[],
  unspoken: number,
  beyond: Uint8Array | null,
  { times = TIMES, pause = () => undefined }: { times?: number; pause?: () => void } = {},
): Float32Array {
  const count = width * height;
  const targets = new Float32Array(count);
  const against = new Float32Array(count).fill(unspoken);
  for (const { evidence } of inside) for (let i = 0; i < count; i++) targets[i] += evidence[i];
  for (const { evidence } of outside) for (let i = 0; i < count; i++) against[i] += evidence[i];
  const held = weigh(targets, against, SPOKEN, BARELY);
  const fixed = new Float32Array(count);
  const fix = (where: Uint8Array, target: number, how: number) => {
    for (let i = 0; i < count; i++) {
      if (!where[i]) continue;
      fixed[i] = 1;
      targets[i] = target;
      held[i] = how;
    }
  };
  if (beyond) fix(beyond, 0, BEYOND);
  for (const { seeds } of inside) fix(seeds, 1, SEEDED);
  for (const { seeds } of outside) fix(seeds, 0, SEEDED);

  pause();
  let values = solveSpread(pyramid, held, targets, targets);
  for (let k = 0; k < times; k++) {
    pause();
    steepen(values, CUT);
    const [lines] = colourGuided(guide, [{ width, height, values }], FLAT);
    drawTo(lines, features, fixed, targets, held, [DRAWN, BARELY]);
    values = solveSpread(pyramid, held, targets, values);
  }
  // The solver stops a little before its goal, on either side of it. Next to nothing is nothing: such numbers are slow to reckon with.
  for (let i = 0; i < count; i++) {
    const v = values[i];
    if (v < NOTHING) values[i] = 0;
    else if (v > 1) values[i] = 1;
  }
  return values;
}

/**
 * What nobody has spoken of speaks so loud for being left out; where it has been said of other places what is not meant there, hardly:
 * then each stroke goes as far as the others let it.
 */
const UNSPOKEN = 0.12;
const HARDLY = 0.012;

/** Cells around what a ring holds that are looked at as well, since edges are drawn to what is around them. */
const MARGIN = WINDOW + 2;

/** How far in what a ring holds is surely meant, as a share of the way to its middle. */
const HEART = 0.6;

/** What the middle of a ring says, where nothing else has been drawn. */
function heartOf(beyond: Uint8Array, sight: Sight): Said {
  const { width, height } = sight;
  const flat = new Float32Array(width * height);
  const deep = geodesic(beyond, [flat, flat, flat], new Float32Array(flat.length).fill(1), width, height, 1);
  let most = 0;
  for (let i = 0; i < deep.length; i++) if (!beyond[i] && deep[i] > most) most = deep[i];
  const seeds = Uint8Array.from(deep, (v, i) => (!beyond[i] && v >= HEART * most ? 1 : 0));
  return saidFrom(seeds, sight, 1 / Math.max(width, height));
}

/** What is known about the edges of a photograph. */
const edgesIn = (sight: Sight): Edges => sight.memory.remembered('edges', '', () => edgesOf(sight));

/** Makes ready what all that is found in a photograph begins with. */
export const readyToFind = (sight: Sight): void => void edgesIn(sight);

/** What strokes are remembered by. */
export const soughtBy = ({ strokesIn, strokesOut }: RoughStrokes): Sought => [
  'belonging',
  [strokesIn, strokesOut].map(strokes => strokes.map(strokeName).join()).join(' / '),
];

/** Steps from not belonging at all to wholly: rounding to them changes a code of 8 bits by less than a tenth, and they are kept in little room. */
export const BELONGING_STEPS = 4096;

function inSteps(values: Float32Array): Float32Array {
  for (let i = 0; i < values.length; i++)
    values[i] = Math.round(values[i] * BELONGING_STEPS) / BELONGING_STEPS;
  return values;
}

/** How much each cell of a photograph belongs to what strokes mean, 0..1 in steps; made once for the same strokes. */
export function belonging(asked: RoughStrokes, sight: Sight): Float32Array {
  const { strokesIn, strokesOut } = asked;
  const { memory } = sight;
  const pause = () => memory.pause();
  return memory.remembered(...soughtBy(asked), () => {
    const heard = (stroke: Stroke) => {
      pause();
      return saidBy(stroke, sight);
    };
    const inside = strokesIn.map(heard);
    const outside = strokesOut.map(heard);
    const meant = inside.map(said => said.seeds);
    const beyond = beyondRings(strokesOut, meant, sight);
    if (beyond && !inside.length) inside.push(heartOf(beyond, sight));
    const part = beyond && boundsOf(sight.width, sight.height, i => beyond[i] === 0, MARGIN);
    const unspoken = beyond || strokesOut.length === 0 ? UNSPOKEN : HARDLY;
    if (!part) {
      // What others limit is drawn to edges by them.
      const times = unspoken === HARDLY ? 1 : TIMES;
      return inSteps(spreadFrom(sight, edgesIn(sight), inside, outside, unspoken, beyond, { times, pause }));
    }
    // Beyond a ring nothing is found: only what lies within is looked at.
    const whole = { x: 0, y: 0, width: sight.width, height: sight.height };
    const cutOut = <A extends Float32Array | Uint8Array>(values: A): A => cut(values, whole, part, 1);
    const [f, g, h] = sight.features.map(cutOut);
    const grid = { ...part, features: [f, g, h] satisfies Features['features'], rough: cutOut(sight.rough) };
    const cutSaid = ({ seeds, evidence }: Said) => ({ seeds: cutOut(seeds), evidence: cutOut(evidence) });
    const found = spreadFrom(
      grid,
      edgesOf(grid),
      inside.map(cutSaid),
      outside.map(cutSaid),
      unspoken,
      cutOut(beyond),
      { pause },
    );
    const out = new Float32Array(whole.width * whole.height);
    for (let y = 0; y < part.height; y++) {
      out.set(found.subarray(y * part.width, (y + 1) * part.width), (part.y + y) * whole.width + part.x);
    }
    return inSteps(out);
  });
}
