import { framed } from '../../core/frame/framing';
import { geometryOf, type Geometry, type Rectangle } from '../../core/frame/geometry';
import type { KeptTable } from '../../core/engine/kept-tables';
import { createPlanner } from '../../core/engine/plan';
import { render16, render8, withMargin } from '../../core/engine/render';
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
import { readCodes, write16, write8 } from '../../core/kernels/codes';
import { greyOf } from '../../core/kernels/luminance';
import { toDisplayP3 } from '../../core/kernels/display-p3';
import type { Treatment } from '../../core/treatment/schema';
import { decodePicture, resizePixels, type Pixels } from '../pictures/decode';
import { PictureError, type PictureFacts } from '../pictures/inspect';
import { hear, type Told } from './told';

/** Pixels of a whole photograph in memory that threads share: 8-bit or 16-bit codes, interleaved RGB. */
export interface Shared {
  codes: SharedArrayBuffer;
  narrow: boolean;
  width: number;
  height: number;
}

/** Something that a treatment carries, in memory that threads share. */
export interface Held {
  sha256: string;
  bytes: SharedArrayBuffer;
}

/** Has at hand in this thread what a treatment carries. */
function takeUp(held: readonly Held[]): void {
  for (const { sha256, bytes } of held) {
    // Text cannot be read from shared memory.
    if (!isAtHand(sha256)) hold(sha256, new Uint8Array(bytes).slice());
  }
}

/** What all bands of a picture have in common. */
export interface Work {
  /** Tells one picture from another. */
  id: string;
  photograph: Shared;
  /** What steps that look at the whole picture found in it. */
  surveys: Surveys;
  grey: boolean;
  told: Told;
  bits: 8 | 16;
  profile: 'srgb' | 'display-p3' | 'grey';
  /** Tables baked already. */
  tables: KeptTable[];
  held: Held[];
}

/** What is to be baked ahead, while a picture is still being decoded. */
export interface Bake {
  bake: { told: Told; grey: boolean; pixels: number; held: Held[] };
}

/** A band of rows of the framed picture. */
export interface Band {
  work: Work;
  fromRow: number;
  rows: number;
  /** Where the finished codes go; without it they are given back. */
  out: SharedArrayBuffer | null;
}

const planner = createPlanner();
/** The picture whose tables were taken in last, and its treatment. */
let learnt: { id: string; treatment: Treatment } | null = null;

/** A file to be decoded whole, or a picture to be made smaller. */
export interface Decode {
  decode: { path: string; facts: PictureFacts };
}
export interface Resize {
  resize: { of: Shared; width: number; height: number };
}

/** Pixels in memory that threads share. */
export function share({ width, height, codes }: Pixels): Shared {
  const narrow = codes instanceof Uint8Array;
  if (codes.buffer instanceof SharedArrayBuffer && codes.byteOffset === 0) {
    return { codes: codes.buffer, narrow, width, height };
  }
  const shared = new SharedArrayBuffer(codes.byteLength);
  if (narrow) new Uint8Array(shared).set(codes);
  else new Uint16Array(shared).set(codes);
  return { codes: shared, narrow, width, height };
}

/** Pixels out of it. */
export const unshare = (shared: Shared): Pixels => ({
  width: shared.width,
  height: shared.height,
  codes: codesOf(shared),
});

/** A picture out of a file, with what is wrong with its data. */
export interface SharedPicture extends Shared {
  damage: string | null;
}

/** The picture of a file, or what is wrong with the file: an error's class does not come out of a thread. */
export async function decodeWhole({
  decode: { path, facts },
}: Decode): Promise<SharedPicture | { wrong: string }> {
  try {
    const decoded = await decodePicture(path, facts);
    return { ...share(decoded), damage: decoded.damage };
  } catch (error) {
    if (error instanceof PictureError) return { wrong: error.message };
    throw error;
  }
}

export const resizeWhole = async ({ resize: { of, width, height } }: Resize): Promise<Shared> =>
  share(await resizePixels(unshare(of), width, height));

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
export function bakeTables({ bake: { told, grey, pixels, held } }: Bake): KeptTable[] {
  takeUp(held);
  const treatment = hear(told);
  const fresh = createPlanner();
  fresh(treatment, { grey, pixels });
  return fresh.tables().map(([key, baked]) => {
    const { table } = baked;
    if (table.kind === 'exact') return [key, baked];
    const of = table.kind === 'grid' ? table.grid : table.ramp;
    const values = new Float32Array(new SharedArrayBuffer(of.values.byteLength));
    values.set(of.values);
    of.values = values;
    return [key, baked];
  });
}

/** What is to be looked at in the whole picture before its bands are rendered. */
export interface Look {
  look: {
    told: Told;
    grey: boolean;
    pixels: number;
    tables: KeptTable[];
    survey: Shared;
    held: Held[];
  };
}

const codesOf = ({ codes, narrow }: Shared) => (narrow ? new Uint8Array(codes) : new Uint16Array(codes));

/** The same with every plane in memory that threads share. */
function sharing(found: unknown): unknown {
  if (found instanceof Float32Array) {
    const values = new Float32Array(new SharedArrayBuffer(found.byteLength));
    values.set(found);
    return values;
  }
  if (Array.isArray(found)) return found.map(sharing);
  if (found && typeof found === 'object') {
    return Object.fromEntries(Object.entries(found).map(([name, value]) => [name, sharing(value)]));
  }
  return found;
}

/** Looks at the whole picture, small, once for all bands. */
export function lookAtWhole({ look: { told, grey, pixels, tables, survey, held } }: Look): Surveys {
  takeUp(held);
  const treatment = hear(told);
  const own = createPlanner();
  own.learn(tables);
  const plan = own(treatment, { grey, pixels });
  const geometry = geometryOf(survey, treatment.frame);
  const whole = { x: 0, y: 0, width: geometry.width, height: geometry.height };
  const source = { x: 0, y: 0, width: survey.width, height: survey.height, codes: codesOf(survey) };
  const surveyor = createSurveyor(framed(source, geometry, whole).codes, geometry);
  return sharing(surveyor(plan)) as Surveys;
}

/** The treatment of a work; its tables and what it carries are at hand from then on. */
function treatmentOf(work: Work): Treatment {
  if (learnt?.id !== work.id) {
    takeUp(work.held);
    planner.learn(work.tables);
    learnt = { id: work.id, treatment: hear(work.told) };
  }
  return learnt.treatment;
}

/** Renders a rectangle of a picture: RGB codes of the work's bits. */
function renderPart(
  work: Work,
  treatment: Treatment,
  geometry: Geometry,
  part: Rectangle,
): Uint8Array | Uint16Array {
  const { photograph, grey, bits, profile } = work;
  const plan = planner(treatment, { grey, pixels: geometry.width * geometry.height });
  const { surveys } = work;
  const source = { x: 0, y: 0, width: photograph.width, height: photograph.height };
  const tile = framed({ ...source, codes: codesOf(photograph) }, geometry, withMargin(plan, part, geometry));
  const options = { grey, geometry, surveys, part };
  const count = part.width * part.height;
  if (profile !== 'display-p3') {
    if (bits === 16) {
      const out = new Uint16Array(count * 3);
      render16(plan, tile, out, options);
      return out;
    }
    const out = new Uint8Array(count * 3);
    render8(plan, tile, out, 3, options);
    return out;
  }
  // Changed to the other primaries before it is cut to its bits.
  const fine = new Uint16Array(count * 3);
  render16(plan, tile, fine, options);
  const values = new Float32Array(count * 3);
  readCodes(fine, 0, count, values);
  toDisplayP3(values);
  if (bits === 16) {
    write16(values, count, fine, 0);
    return fine;
  }
  const out = new Uint8Array(count * 3);
  for (let row = 0; row < part.height; row++) {
    const at = row * part.width * 3;
    write8(values.subarray(at, at + part.width * 3), part.width, out, at, 3, part.x, part.y + row);
  }
  return out;
}

/**
 * Renders a band: RGB into shared memory, or given back, as one channel where the profile is grey.
 */
export function renderBand({ work, fromRow, rows, out }: Band): Uint8Array | Uint16Array | null {
  const treatment = treatmentOf(work);
  const geometry = geometryOf(work.photograph, treatment.frame);
  const codes = renderPart(work, treatment, geometry, {
    x: 0,
    y: fromRow,
    width: geometry.width,
    height: rows,
  });
  const samples = work.profile === 'grey' ? greyOf(codes) : codes;
  if (!out) return samples;
  const all = work.bits === 8 ? new Uint8Array(out) : new Uint16Array(out);
  all.set(samples, (fromRow * samples.length) / rows);
  return null;
}
