import type { Rectangle } from '../frame/geometry';
import type { Lattice } from '../kernels/dabs';
import { defaultsOf, type Fields, type SettingsOf } from '../settings/fields';
import type { Handle, Measure, Outline } from '../settings/handles';
import type { Geometry } from '../frame/geometry';
import type { Sought } from './finding/memory';
import type { Sight } from './finding/sight';
import type { StrokeMemory } from './laid-strokes';

/** How parts join to what stands before them in a mask. */
export const ops = ['add', 'subtract', 'intersect'] as const;
export type Op = (typeof ops)[number];

/** A box in photograph pixels; null is nothing, 'everywhere' has no end. */
export type Extent = { left: number; top: number; right: number; bottom: number } | null | 'everywhere';

interface Size {
  width: number;
  height: number;
}

/** A photograph at the size of the rendering, before its frame, in pixels. */
export interface PhotographSize {
  photograph: Size;
  longEdge: number;
}

/** What a part that is a function of place alone is laid on. */
export interface Laying extends PhotographSize {
  lattice: Lattice;
  /** Strokes that were laid before, where the picture is worked on. */
  memory?: StrokeMemory;
  /** The coverage of another mask on the same lattice. */
  maskOn: (id: string) => Float32Array;
}

/** What masks are read from, encoded RGB. */
export interface CoverageInput {
  /** What lies beneath the step. */
  beneath: Float32Array;
  /** The photograph with only its Ground steps: where hues and edges are read. */
  ground: Float32Array;
  memory?: StrokeMemory;
  /** The photograph to find things in, where an area asks for it. */
  sight?: Sight;
}

/** The part of the framed picture that a part is seen in, and what it found in the whole. */
export interface Seeing {
  region: Rectangle;
  geometry: Geometry;
  found: unknown;
}

interface Named<K extends string, F extends Fields> {
  kind: K;
  fields: F;
  /** Drawn by hand for one picture: on another it would lie beside what it was drawn for. */
  byHand?: true;
  /** The mask that it stands on, where it stands on another. */
  standsOn?: (settings: SettingsOf<F>) => string;
  /** The same on another mask. */
  onOther?: (settings: SettingsOf<F>, mask: string) => SettingsOf<F>;
  /** The points by which it is held on the picture, as fractions of the photograph. */
  handles?: (settings: SettingsOf<F>, photograph: Size) => Handle<SettingsOf<F>>[];
  /** Numbers that follow from where it lies, to be read and typed. */
  measures?: (settings: SettingsOf<F>, photograph: Size) => Measure<SettingsOf<F>>[];
  /** Lines that show on the picture where it lies. */
  outline?: (settings: SettingsOf<F>, photograph: Size) => Outline[];
}

/** How a part is read from the picture. */
interface Sees<S> {
  /** Its coverage of so many pixels, 0..1. */
  see: (settings: S, input: CoverageInput, count: number, on: Seeing) => Float32Array;
  /** What it finds in the whole picture, small, beforehand: plain data, handed to `see`. */
  find?: (settings: S, input: CoverageInput, whole: Rectangle, geometry: Geometry) => unknown;
  /** What it finds in the photograph itself, by the names that this is remembered by: `sight` is there when it is asked. */
  sought?: (settings: S) => Sought[];
}

/** A part that is a function of place alone. */
export interface PlacedPart<K extends string = string, F extends Fields = Fields> extends Named<K, F> {
  reads: 'place';
  /** Its coverage on the cells of a lattice, 0..1. */
  lay: (settings: SettingsOf<F>, on: Laying) => Float32Array;
  /** A box that holds all that it covers; everywhere where it is left out. */
  extent?: (settings: SettingsOf<F>, of: PhotographSize, extentOf: (id: string) => Extent) => Extent;
  /** Where its settings ask that it keeps to what is in the picture, how it is read from there, within the same extent. */
  keeping?: Sees<SettingsOf<F>> & { asked: (settings: SettingsOf<F>) => boolean };
}

/** A part that is read from the picture: from what lies beneath the step, or from the photograph's ground. */
export interface SeenPart<K extends string = string, F extends Fields = Fields>
  extends Named<K, F>, Sees<SettingsOf<F>> {
  reads: 'beneath' | 'ground';
}

export type PartKind<K extends string = string, F extends Fields = Fields> = (
  PlacedPart<K, F> | SeenPart<K, F>
) & { defaults: SettingsOf<F> };

/**
 * Declares a kind of mask part: its settings, whether it reads the picture, where it lies, what it covers, and how it is
 * held. The format's schema, the panel and the tools come from it.
 */
export function definePart<const K extends string, F extends Fields>(
  definition: PlacedPart<K, F> | SeenPart<K, F>,
): PartKind<K, F> {
  return { ...definition, defaults: defaultsOf(definition.fields) };
}

/** What a part reads as it is set. */
export const readsOf = (kind: PartKind, settings: SettingsOf<Fields>): 'place' | 'beneath' | 'ground' =>
  kind.reads === 'place' && kind.keeping?.asked(settings) ? 'ground' : kind.reads;

/** How a part is read from the picture as it is set; null for what is a function of place alone. */
export function seenBy(kind: PartKind, settings: SettingsOf<Fields>): Sees<SettingsOf<Fields>> | null {
  if (kind.reads !== 'place') return kind;
  return kind.keeping?.asked(settings) ? kind.keeping : null;
}

export const boxAround = (x: number, y: number, reach: number): Extent => ({
  left: x - reach,
  top: y - reach,
  right: x + reach,
  bottom: y + reach,
});

/** The box of two boxes. */
export function joined(a: Extent, b: Extent): Extent {
  if (a === 'everywhere' || b === 'everywhere') return 'everywhere';
  if (!a || !b) return a ?? b;
  return {
    left: Math.min(a.left, b.left),
    top: Math.min(a.top, b.top),
    right: Math.max(a.right, b.right),
    bottom: Math.max(a.bottom, b.bottom),
  };
}

/** The rectangle of a region that holds another one too. */
export function around(a: Rectangle, b: Rectangle): Rectangle {
  const x = Math.min(a.x, b.x);
  const y = Math.min(a.y, b.y);
  return {
    x,
    y,
    width: Math.max(a.x + a.width, b.x + b.width) - x,
    height: Math.max(a.y + a.height, b.y + b.height) - y,
  };
}
