import type { Geometry, Rectangle } from '../frame/geometry';
import { sourceOf } from '../frame/geometry';
import { join, readLattice } from '../kernels/dabs';
import { cut, type Covered } from '../kernels/lay';
import { fitEdges, onEdges, type Fit } from './edges';
import { planeOf, readPlane, type Plane } from '../kernels/planes';
import { readsOf, seenBy, type CoverageInput } from './define';
import { extentOf, meeting } from './extent';
import { fineEdge, onFineEdge, type FineEdge } from './fine-edge';
import type { Sought } from './finding/memory';
import { carriedOver, fringeOf, type Fringe } from './fringe';
import { byId, emptyMask, type Mask } from './mask';
import { beneathPart, kindOfPart } from './parts';
import { placedOn } from './placed';
import { shapedWhole } from './shaping';
import { edgeDraw, fineWidth, isShaped, readsPicture, soughtIn, standingOn } from './standing';

/**
 * How much of each pixel a mask covers, 0..1. Strokes and shapes are functions of place, made on a lattice
 * fixed to the photograph, so that any part of the picture gets the same numbers; tones and hues are read
 * from the picture. A mask that softens or grows what it reads from the picture, or draws its edge to the edges
 * there, is surveyed on the small picture first.
 */
export interface Coverage {
  /** It depends on the place alone, not on the picture. */
  placed: boolean;
  /** The mask reads the photograph's hues or edges. */
  needsGround: boolean;
  /** What it finds in the photograph itself: where that is anything, `sight` must be there for its survey. */
  sought: readonly Sought[];
  /** The part of a region that it may cover, whatever the picture; null for none. */
  within: (region: Rectangle, geometry: Geometry) => Rectangle | null;
  /** A look at the whole picture, small; undefined where none is needed. */
  survey?: (whole: Rectangle, geometry: Geometry, input: CoverageInput) => unknown;
  /** Coverage of a region; null where it covers nothing. */
  of: (region: Rectangle, geometry: Geometry, input: CoverageInput, survey: unknown) => Covered | null;
  /**
   * What a step is asked of in place of the picture beneath it, where what it makes of colours at the edge is decided inside;
   * undefined where it is asked of the picture itself.
   */
  inward?: (rgb: Float32Array, region: Rectangle, geometry: Geometry, survey: unknown) => Float32Array;
}

/** What parts found in the whole picture, by mask and place in it. */
type Finds = Readonly<Record<string, unknown>>;
const nameOf = (mask: Mask, index: number) => `${mask.id} ${index}`;

/** Parts are widened to whole squares of this side, so that an area that grows under the brush keeps its lattice. */
const SQUARE = 128;

function outward(part: Rectangle, region: Rectangle): Rectangle {
  const down = (v: number) => Math.floor(v / SQUARE) * SQUARE;
  const x = Math.max(region.x, down(part.x));
  const y = Math.max(region.y, down(part.y));
  const right = Math.min(region.x + region.width, down(part.x + part.width - 1) + SQUARE);
  const bottom = Math.min(region.y + region.height, down(part.y + part.height - 1) + SQUARE);
  return { x, y, width: right - x, height: bottom - y };
}

/** What is read over a region, over a part of it. */
function cutTo(input: CoverageInput, region: Rectangle, part: Rectangle): CoverageInput {
  const isAll =
    part.x === region.x &&
    part.y === region.y &&
    part.width === region.width &&
    part.height === region.height;
  // Where a mask is a function of place alone nothing is read.
  if (isAll || input.ground.length === 0) return input;
  return {
    ...input,
    beneath: cut(input.beneath, region, part, 3),
    ground: cut(input.ground, region, part, 3),
  };
}

/** A mask as a function of a region, its softening and refining left out where it is read from the picture. */
function plainly(
  mask: Mask,
  masks: readonly Mask[],
  region: Rectangle,
  geometry: Geometry,
  input: CoverageInput,
  bleed: number,
  finds: Finds,
): Float32Array {
  const count = region.width * region.height;
  const { width, height } = region;
  const { memory } = input;
  const made = new Map<string, Float32Array>();

  const placed = (each: Mask, bleed: number): Float32Array => {
    const source = sourceOf(geometry, region);
    // One cell more around, for the interpolation; cells are fixed to the photograph.
    const lattice = {
      cell: 1,
      x: source.x - 1,
      y: source.y - 1,
      width: source.width + 2,
      height: source.height + 2,
    };
    if (geometry.untouched) return placedOn(each, masks, { ...region, cell: 1 }, geometry, bleed, memory);
    const out = new Float32Array(count);
    const values = placedOn(each, masks, lattice, geometry, bleed, memory);
    readLattice(values, lattice, region, geometry.toPhotograph, out);
    return out;
  };
  const covered = (mask: Mask, index: number): Float32Array => {
    const part = mask.parts[index];
    const seen = seenBy(kindOfPart(part), part);
    if (seen) return seen.see(part, input, count, { region, geometry, found: finds[nameOf(mask, index)] });
    const beneath = beneathPart(part);
    if (beneath === undefined) return placed({ ...emptyMask('', ''), parts: [{ ...part, op: 'add' }] }, 0);
    let values = made.get(beneath);
    if (!values) {
      const other = byId(masks, beneath);
      values = of(other, 0);
      // What it softens of the picture can be softened in a look at the whole alone.
      if (readsPicture(other, masks)) {
        values = shapedWhole({ width, height, values }, other, 0, geometry.longEdge).values;
      }
      made.set(beneath, values);
    }
    return values;
  };
  const of = (each: Mask, bleed: number): Float32Array => {
    if (!readsPicture(each, masks)) return placed(each, bleed);
    const values = new Float32Array(count);
    if (each.parts[0]?.op === 'subtract') values.fill(1);
    each.parts.forEach((part, index) => join(values, covered(each, index), part.op));
    if (each.invert) for (let i = 0; i < count; i++) values[i] = 1 - values[i];
    return values;
  };
  return of(mask, bleed);
}

interface Surveyed {
  /** The softened and grown mask of the small picture. */
  whole?: Plane;
  refined?: Fit;
  fine?: FineEdge;
  fringe?: Fringe;
  finds: Finds;
}

/** Edges that were found anew in a ground that stays as it is, for other steps on the same area. */
const knownFine = new WeakMap<Float32Array, WeakMap<Mask, FineEdge>>();

/** Finds once what depends on a mask and the ground alone. */
function fineOnce(mask: Mask, ground: Float32Array, isAlone: boolean, find: () => FineEdge): FineEdge {
  if (!isAlone) return find();
  const here = knownFine.get(ground) ?? new WeakMap<Mask, FineEdge>();
  knownFine.set(ground, here);
  const found = here.get(mask) ?? find();
  here.set(mask, found);
  return found;
}

/** A mask without what is done to it as a whole. */
const unshaped = (mask: Mask): Mask => ({ ...mask, feather: 0, grow: 0 });

/** Lays what is covered into a plane of the whole picture. */
function paste({ x, y, width, height, values }: Covered, into: Plane): void {
  for (let row = 0; row < height; row++) {
    into.values.set(values.subarray(row * width, (row + 1) * width), (y + row) * into.width + x);
  }
}

/** The coverage of a mask of a treatment, its edge softened by `bleed` (a fraction of the long edge) as well. */
export function coverageOf(id: string, masks: readonly Mask[], bleed: number): Coverage {
  const mask = byId(masks, id);
  const all = standingOn(mask, masks);
  const reads = readsPicture(mask, masks);
  const drawn = edgeDraw(mask, masks);
  const fine = fineWidth(mask, masks);
  /** It depends on nothing but itself and the ground. */
  const isAlone = all.length === 1 && mask.parts.every(part => readsOf(kindOfPart(part), part) !== 'beneath');
  const surveyedWhole = (reads || fine > 0) && (isShaped(mask, masks) || bleed > 0);
  const finding = all.flatMap(each =>
    each.parts.flatMap((part, index) => {
      const find = seenBy(kindOfPart(part), part)?.find;
      return find ? [{ name: nameOf(each, index), part, find }] : [];
    }),
  );
  const needsSurvey = surveyedWhole || drawn > 0 || fine > 0 || mask.fringe > 0 || finding.length > 0;
  const needsGround = drawn > 0 || fine > 0 || readsPicture(mask, masks, 'ground');

  const found = (whole: Rectangle, geometry: Geometry, input: CoverageInput): Surveyed => {
    const { width, height } = whole;
    const finds = Object.fromEntries(
      finding.map(({ name, part, find }) => [name, find(part, input, whole, geometry)]),
    );
    if (!surveyedWhole && drawn === 0 && fine === 0) return { finds };
    const stays = input.ground !== input.beneath;
    const shapedLater = surveyedWhole && !reads;
    // What is placed is shaped as it is laid: but where its edge is found anew, only after that.
    const plain = shapedLater ? unshaped(mask) : mask;
    const values = plainly(plain, masks, whole, geometry, input, reads || shapedLater ? 0 : bleed, finds);
    let plane: Plane = { width, height, values };
    const survey: Surveyed = { finds };
    if (fine > 0) {
      const { ground } = input;
      survey.fine = fineOnce(mask, ground, isAlone && stays, () =>
        fineEdge(plane, ground, geometry.longEdge, fine, stays),
      );
      plane = survey.fine.alpha;
    }
    if (surveyedWhole) survey.whole = plane = shapedWhole(plane, mask, bleed, geometry.longEdge);
    if (drawn > 0) survey.refined = fitEdges(plane, input.ground, geometry.longEdge, stays);
    return survey;
  };
  const survey = (whole: Rectangle, geometry: Geometry, input: CoverageInput): Surveyed => {
    const survey = found(whole, geometry, input);
    if (mask.fringe === 0) return survey;
    const covered = of(whole, geometry, input, survey);
    const plane = planeOf(whole.width, whole.height);
    if (covered) paste(covered, plane);
    return { ...survey, fringe: fringeOf(plane, input.beneath, mask.fringe * geometry.longEdge) };
  };

  // What reads the picture may cover any part of it; what is placed covers only where it lies.
  const bounded = all.every(each => each.parts.every(part => kindOfPart(part).reads === 'place'));
  const within = (region: Rectangle, geometry: Geometry) =>
    !bounded || drawn > 0 || fine > 0 || surveyedWhole
      ? region
      : meeting(region, extentOf(mask, masks, geometry, bleed), geometry);

  const of = (region: Rectangle, geometry: Geometry, input: CoverageInput, surveyed: unknown) => {
    const { whole, refined, fine, finds = {} } = (surveyed ?? {}) as Partial<Surveyed>;
    const met = within(region, geometry);
    if (!met) return null;
    const part = outward(met, region);
    const count = part.width * part.height;
    const here = cutTo(input, region, part);
    let values: Float32Array;
    if (whole) {
      values = new Float32Array(count);
      readPlane(whole, geometry, part, values);
    } else {
      values = plainly(mask, masks, part, geometry, here, bleed, finds);
      if (fine) onFineEdge(fine, values, here.ground, part, geometry);
    }
    if (refined) {
      const drawnTo = onEdges(refined, here.ground, part, geometry);
      for (let i = 0; i < count; i++) values[i] += drawn * (drawnTo[i] - values[i]);
    }
    for (let i = 0; i < count; i++) if (values[i] > 0) return { ...part, values };
    return null;
  };

  return {
    placed: !reads && !needsSurvey,
    within,
    needsGround,
    sought: soughtIn(mask, masks),
    survey: needsSurvey ? survey : undefined,
    of,
    inward:
      mask.fringe > 0
        ? (rgb, region, geometry, surveyed) => {
            const { fringe } = (surveyed ?? {}) as Partial<Surveyed>;
            return fringe ? carriedOver(fringe, rgb, region, geometry) : rgb;
          }
        : undefined,
  };
}
