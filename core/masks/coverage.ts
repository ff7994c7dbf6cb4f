import { luma } from '../colour/srgb';
import { hueSixths } from '../colour/hues';
import { smoothstep } from '../colour/tones';
import { channelPlane } from '../kernels/channels';
import { join, linear, oval, readLattice, spread, type Lattice } from '../kernels/dabs';
import type { Covered } from '../kernels/lay';
import { colourGuided, type ColourGuided } from '../kernels/guided';
import { boxExtreme, diamondExtreme, gaussian, readPlane, wideGaussian, type Plane } from '../kernels/planes';
import type { Mask, MaskPart } from '../treatment/masks';
import type { Geometry, Rectangle } from '../engine/geometry';
import { sourceOf } from '../engine/geometry';
import { reachAt } from './reach';
import { readGreyPng } from './grey-png';
import { layStrokes } from './strokes';

/**
 * How much of each pixel a mask covers, 0..1. Strokes and shapes are functions of place, made on a lattice
 * fixed to the photograph, so that any part of the picture gets the same numbers; tones and hues are read
 * from the picture. A mask that softens, grows or refines what it reads from the picture is surveyed on the
 * small picture first.
 */
export interface CoverageInput {
  /** What lies beneath the step, encoded RGB. */
  beneath: Float32Array;
  /** The photograph with only its Ground steps: where hues and edges are read. */
  ground: Float32Array;
}

export interface Coverage {
  /** The mask reads the photograph's hues or edges. */
  needsGround: boolean;
  /** A look at the whole picture, small; undefined where none is needed. */
  survey?: (whole: Rectangle, geometry: Geometry, input: CoverageInput) => unknown;
  /** Coverage of a region; null where it covers nothing. */
  of: (region: Rectangle, geometry: Geometry, input: CoverageInput, survey: unknown) => Covered | null;
}

type Placed = Extract<MaskPart, { kind: 'brush' | 'linear' | 'oval' | 'whole' | 'picture' | 'mask' }>;
type Seen = Extract<MaskPart, { kind: 'tones' | 'hues' }>;
const isSeen = (part: MaskPart): part is Seen => part.kind === 'tones' || part.kind === 'hues';

/** Cells of a lattice that a blur's deviation, or a growth, spans at least: finer would only cost time. */
const BLUR_CELLS = 4;
const GROW_CELLS = 16;
/** Refinement: window as a fraction of the long edge, and the variance that counts as flat. */
const REFINE_RADIUS = 0.015;
const REFINE_EPSILON = 0.0002;

/** How softly a mask's edge falls, as the deviation of a Gaussian in pixels: feather and bleed together. */
const deviation = (feather: number, bleed: number, longEdge: number) =>
  (Math.hypot(feather, bleed) / 2) * longEdge;

const byId = (masks: readonly Mask[], id: string) => masks.find(m => m.id === id)!;

/** Whether a mask reads the picture, itself or through one that it stands on. */
function readsPicture(mask: Mask, masks: readonly Mask[], what: (part: Seen) => boolean): boolean {
  return mask.parts.some(part =>
    isSeen(part) ? what(part) : part.kind === 'mask' && readsPicture(byId(masks, part.mask), masks, what),
  );
}
const refines = (mask: Mask, masks: readonly Mask[]): boolean =>
  mask.refine > 0 || mask.parts.some(p => p.kind === 'mask' && refines(byId(masks, p.mask), masks));

/** Softens and grows coverage on a lattice that reaches far enough around. */
function shaped(coverage: Float32Array, lattice: Lattice, grow: number, sigma: number): Float32Array {
  let plane: Plane = { width: lattice.width, height: lattice.height, values: coverage };
  const cells = Math.round(Math.abs(grow) / lattice.cell);
  if (cells > 0) {
    // A square and a diamond in turn make an octagon, near enough to a circle.
    const square = Math.round(cells * 0.41);
    const sign = grow > 0 ? -1 : 1;
    plane = boxExtreme(plane, square, sign);
    plane = diamondExtreme(plane, Math.max(0, Math.round((cells - square) / 2)), sign);
  }
  if (sigma > 0) plane = gaussian(plane, sigma / lattice.cell);
  return plane.values;
}

/** A box in photograph pixels; null is nothing, 'everywhere' has no end. */
type Extent = { left: number; top: number; right: number; bottom: number } | null | 'everywhere';

function joined(a: Extent, b: Extent): Extent {
  if (a === 'everywhere' || b === 'everywhere') return 'everywhere';
  if (!a || !b) return a ?? b;
  return {
    left: Math.min(a.left, b.left),
    top: Math.min(a.top, b.top),
    right: Math.max(a.right, b.right),
    bottom: Math.max(a.bottom, b.bottom),
  };
}

function partExtent(part: MaskPart, masks: readonly Mask[], geometry: Geometry): Extent {
  const { photograph, longEdge } = geometry;
  if (part.kind === 'mask') return extentOf(byId(masks, part.mask), masks, geometry, 0);
  if (part.kind === 'oval' && !part.outside) {
    const x = part.centre[0] * photograph.width;
    const y = part.centre[1] * photograph.height;
    const reach = Math.max(...part.radii) * longEdge + 1;
    return { left: x - reach, top: y - reach, right: x + reach, bottom: y + reach };
  }
  if (part.kind !== 'brush') return 'everywhere';
  let extent: Extent = null;
  for (const { points, radius, erase } of part.strokes) {
    if (erase) continue;
    const reach = radius * longEdge + 2;
    for (const point of points) {
      const x = point[0] * photograph.width;
      const y = point[1] * photograph.height;
      extent = joined(extent, { left: x - reach, top: y - reach, right: x + reach, bottom: y + reach });
    }
  }
  return extent;
}

/** A box that holds all that a mask covers. */
function extentOf(mask: Mask, masks: readonly Mask[], geometry: Geometry, bleed: number): Extent {
  if (mask.invert) return 'everywhere';
  let extent: Extent = mask.parts[0]?.op === 'subtract' ? 'everywhere' : null;
  for (const part of mask.parts) {
    if (part.op === 'add') extent = joined(extent, partExtent(part, masks, geometry));
  }
  if (!extent || extent === 'everywhere') return extent;
  const { longEdge } = geometry;
  const more = Math.max(0, mask.grow) * longEdge + 4 * deviation(mask.feather, bleed, longEdge) + 4;
  return {
    left: extent.left - more,
    top: extent.top - more,
    right: extent.right + more,
    bottom: extent.bottom + more,
  };
}

/** The part of a region of the framed picture that a box of the photograph meets; null for none. */
function meeting(region: Rectangle, extent: Extent, geometry: Geometry): Rectangle | null {
  if (extent === 'everywhere') return region;
  if (!extent) return null;
  let { left, top, right, bottom } = extent;
  if (!geometry.untouched) {
    const at = new Float64Array(2);
    const corners = [
      [left, top],
      [right, top],
      [left, bottom],
      [right, bottom],
    ];
    left = top = Infinity;
    right = bottom = -Infinity;
    for (const [x, y] of corners) {
      geometry.toFramed(x, y, at);
      if (Number.isNaN(at[0])) return region;
      left = Math.min(left, at[0]);
      right = Math.max(right, at[0]);
      top = Math.min(top, at[1]);
      bottom = Math.max(bottom, at[1]);
    }
  }
  const x = Math.max(region.x, Math.floor(left));
  const y = Math.max(region.y, Math.floor(top));
  const width = Math.min(region.x + region.width, Math.ceil(right)) - x;
  const height = Math.min(region.y + region.height, Math.ceil(bottom)) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : null;
}

/** A mask that is a function of place alone, on a lattice. */
function placedOn(mask: Mask, masks: readonly Mask[], lattice: Lattice, geometry: Geometry, bleed: number) {
  const { longEdge } = geometry;
  const grow = mask.grow * longEdge;
  const sigma = deviation(mask.feather, bleed, longEdge);
  let cell = lattice.cell;
  // A coarser lattice only where softness hides it, or a growth is so wide that its edge may be a little soft.
  const coarsest = sigma > 0 ? sigma / BLUR_CELLS : Math.abs(grow) / GROW_CELLS;
  while (cell * 2 <= coarsest) cell *= 2;
  const ratio = cell / lattice.cell;
  const more = sigma > 0 || grow !== 0 ? Math.ceil((3 * sigma + Math.abs(grow)) / cell) + 4 : 0;
  const x = Math.floor(lattice.x / ratio) - more - (ratio > 1 ? 1 : 0);
  const y = Math.floor(lattice.y / ratio) - more - (ratio > 1 ? 1 : 0);
  const wide: Lattice = {
    cell,
    x,
    y,
    width: Math.ceil((lattice.x + lattice.width) / ratio) + more + (ratio > 1 ? 1 : 0) - x,
    height: Math.ceil((lattice.y + lattice.height) / ratio) + more + (ratio > 1 ? 1 : 0) - y,
  };
  let values: Float32Array = new Float32Array(wide.width * wide.height);
  const first = mask.parts[0];
  if (first?.op === 'subtract') values.fill(1);
  for (const part of mask.parts) {
    const covered = placedPart(part as Placed, masks, wide, geometry);
    join(values, covered, part.op);
  }
  if (sigma > 0 || grow !== 0) values = shaped(values, wide, grow, sigma);
  if (mask.invert) for (let i = 0; i < values.length; i++) values[i] = 1 - values[i];
  if (wide.width === lattice.width && wide.height === lattice.height && ratio === 1) return values;
  const out = new Float32Array(lattice.width * lattice.height);
  // From lattice to lattice, cell middles in photograph pixels.
  readLattice(
    values,
    wide,
    lattice,
    (px, py, at) => {
      at[0] = px * lattice.cell;
      at[1] = py * lattice.cell;
    },
    out,
  );
  return out;
}

function placedPart(
  part: Placed,
  masks: readonly Mask[],
  lattice: Lattice,
  geometry: Geometry,
): Float32Array {
  const { photograph, longEdge } = geometry;
  const values = new Float32Array(lattice.width * lattice.height);
  const pixels = ([x, y]: readonly [number, number]): [number, number] => [
    x * photograph.width,
    y * photograph.height,
  ];
  switch (part.kind) {
    case 'brush':
      layStrokes(values, lattice, part.strokes, photograph);
      break;
    case 'linear':
      linear(values, lattice, pixels(part.from), pixels(part.to));
      break;
    case 'oval':
      oval(
        values,
        lattice,
        pixels(part.centre),
        [part.radii[0] * longEdge, part.radii[1] * longEdge],
        (part.angle * Math.PI) / 180,
        part.feather,
      );
      if (part.outside) for (let i = 0; i < values.length; i++) values[i] = 1 - values[i];
      break;
    case 'whole':
      values.fill(1);
      break;
    case 'picture':
      spread(values, lattice, readGreyPng(part.png), photograph);
      break;
    case 'mask':
      return placedOn(byId(masks, part.mask), masks, lattice, geometry, 0);
  }
  return values;
}

/** How much a tone or a hue belongs. Neutral pixels have no hue and belong little. */
function seenPart(part: Seen, { beneath, ground }: CoverageInput, count: number): Float32Array {
  const values = new Float32Array(count);
  if (part.kind === 'tones') {
    for (let i = 0, p = 0; i < count; i++, p += 3) {
      values[i] = reachAt(part.range, luma(beneath[p], beneath[p + 1], beneath[p + 2]));
    }
    return values;
  }
  const half = part.width / 2;
  const soft = Math.max(1, part.softness * 60);
  for (let i = 0, p = 0; i < count; i++, p += 3) {
    const r = ground[p];
    const g = ground[p + 1];
    const b = ground[p + 2];
    const most = Math.max(r, g, b);
    const span = most - Math.min(r, g, b);
    if (span <= 0) continue;
    const away = Math.abs(hueSixths(r, g, b, most, span) * 60 - part.centre) % 360;
    const apart = Math.min(away, 360 - away);
    values[i] = smoothstep((half + soft - apart) / soft) * smoothstep((span - 0.02) / 0.08);
  }
  return values;
}

/** A mask as a function of a region, its softening and refining left out where it is read from the picture. */
function plainly(
  mask: Mask,
  masks: readonly Mask[],
  region: Rectangle,
  geometry: Geometry,
  input: CoverageInput,
  bleed: number,
): Float32Array {
  const count = region.width * region.height;
  if (!readsPicture(mask, masks, () => true)) {
    const source = sourceOf(geometry, region);
    // One cell more around, for the interpolation; cells are fixed to the photograph.
    const lattice = {
      cell: 1,
      x: source.x - 1,
      y: source.y - 1,
      width: source.width + 2,
      height: source.height + 2,
    };
    if (geometry.untouched) return placedOn(mask, masks, { ...region, cell: 1 }, geometry, bleed);
    const out = new Float32Array(count);
    const values = placedOn(mask, masks, lattice, geometry, bleed);
    readLattice(values, lattice, region, geometry.toPhotograph, out);
    return out;
  }
  const values = new Float32Array(count);
  if (mask.parts[0]?.op === 'subtract') values.fill(1);
  for (const part of mask.parts) {
    let covered: Float32Array;
    if (isSeen(part)) covered = seenPart(part, input, count);
    else if (part.kind === 'mask') {
      covered = plainly(byId(masks, part.mask), masks, region, geometry, input, 0);
    } else {
      const alone: Mask = {
        id: '',
        name: '',
        invert: false,
        feather: 0,
        grow: 0,
        refine: 0,
        parts: [{ ...part, op: 'add' }],
      };
      covered = plainly(alone, masks, region, geometry, input, 0);
    }
    join(values, covered, part.op);
  }
  if (mask.invert) for (let i = 0; i < count; i++) values[i] = 1 - values[i];
  return values;
}

interface Surveyed {
  /** The softened and grown mask of the small picture. */
  whole?: Plane;
  refined?: ColourGuided;
}

/** The coverage of a mask of a treatment, its edge softened by `bleed` (a fraction of the long edge) as well. */
export function coverageOf(id: string, masks: readonly Mask[], bleed: number): Coverage {
  const mask = byId(masks, id);
  const reads = readsPicture(mask, masks, () => true);
  const refine = refines(mask, masks)
    ? Math.max(mask.refine, ...mask.parts.map(p => (p.kind === 'mask' ? byId(masks, p.mask).refine : 0)))
    : 0;
  const softens = (m: Mask): boolean =>
    m.feather > 0 || m.grow !== 0 || m.parts.some(p => p.kind === 'mask' && softens(byId(masks, p.mask)));
  const surveyedWhole = reads && (softens(mask) || bleed > 0);
  const needsSurvey = surveyedWhole || refine > 0;
  const needsGround = refine > 0 || readsPicture(mask, masks, p => p.kind === 'hues');

  const survey = (whole: Rectangle, geometry: Geometry, input: CoverageInput): Surveyed => {
    const { width, height } = whole;
    let plane: Plane = {
      width,
      height,
      values: plainly(mask, masks, whole, geometry, input, reads ? 0 : bleed),
    };
    if (surveyedWhole) {
      const { longEdge } = geometry;
      const cells = Math.round(Math.abs(mask.grow) * longEdge);
      if (cells > 0) {
        const grows = mask.invert ? mask.grow < 0 : mask.grow > 0;
        const sign = grows ? -1 : 1;
        const square = Math.round(cells * 0.41);
        plane = diamondExtreme(
          boxExtreme(plane, square, sign),
          Math.max(0, Math.round((cells - square) / 2)),
          sign,
        );
      }
      plane = wideGaussian(plane, deviation(mask.feather, bleed, longEdge));
    }
    const found: Surveyed = surveyedWhole ? { whole: plane } : {};
    if (refine > 0) {
      const guide = ([0, 1, 2] as const).map(k => channelPlane(input.ground, k, width, height));
      const radius = Math.max(2, Math.round(REFINE_RADIUS * geometry.longEdge));
      found.refined = colourGuided(guide as [Plane, Plane, Plane], plane, radius, REFINE_EPSILON);
    }
    return found;
  };

  return {
    needsGround,
    survey: needsSurvey ? survey : undefined,
    of: (region, geometry, input, surveyed) => {
      const { whole, refined } = (surveyed ?? {}) as Surveyed;
      // What reads the picture may cover any part of it; what is placed covers only where it lies.
      const part =
        reads || refined ? region : meeting(region, extentOf(mask, masks, geometry, bleed), geometry);
      if (!part) return null;
      const count = part.width * part.height;
      let values: Float32Array;
      if (whole) {
        values = new Float32Array(count);
        readPlane(whole, geometry, part, values);
      } else values = plainly(mask, masks, part, geometry, input, bleed);
      if (refined) {
        const [r, g, b, d] = [...refined.a, refined.d].map(plane => {
          const read = new Float32Array(count);
          readPlane(plane, geometry, part, read);
          return read;
        });
        const { ground } = input;
        for (let i = 0, p = 0; i < count; i++, p += 3) {
          const q = r[i] * ground[p] + g[i] * ground[p + 1] + b[i] * ground[p + 2] + d[i];
          values[i] += refine * (Math.min(1, Math.max(0, q)) - values[i]);
        }
      }
      for (let i = 0; i < count; i++) if (values[i] > 0) return { ...part, values };
      return null;
    },
  };
}
