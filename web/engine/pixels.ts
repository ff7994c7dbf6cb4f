import { framed, type Tile } from '../../core/frame/framing';
import {
  geometryOf,
  photographEdge,
  sizeAt,
  sourceOf,
  type Geometry,
  type Rectangle,
} from '../../core/frame/geometry';
import { createPlanner, type Plan } from '../../core/engine/plan';
import type { Surveys } from '../../core/engine/run';
import { createSurveyor, surveyEdge } from '../../core/engine/survey';
import type { Treatment } from '../../core/treatment/schema';
import { TileSource, type PictureInfo } from './tiles';

/** The pixels that a worker renders from, and what it finds in whole pictures: kept from one request to the next. */

const source = new TileSource();
export const planner = createPlanner();

/** A photograph in its frame at one size. */
export interface Framed {
  picture: PictureInfo;
  /** The photograph's long edge, in pixels. */
  edge: number;
  geometry: Geometry;
  /** Equal names mean equal pixels. */
  name: string;
}

export function framedAt(picture: PictureInfo, treatment: Treatment, longEdge: number): Framed {
  const { frame } = treatment;
  const edge = photographEdge(picture, frame, longEdge);
  const geometry = geometryOf(sizeAt(picture, edge), frame);
  const name = `${picture.id} ${edge} ${geometry.untouched ? '' : JSON.stringify(frame)}`;
  return { picture, edge, geometry, name };
}

/** Pixels of a part of the framed picture. */
export async function pixelsOf({ picture, edge, geometry }: Framed, part: Rectangle): Promise<Tile> {
  return framed(await source.rectangle(picture, edge, sourceOf(geometry, part)), geometry, part);
}

/** Input tiles kept at most. */
const INPUTS = 96;
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
const surveyors = new Map<string, Promise<(plan: Plan) => Surveys>>();

/** What a plan's passes find in the whole picture; nothing where they do not look. */
export async function surveysOf(plan: Plan, of: Framed, treatment: Treatment): Promise<Surveys> {
  if (!plan.surveyed) return [];
  const edge = surveyEdge(of.edge);
  const geometry = geometryOf(sizeAt(of.picture, edge), treatment.frame);
  const whole = { picture: of.picture, edge, geometry, name: `${of.name} survey ${edge}` };
  let surveyor = surveyors.get(whole.name);
  if (!surveyor) {
    const all = { x: 0, y: 0, width: geometry.width, height: geometry.height };
    surveyor = pixelsOf(whole, all).then(tile => createSurveyor(tile.codes, geometry));
    surveyor.catch(() => surveyors.delete(whole.name));
  }
  surveyors.delete(whole.name);
  surveyors.set(whole.name, surveyor);
  if (surveyors.size > SURVEYORS) surveyors.delete(surveyors.keys().next().value!);
  return (await surveyor)(plan);
}
