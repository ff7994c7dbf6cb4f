import { gunzipSync, gzipSync } from 'node:zlib';
import { measure, type Measures } from '../../core/analysis/evenness';
import { framed } from '../../core/frame/framing';
import { geometryOf, type Geometry, type Rectangle } from '../../core/frame/geometry';
import type { KeptTable } from '../../core/engine/kept-tables';
import { createPlanner, type Plan } from '../../core/engine/plan';
import { render16, render8, renderValues, withMargin } from '../../core/engine/render';
import type { Surveys } from '../../core/engine/run';
import {
  carry,
  CarriedError,
  checkCarried,
  hold,
  isAtHand,
  type CarriedKind,
} from '../../core/formats/carried';
import { createSurveyor } from '../../core/engine/survey';
import { bytesOfFound, foundOfBytes } from '../../core/masks/finding/found-bytes';
import type { Sought } from '../../core/masks/finding/memory';
import { sightOf, type Sight } from '../../core/masks/finding/sight';
import { write16, write8 } from '../../core/kernels/codes';
import { halveRows } from '../../core/kernels/halve';
import { greyOf } from '../../core/kernels/luminance';
import { markOccupied } from '../../core/kernels/occupied';
import { firstOf, spaceOf, toGreyGamma, toPrimaries, type SpaceName } from '../../core/kernels/output-space';
import type { Treatment } from '../../core/treatment/treatment';
import { codesOf, type Shared } from './shared';
import { hear, type Told } from './told';

/** Something that a treatment carries, in memory that threads share. */
export interface Held {
  sha256: string;
  bytes: SharedArrayBuffer;
}

/** Has at hand in this thread what a treatment carries. */
export function takeUp(held: readonly Held[]): void {
  for (const { sha256, bytes } of held) {
    // Text cannot be read from shared memory.
    if (!isAtHand(sha256)) hold(sha256, new Uint8Array(bytes).slice());
  }
}

/** What all bands of a picture have in common. */
export interface Work extends Planning {
  /** Tells one picture from another. */
  id: string;
  photograph: Shared;
  /** What steps that look at the whole picture found in it. */
  surveys: Surveys;
  bits: 8 | 16;
  profile: SpaceName;
  /** Tables baked already. */
  tables: KeptTable[];
}

/** What is to be baked once for all bands. */
export interface Bake {
  bake: Planning & {
    /** Tables baked before for the same steps. */
    known: KeptTable[];
  };
}

/** What a plan is made from. */
interface Planning {
  told: Told;
  grey: boolean;
  pixels: number;
  held: Held[];
  /** The colours that the first table of colours reads, as `Occupied`; null where any may come. */
  occupied: SharedArrayBuffer | null;
}

const contextFor = ({ grey, pixels, occupied }: Pick<Planning, 'grey' | 'pixels' | 'occupied'>) => ({
  grey,
  pixels,
  occupied: occupied ? new Uint8Array(occupied) : undefined,
});

/** A band of rows of the framed picture. */
export interface Band {
  work: Work;
  fromRow: number;
  rows: number;
  /** Where the finished codes go, from a row of it on; without it they are given back. */
  out: SharedArrayBuffer | null;
  outRow: number;
}

const planner = createPlanner();
/** The picture whose tables were taken in last, and its treatment. */
let learnt: { id: string; treatment: Treatment; plan: Plan } | null = null;

/** Bytes that are to be carried. */
export interface Check {
  check: { kind: CarriedKind; bytes: Uint8Array };
}

/** Reads bytes to the end for what they are to be carried as; what is wrong with them, or null. */
export function checkBytes({ check: { kind, bytes } }: Check): string | null {
  try {
    checkCarried(kind, carry(bytes));
    return null;
  } catch (error) {
    if (error instanceof CarriedError) return error.message;
    throw error;
  }
}

/** Bakes the tables of a treatment, in memory that threads share. */
export function bakeTables({ bake }: Bake): KeptTable[] {
  takeUp(bake.held);
  const fresh = createPlanner();
  fresh.learn(bake.known);
  fresh(hear(bake.told), contextFor(bake));
  return fresh.tables().map(([key, baked]) => {
    const { table } = baked;
    if (table.kind !== 'grid' && table.kind !== 'ramp') return [key, baked];
    const of = table.kind === 'grid' ? table.grid : table.ramp;
    if (!(of.values.buffer instanceof SharedArrayBuffer)) {
      const values = new Float32Array(new SharedArrayBuffer(of.values.byteLength));
      values.set(of.values);
      of.values = values;
    }
    return [key, baked];
  });
}

/** A small picture to be measured: 8-bit RGB codes. */
export interface Measure {
  measure: { codes: Uint8Array };
}

export const measureSmall = ({ measure: { codes } }: Measure): Measures => measure(codes, 3);

/** What is to be looked at in the whole picture before its bands are rendered. */
export interface Look {
  look: Planning & {
    tables: KeptTable[];
    survey: Shared;
    /** Where areas are found in it. */
    sight: Shared | null;
    /** What was found in it before, packed. */
    found: readonly Packed[];
  };
}

/** Something that was found in a photograph, its bytes packed (gzip). */
export type Packed = readonly [sought: Sought, packed: Uint8Array];

/** What was seen in a whole picture, and what was found on the way that was not known before. */
export interface LookedAt {
  surveys: Surveys;
  found: Packed[];
}

/** The same with every plane and all bytes in memory that threads share. */
function sharing(found: unknown): unknown {
  if (found instanceof Float32Array) {
    const values = new Float32Array(new SharedArrayBuffer(found.byteLength));
    values.set(found);
    return values;
  }
  if (found instanceof Uint8Array) {
    const bytes = new Uint8Array(new SharedArrayBuffer(found.byteLength));
    bytes.set(found);
    return bytes;
  }
  if (ArrayBuffer.isView(found)) throw new TypeError(`threads cannot share a ${found.constructor.name}`);
  if (Array.isArray(found)) return found.map(sharing);
  if (found && typeof found === 'object') {
    return Object.fromEntries(Object.entries(found).map(([name, value]) => [name, sharing(value)]));
  }
  return found;
}

/** What was found before; null where what was kept of it is spoilt: then it is found again. */
function unpacked(sought: Sought, packed: Uint8Array, seen: Sight): unknown {
  try {
    return foundOfBytes(sought, gunzipSync(packed), seen);
  } catch {
    return null;
  }
}

/** Looks at the whole picture, small, once for all bands. */
export function lookAtWhole({ look }: Look): LookedAt {
  const { survey, sight } = look;
  takeUp(look.held);
  const treatment = hear(look.told);
  const own = createPlanner();
  own.learn(look.tables);
  const plan = own(treatment, contextFor(look));
  const geometry = geometryOf(survey, treatment.frame);
  const whole = { x: 0, y: 0, width: geometry.width, height: geometry.height };
  const source = { x: 0, y: 0, width: survey.width, height: survey.height, codes: codesOf(survey) };
  const surveyor = createSurveyor(framed(source, geometry, whole).codes, geometry);
  const seen = sight && sightOf(codesOf(sight), sight.width, sight.height, look.grey);
  const found: Packed[] = [];
  if (seen) {
    for (const [sought, packed] of look.found) {
      const value = unpacked(sought, packed, seen);
      if (value !== null) seen.memory.learn(sought, value);
    }
    seen.memory.onFound = (sought, value) =>
      void found.push([sought, gzipSync(bytesOfFound(sought, value), { level: 1 })]);
  }
  const surveys = sharing(surveyor(plan, seen ?? undefined)) as Surveys;
  return { surveys, found };
}

/** Rows of a picture, in its frame, whose colours are to be marked. */
export interface Mark {
  mark: { told: Told; picture: Shared; fromRow: number; rows: number; into: SharedArrayBuffer };
}

export function markBand({ mark: { told, picture, fromRow, rows, into } }: Mark): null {
  const geometry = geometryOf(picture, hear(told).frame);
  const source = { x: 0, y: 0, width: picture.width, height: picture.height, codes: codesOf(picture) };
  const tile = framed(source, geometry, { x: 0, y: fromRow, width: geometry.width, height: rows });
  markOccupied([tile.codes], new Uint8Array(into));
  return null;
}

/** Rows of a picture at half its size. */
export interface Halve {
  halve: { of: Shared; fromRow: number; rows: number; out: SharedArrayBuffer };
}

export function halveBand({ halve: { of, fromRow, rows, out } }: Halve): null {
  halveRows(codesOf(of), of.width, of.height, fromRow, rows, new Uint16Array(out));
  return null;
}

/** The treatment of a work, and its plan; its tables and what it carries are at hand from then on. */
function knownOf(work: Work): { treatment: Treatment; plan: Plan } {
  if (learnt?.id !== work.id) {
    takeUp(work.held);
    planner.learn(work.tables);
    const treatment = hear(work.told);
    learnt = { id: work.id, treatment, plan: planner(treatment, contextFor(work)) };
  }
  return learnt;
}

/** Renders a rectangle of a picture: RGB codes of the work's bits. */
function renderPart(work: Work, plan: Plan, geometry: Geometry, part: Rectangle): Uint8Array | Uint16Array {
  const { photograph, grey, bits, profile } = work;
  const { surveys } = work;
  const source = { x: 0, y: 0, width: photograph.width, height: photograph.height };
  const tile = framed({ ...source, codes: codesOf(photograph) }, geometry, withMargin(plan, part, geometry));
  const options = { grey, geometry, surveys, part };
  const count = part.width * part.height;
  const { matrix, gamma } = spaceOf(profile);
  if (!matrix && !gamma) {
    if (bits === 16) {
      const out = new Uint16Array(count * 3);
      render16(plan, tile, out, options);
      return out;
    }
    const out = new Uint8Array(count * 3);
    render8(plan, tile, out, 3, options);
    return out;
  }
  // Changed to the other space before it is cut to its bits and to what that holds.
  const values = new Float32Array(count * 3);
  renderValues(plan, tile, values, options);
  if (matrix) toPrimaries(values, matrix);
  else if (gamma) toGreyGamma(values, gamma);
  if (bits === 16) {
    const out = new Uint16Array(count * 3);
    write16(values, count, out, 0);
    return out;
  }
  const out = new Uint8Array(count * 3);
  for (let row = 0; row < part.height; row++) {
    const at = row * part.width * 3;
    write8(values.subarray(at, at + part.width * 3), part.width, out, at, 3, part.x, part.y + row);
  }
  return out;
}

/**
 * Renders a band: RGB into shared memory, or given back, as one channel where the space is grey.
 */
export function renderBand({ work, fromRow, rows, out, outRow }: Band): Uint8Array | Uint16Array | null {
  const { treatment, plan } = knownOf(work);
  const geometry = geometryOf(work.photograph, treatment.frame);
  const codes = renderPart(work, plan, geometry, {
    x: 0,
    y: fromRow,
    width: geometry.width,
    height: rows,
  });
  const { gamma } = spaceOf(work.profile);
  const samples = gamma === undefined ? codes : gamma === null ? greyOf(codes) : firstOf(codes);
  if (!out) return samples;
  const all = work.bits === 8 ? new Uint8Array(out) : new Uint16Array(out);
  all.set(samples, (outRow * samples.length) / rows);
  return null;
}
