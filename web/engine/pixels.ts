import { framed, type Tile } from '../../core/frame/framing';
import { geometryOf, sizeAt, sourceOf, type Rectangle } from '../../core/frame/geometry';
import type { Codes } from '../../core/kernels/grid';
import { markOccupied, noneOccupied, type Occupied } from '../../core/kernels/occupied';
import { createPlanner, type Plan } from '../../core/engine/plan';
import type { Surveys } from '../../core/engine/run';
import { preparedCodes } from '../../core/engine/render';
import { createSurveyor, surveyEdge, type Surveyor } from '../../core/engine/survey';
import type { Treatment } from '../../core/treatment/treatment';
import { readyToFind } from '../../core/masks/finding/find';
import { lookFinding, sightFor } from './finding';
import type { Framed } from './levels';
import { TileSource, type PictureInfo } from './tiles';

/** The pixels that a worker renders from, and what it finds in whole pictures: kept from one request to the next. */

const source = new TileSource();
export const planner = createPlanner();

/** The colours that have been seen of a picture at one size, as what its plans prepared of them. */
interface Seen {
  by: unknown;
  cells: Occupied;
  tiles: WeakSet<Codes>;
}
/** By names of sizes, those used last at the end. */
const seen = new Map<string, Seen>();
const MOST_SEEN = 6;

function seenOf(name: string, by: unknown): Seen {
  let known = seen.get(name);
  if (!known || known.by !== by) known = { by, cells: noneOccupied(), tiles: new WeakSet() };
  seen.delete(name);
  seen.set(name, known);
  if (seen.size > MOST_SEEN) seen.delete(seen.keys().next().value!);
  return known;
}

/**
 * The colours that the first table of a plan reads: of tiles of a picture and of those seen before, and of the small one
 * that its passes look at.
 * @param bare the plan, with whatever tables
 * @param looked the size at which they look
 */
export async function coloursRead(
  bare: Plan,
  of: Framed,
  treatment: Treatment,
  tiles: readonly Tile[],
  looked: Framed,
): Promise<Occupied> {
  const all: { tile: Tile; of: Framed }[] = tiles.map(tile => ({ tile, of }));
  if (bare.surveyed) {
    const { tile, whole } = await surveyed(looked, treatment);
    all.push({ tile, of: whole });
  }
  const [first] = bare.passes;
  const prepares = first?.kind === 'field' && first.prepares;
  const alone = { ...bare, passes: bare.passes.slice(0, 1), surveyed: true, sought: [] };
  const surveys = prepares ? await surveysOf(alone, looked, treatment) : [];
  const colours = seenOf(of.name, surveys[0]?.field);
  const fresh = all.filter(({ tile }) => !colours.tiles.has(tile.codes));
  if (!fresh.length) return colours.cells;
  const codes = fresh.map(({ tile, of: { geometry } }) => {
    colours.tiles.add(tile.codes);
    return prepares ? preparedCodes(alone, tile, { geometry, surveys }) : tile.codes;
  });
  // Tables that hold those seen before are told apart from those that hold these as well.
  colours.cells = new Uint8Array(colours.cells);
  markOccupied(codes, colours.cells);
  return colours.cells;
}

/** Pixels of a part of the framed picture. */
export async function pixelsOf({ picture, edge, geometry }: Framed, part: Rectangle): Promise<Tile> {
  return framed(await source.rectangle(picture, edge, sourceOf(geometry, part)), geometry, part);
}

/** Input tiles kept at most. */
const INPUTS = 384;
const inputs = new Map<string, Promise<Tile>>();

/** The same, kept: a control that moves asks for the same parts again and again. */
export function keptPixels(of: Framed, part: Rectangle): Promise<Tile> {
  const key = `${of.name} ${part.x} ${part.y} ${part.width} ${part.height}`;
  const known = inputs.get(key) ?? pixelsOf(of, part);
  inputs.delete(key);
  inputs.set(key, known);
  known.catch(() => inputs.delete(key));
  if (inputs.size > INPUTS) inputs.delete(inputs.keys().next().value!);
  return known;
}

/** Surveyors kept at most: of the large picture, and of small ones. */
const SURVEYORS = 4;
const surveyors = new Map<string, Promise<Surveyed>>();

interface Surveyed {
  /** The small picture that is looked at. */
  whole: Framed;
  tile: Tile;
  look: Surveyor;
}

/** The small picture that passes look at, and how they look. */
export function surveyed(of: Framed, treatment: Treatment): Promise<Surveyed> {
  const edge = surveyEdge(of.edge);
  const geometry = geometryOf(sizeAt(of.picture, edge), treatment.frame);
  const whole = { picture: of.picture, edge, geometry, name: `${of.name} survey ${edge}` };
  let surveyor = surveyors.get(whole.name);
  if (!surveyor) {
    const all = { x: 0, y: 0, width: geometry.width, height: geometry.height };
    surveyor = pixelsOf(whole, all).then(tile => ({
      whole,
      tile,
      look: createSurveyor(tile.codes, geometry),
    }));
    surveyor.catch(() => surveyors.delete(whole.name));
  }
  surveyors.delete(whole.name);
  surveyors.set(whole.name, surveyor);
  if (surveyors.size > SURVEYORS) surveyors.delete(surveyors.keys().next().value!);
  return surveyor;
}

/**
 * What a plan's passes find in the whole picture; nothing where they do not look. Throws `Abandoned` where areas are still being found and it
 * is no longer wanted.
 */
export async function surveysOf(
  plan: Plan,
  of: Framed,
  treatment: Treatment,
  isStale: () => boolean = () => false,
): Promise<Surveys> {
  if (!plan.surveyed) return [];
  const { look } = await surveyed(of, treatment);
  return plan.sought.length ? lookFinding(look, plan, of.picture, source, isStale) : look(plan);
}

/** Makes a photograph ready for areas to be found in it, before the first stroke. */
export const readyFor = async (picture: PictureInfo): Promise<void> =>
  readyToFind(await sightFor(picture, source));
