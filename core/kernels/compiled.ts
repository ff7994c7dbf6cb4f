import { assembled } from './assembled';

/**
 * The compiled kernels and their memory. Pixels are copied in and out a chunk at a time, which costs about a
 * nanosecond each; tables stay.
 */

/** Pixels worked on at a time: they stay in the processor's cache. */
export const CHUNK = 4096;

const PAGE = 65_536;
/** Pages at first, and at most: half a gigabyte. */
const FIRST_PAGES = 64;
const MOST_PAGES = 8192;
/** Bytes of tables that are kept as long as they may be; more only where all of them are in use. */
const USUAL = 48 * 2 ** 20;
/** When the tables have filled their room within so few calls, it is too small for those in use. */
const FEW_CALLS = 2000;
/** Below it lies what the compiler keeps. */
const FIRST = 4096;

type Kernel = (...numbers: number[]) => void;
type Asks = (...numbers: number[]) => number;

interface Kernels {
  readCodes16: Kernel;
  readCodes8: Kernel;
  spreadGrey: Kernel;
  toCodes: Asks;
  write8: Kernel;
  addGrain: Kernel;
  readColours16: Asks;
  readColours8: Asks;
  readGreys16: Asks;
  readGreys8: Asks;
  readRamp: Kernel;
  throughRamp: Asks;
  writeRamp8: Kernel;
  rollRound: Kernel;
  dim: Kernel;
  lumas: Kernel;
  blurLine: Kernel;
  blurRows: Kernel;
  addDetail: Kernel;
  along: Kernel;
  columns: Kernel;
  strewn: Kernel;
  grains: Kernel;
  boxMean: Kernel;
  colourLines: Kernel;
  blend: Kernel;
  calm: Kernel;
  reweigh: Kernel;
  mixColour: Kernel;
  mark16: Kernel;
  mark8: Kernel;
  halve16: Kernel;
  halve8: Kernel;
  spreadRest: Kernel;
  spreadStep: Kernel;
  addTo: Kernel;
  addScaled: Kernel;
  sumOfProducts: Asks;
  weightedSquares: Asks;
  gather: Kernel;
  scatter: Kernel;
  sweepWay: Kernel;
  diagonals: Kernel;
  products: Kernel;
  likeness: Kernel;
  heard: Kernel;
  weigh: Kernel;
  steepen: Kernel;
  drawTo: Kernel;
}

type Table = Float32Array | Int32Array | Float64Array | Uint8Array;

/** Room for a chunk: a view of it, which is another one when the memory has grown, and its address. */
export interface Room<A> {
  view: A;
  at: number;
}

export interface Compiled {
  kernels: Kernels;
  memory: WebAssembly.Memory;
  /** Three numbers a pixel. */
  colours: Room<Float32Array>;
  /** One number a pixel. */
  greys: Room<Float32Array>;
  /** Three codes a pixel. */
  codes16: Room<Uint16Array>;
  codes8: Room<Uint8Array>;
  /** Up to four bytes a pixel. */
  bytes: Room<Uint8Array>;
  /** The addresses of tables, which are copied there where they are not yet; they hold until the next call. */
  addressesOf: (...tables: Table[]) => number[];
  /**
   * Room of so many bytes for what a kernel works on, beside tables; both hold until the next call. What lay there before
   * may lie there still.
   */
  workspace: (bytes: number, ...tables: Table[]) => { buffer: ArrayBuffer; at: number; tables: number[] };
  forget: (table: Table) => void;
}

function open(): Compiled {
  const memory = new WebAssembly.Memory({ initial: FIRST_PAGES, maximum: MOST_PAGES });
  const binary = Uint8Array.from(atob(assembled), c => c.charCodeAt(0));
  const instance = new WebAssembly.Instance(new WebAssembly.Module(binary), { env: { memory } });

  let free = FIRST;
  /** Takes room, with some to spare: vectors read, and bytes are written, a little beyond the last pixel. */
  const take = (bytes: number): number => {
    const at = free;
    free += (bytes + 79) & ~63;
    return at;
  };
  const views: (() => void)[] = [];
  const room = <A>(at: number, view: (at: number) => A): Room<A> => {
    const made = { view: view(at), at };
    views.push(() => (made.view = view(at)));
    return made;
  };
  const floats = (count: number) => room(take(count * 4), at => new Float32Array(memory.buffer, at, count));
  const colours = floats(CHUNK * 3);
  const greys = floats(CHUNK);
  const codes = take(CHUNK * 6);
  const codes16 = room(codes, at => new Uint16Array(memory.buffer, at, CHUNK * 3));
  const codes8 = room(codes, at => new Uint8Array(memory.buffer, at, CHUNK * 3));
  const bytes = room(take(CHUNK * 4), at => new Uint8Array(memory.buffer, at, CHUNK * 4));

  const firstTable = free;
  let most = USUAL;
  let calls = 0;
  let addresses = new WeakMap<Table, number>();
  /** Makes room for so many bytes of tables: what was kept is let go, or the memory grows. */
  const makeRoom = (need: number) => {
    if (free + need > firstTable + most) {
      if (calls < FEW_CALLS) most *= 2;
      else {
        addresses = new WeakMap();
        free = firstTable;
      }
      calls = 0;
    }
    const missing = free + need - memory.buffer.byteLength;
    if (missing <= 0) return;
    try {
      memory.grow(Math.ceil(missing / PAGE));
    } catch {
      // No more is to be had: then these alone, and a little slower.
      addresses = new WeakMap();
      free = firstTable;
      const alone = free + need - memory.buffer.byteLength;
      if (alone > 0) memory.grow(Math.ceil(alone / PAGE));
    }
    for (const renew of views) renew();
  };
  const keep = (table: Table): number => {
    const at = take(table.byteLength);
    const View = table.constructor as Float32ArrayConstructor;
    new View(memory.buffer, at, table.length).set(table);
    addresses.set(table, at);
    return at;
  };
  const addressesOf = (...tables: Table[]) => {
    calls++;
    const need = (all: Table[]) => all.reduce((sum, t) => sum + t.byteLength + 128, 0);
    const missing = tables.filter(t => !addresses.has(t));
    if (missing.length) makeRoom(need(missing));
    // Where all were let go, those that were known are missing as well.
    const all = tables.filter(t => !addresses.has(t));
    if (all.length > missing.length) makeRoom(need(all));
    return tables.map(t => addresses.get(t) ?? keep(t));
  };
  /** What workspaces are kept as: a table whose numbers nobody reads. */
  let space = new Float64Array(0);
  return {
    // eslint-disable-next-line no-restricted-syntax -- a compiled module's exports have no types of their own
    kernels: instance.exports as unknown as Kernels,
    memory,
    colours,
    greys,
    codes16,
    codes8,
    bytes,
    addressesOf,
    workspace: (bytes, ...tables) => {
      if (space.byteLength < bytes) space = new Float64Array(Math.ceil(bytes / 8));
      const [at, ...rest] = addressesOf(space, ...tables);
      return { buffer: memory.buffer, at, tables: rest };
    },
    forget: table => void addresses.delete(table),
  };
}

let opened: Compiled | undefined;

/** The compiled kernels: made when they are first needed, since the interface's own thread needs none. */
export const compiled = (): Compiled => (opened ??= open());

/** Says that a table's numbers have changed since a kernel read them. */
export const forget = (table: Table): void => compiled().forget(table);

/** Planes where the kernels read them: views of them, their addresses, and how many bytes lie from one to the next. */
export interface LaidOut {
  views: Float32Array[];
  at: number[];
  bytes: number;
  kernels: Kernels;
}

/**
 * Copies planes of one length, or shorter, to where the kernels read them, one after another, each followed by room for a vector; null is room for one
 * that is only written. All hold until the next call.
 */
export function laidOut(count: number, ...planes: (Float32Array | null)[]): LaidOut {
  const bytes = (count * Float32Array.BYTES_PER_ELEMENT + 79) & ~63;
  const { kernels, workspace } = compiled();
  const { buffer, at } = workspace(planes.length * bytes);
  const views = planes.map((plane, k) => {
    const view = new Float32Array(buffer, at + k * bytes, count);
    if (plane) view.set(plane);
    return view;
  });
  return { views, at: planes.map((_, k) => at + k * bytes), bytes, kernels };
}

/** Calls back with chunks of a run of pixels. */
export function inChunks(count: number, work: (from: number, count: number) => void): void {
  for (let from = 0; from < count; from += CHUNK) work(from, Math.min(CHUNK, count - from));
}

/** Copies codes of up to a chunk of pixels to where the kernels read them; returns their address. */
export function copyCodes(codes: Uint16Array | Uint8Array, from: number, count: number): number {
  const { codes16, codes8 } = compiled();
  const room = codes instanceof Uint8Array ? codes8 : codes16;
  room.view.set(codes.subarray(from * 3, (from + count) * 3));
  return room.at;
}
