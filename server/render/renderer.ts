import { randomUUID } from 'node:crypto';
import { setMaxListeners } from 'node:events';
import { LRUCache } from 'lru-cache';
import { framedSize, geometryOf } from '../../core/frame/geometry';
import type { Measures } from '../../core/analysis/evenness';
import { bytesOfTable, type KeptTable } from '../../core/engine/kept-tables';
import { createPlanner, type Plan } from '../../core/engine/plan';
import type { Surveys } from '../../core/engine/run';
import { bytesOf, type CarriedKind } from '../../core/formats/carried';
import { OCCUPIED_BYTES } from '../../core/kernels/occupied';
import { isGreySpace } from '../../core/kernels/output-space';
import { nameOfFound } from '../../core/masks/finding/found-bytes';
import type { Sought } from '../../core/masks/finding/memory';
import { carriedBy } from '../../core/treatment/carried-by';
import type { Treatment } from '../../core/treatment/treatment';
import { resizePixels, type Decoded, type Pixels } from '../pictures/decode';
import { PictureError } from '../pictures/bounds';
import type { FoundStore } from '../pictures/store';
import { type PictureFacts } from '../pictures/inspect';
import type { Bake, Band, Check, Halve, Held, Look, LookedAt, Mark, Measure, Packed, Work } from './band';
import { encodeStrip, joinStrips, mostRows, STRIP_STEP, type StripCoding } from './jpeg-strips';
import type { LayerWork, OnLayers, Apart } from './layer-tasks';
import type { Decode, Inspect, SharedPicture } from './picture-tasks';
import type { Body, ReadBody } from './read-treatment';
import { share, unshare, type Shared } from './shared';
import { Threads } from './threads';
import type { Tabulate, Tabulated } from './table-task';
import { tell } from './told';

/** Pixels of a band: enough to be worth sending, few enough for progress and for stopping. */
const BAND_PIXELS = 1 << 20;
/** Where bands need a margin around them they are larger, so that little is computed twice. */
const MARGIN_BAND_PIXELS = 3 << 20;

export interface RenderJob {
  /** The photograph at the size that it is rendered at. */
  pixels: Pixels;
  /** The photograph small (long edge `SURVEY_EDGE`), asked for where steps look at the whole picture. */
  survey: () => Promise<Pixels>;
  /** The photograph at `SIGHT_EDGE`, asked for where areas are found in it. */
  sight: () => Promise<Pixels>;
  /** What was found in the photograph before, where that is kept. */
  found?: FoundStore;
  grey: boolean;
  treatment: Treatment;
  bits: 8 | 16;
  profile?: Work['profile'];
  /** Only these rows of the framed picture, where not all are wanted. */
  rows?: { from: number; count: number };
  signal?: AbortSignal;
  /** Called with the share that is done, 0..1. */
  onProgress?: (done: number) => void;
}

export interface Rendered {
  width: number;
  height: number;
  /** Codes of the bits asked for: RGB, or one for each pixel where the space is grey. */
  codes: Uint8Array | Uint16Array;
}

/** What treatments carry, in memory that threads share; up to so many bytes. */
const sharedBytes = new LRUCache<string, SharedArrayBuffer>({
  maxSize: 512 * 1024 * 1024,
  sizeCalculation: bytes => bytes.byteLength || 1,
});

/** All that a treatment carries, for threads. It must be at hand here. */
function heldBy(treatment: Treatment): Held[] {
  return carriedBy(treatment).map(({ reference }) => {
    const { sha256 } = reference;
    let bytes = sharedBytes.get(sha256);
    if (!bytes) {
      const own = bytesOf(reference);
      bytes = new SharedArrayBuffer(own.length);
      new Uint8Array(bytes).set(own);
      sharedBytes.set(sha256, bytes);
    }
    return { sha256, bytes };
  });
}

/** Bytes of tables kept at most. */
const MOST_TABLE_BYTES = 160 * 1024 * 1024;

/** Whether a plan begins with something done to the picture before its first table reads it. */
function preparesFirst({ passes: [first] }: Plan): boolean {
  return first?.kind === 'field' && first.prepares === true;
}

/** What is known of what is sought. */
async function recalled(store: FoundStore, sought: readonly Sought[]): Promise<Packed[]> {
  const all = await Promise.all(
    sought.map(async each => [each, await store.recall(nameOfFound(each))] as const),
  );
  return all.filter((each): each is Packed => each[1] !== null);
}

/** What a band gives: its codes, or nothing where they went into shared memory. */
type Given = Uint8Array | Uint16Array | null;

type Task =
  Band | Bake | Look | Mark | Measure | Halve | Check | Decode | Inspect | ReadBody | Tabulate | OnLayers;
type Result =
  | Given
  | KeptTable[]
  | Measures
  | LookedAt
  | string
  | Shared
  | SharedPicture
  | { wrong: string }
  | Body
  | Tabulated
  | Apart;

/** Renders treatments in worker threads, each a band of rows at a time, and does there all else that takes long. */
export class Renderer {
  private readonly threads: Threads<Task, Result>;
  private readonly planner = createPlanner(0);
  /** The tables of the last renderings: the treatments of a batch have most of their steps in common. */
  private readonly tables = new LRUCache<string, KeptTable>({
    maxSize: MOST_TABLE_BYTES,
    sizeCalculation: ([, baked]) => bytesOfTable(baked),
  });
  /** Those that are being baked ahead, by the keys of their plans. */
  private readonly ahead = new LRUCache<string, Promise<unknown>>({ max: 4 });

  /** @param bandWorker path of the built script that a thread runs */
  constructor(bandWorker: string, { ready = 1 }: { ready?: number } = {}) {
    this.threads = new Threads(bandWorker, ready);
  }

  /**
   * Bakes ahead, in a thread, the tables of a treatment that reads colours which are not known soon, so that it can go on
   * while the picture is being decoded; where they are known with the picture, tables for them alone are sooner there. Kept
   * for the rendering that follows.
   * @param pixels of the whole picture
   */
  bakeAhead(treatment: Treatment, grey: boolean, pixels: number): void {
    const plan = this.planner(treatment, { grey, pixels: 0 });
    if (!preparesFirst(plan)) return;
    const baking = this.bake({
      told: tell(treatment),
      grey,
      pixels,
      held: heldBy(treatment),
      occupied: null,
    });
    // Whoever renders awaits it; a failed decoding before that leaves nobody to.
    baking.catch(() => undefined);
    this.ahead.set(plan.key, baking);
  }

  /** Bakes the tables of a plan, in one thread for all; what of them is kept is not baked again. */
  private async bake(asked: Omit<Bake['bake'], 'known'>, signal?: AbortSignal): Promise<KeptTable[]> {
    const known = [...this.tables.values()];
    const tables = (await this.threads.run({ bake: { ...asked, known } }, { signal })) as KeptTable[];
    for (const table of tables) this.tables.set(table[0], table);
    return tables;
  }

  /** What a file says of one of its pages, read in a thread. Throws a PictureError. */
  async inspect(path: string, page?: number): Promise<PictureFacts> {
    const given = (await this.threads.run({ inspect: { path, page } }, { urgent: true })) as
      { facts: PictureFacts } | { wrong: string };
    if ('wrong' in given) throw new PictureError(given.wrong);
    return given.facts;
  }

  /** Decodes a file in a thread. Throws a PictureError. */
  async decode(path: string, facts: PictureFacts): Promise<Decoded> {
    const given = (await this.threads.run({ decode: { path, facts } }, { urgent: true })) as
      SharedPicture | { wrong: string };
    if ('wrong' in given) throw new PictureError(given.wrong);
    return { ...unshare(given), damage: given.damage };
  }

  /** Makes a picture smaller: half the size in all threads, else in the picture library's own. */
  async resize(pixels: Pixels, width: number, height: number): Promise<Pixels> {
    if (width === Math.ceil(pixels.width / 2) && height === Math.ceil(pixels.height / 2)) {
      const of = share(pixels);
      const out = new SharedArrayBuffer(width * height * 6);
      await this.overRows(height, BAND_PIXELS / width / 4, (fromRow, rows) =>
        this.threads.run({ halve: { of, fromRow, rows, out } }, { urgent: true }),
      );
      return { width, height, codes: new Uint16Array(out) };
    }
    return resizePixels(pixels, width, height);
  }

  /** Measures a small picture (8-bit RGB) in a thread. */
  measure(codes: Uint8Array): Promise<Measures> {
    return this.threads.run({ measure: { codes } }, { urgent: true, seconds: 30 }) as Promise<Measures>;
  }

  /** A treatment as a colour table, in a thread; what it carries must be at hand. */
  tabulate(treatment: Treatment, asked: Omit<Tabulate['tabulate'], 'told' | 'held'>): Promise<Tabulated> {
    const tabulate = { told: tell(treatment), held: heldBy(treatment), ...asked };
    return this.threads.run({ tabulate }, { seconds: 120 }) as Promise<Tabulated>;
  }

  /** Reads bytes that are to be carried, in a thread; what is wrong with them, or null. */
  check(kind: CarriedKind, bytes: Uint8Array): Promise<string | null> {
    return this.threads.run({ check: { kind, bytes } }, { urgent: true, seconds: 30 }) as Promise<
      string | null
    >;
  }

  /** Reads the text of a request that may hold a whole treatment, in a thread. */
  readBody(text: string): Promise<Body> {
    return this.threads.run({ readBody: text }, { urgent: true, seconds: 60 }) as Promise<Body>;
  }

  /** Works on layers of so many pixels, in all threads; what each of them gave. */
  async onLayers(count: number, work: LayerWork, signal?: AbortSignal): Promise<Apart[]> {
    const given: Promise<Result>[] = [];
    for (let from = 0; from < count; from += BAND_PIXELS) {
      const onLayers = { work, from, count: Math.min(BAND_PIXELS, count - from) };
      given.push(this.threads.run({ onLayers }, { signal }));
    }
    return Promise.all(given) as Promise<Apart[]>;
  }

  /** Runs work on rows, so many at a time, in all threads; resolves when all is done. */
  private async overRows(
    height: number,
    rowsEach: number,
    work: (fromRow: number, rows: number) => Promise<unknown>,
  ): Promise<void> {
    const each = Math.max(1, Math.min(Math.ceil(height / 2), Math.floor(rowsEach)));
    const all: Promise<unknown>[] = [];
    for (let fromRow = 0; fromRow < height; fromRow += each) {
      all.push(work(fromRow, Math.min(each, height - fromRow)));
    }
    await Promise.all(all);
  }

  /** What all bands of a job need, found in threads: looks at the whole picture, the colours that it has, tables. */
  private async workOf(job: RenderJob): Promise<{ work: Work; margin: number }> {
    const { grey, treatment, bits, profile = 'srgb', signal } = job;
    // A plan without pixels bakes nothing, but says what it needs.
    const plan = this.planner(treatment, { grey, pixels: 0 });
    const [first] = plan.passes;
    const geometry = geometryOf(job.pixels, treatment.frame);
    const photograph = share(job.pixels);
    const pixels = geometry.width * geometry.height;
    const asked = { told: tell(treatment), grey, pixels, held: heldBy(treatment) };
    // The small picture is made while colours are marked and tables baked.
    const small = plan.surveyed ? job.survey().then(share) : null;
    small?.catch(() => undefined);
    const sight = plan.sought.length ? job.sight().then(share) : null;
    sight?.catch(() => undefined);
    // Where the first thing done is a table of colours, it need hold no others than the picture has.
    let occupied: SharedArrayBuffer | null = null;
    if (first?.kind === 'points' && !grey && geometry.exact) {
      const into = new SharedArrayBuffer(OCCUPIED_BYTES);
      const mark = (picture: Shared) => {
        const { width, height } = geometryOf(picture, treatment.frame);
        return this.overRows(height, BAND_PIXELS / width, (fromRow, rows) =>
          this.threads.run({ mark: { ...asked, picture, fromRow, rows, into } }, { signal }),
        );
      };
      await Promise.all([mark(photograph), small?.then(mark)]);
      occupied = into;
    }
    await this.ahead.get(plan.key);
    this.ahead.delete(plan.key);
    const tables = await this.bake({ ...asked, occupied }, signal);
    let surveys: Surveys = [];
    if (small) {
      const found = job.found ? await recalled(job.found, plan.sought) : [];
      const look = { ...asked, survey: await small, sight: await sight, found, tables, occupied };
      const seen = (await this.threads.run({ look }, { signal })) as LookedAt;
      ({ surveys } = seen);
      // Kept beside what is made of it; what cannot be kept is found again.
      for (const [sought, packed] of seen.found)
        job.found?.keep(nameOfFound(sought), packed).catch(() => undefined);
    }
    const work = { id: randomUUID(), photograph, surveys, bits, profile, tables, occupied, ...asked };
    return { work, margin: plan.margin(geometry) };
  }

  /** Runs bands of some rows each; resolves to what was made of what each gave, in order. */
  private async inBands<T>(
    job: RenderJob,
    work: Work,
    size: { from: number; height: number },
    rowsEach: number,
    out: SharedArrayBuffer | null,
    then: (given: Given, rows: number) => T | Promise<T>,
  ): Promise<T[]> {
    const { signal, onProgress } = job;
    // Every band listens for the stop.
    if (signal) setMaxListeners(0, signal);
    const running: Promise<T>[] = [];
    let done = 0;
    for (let row = 0; row < size.height; row += rowsEach) {
      const rows = Math.min(rowsEach, size.height - row);
      const band = this.threads.run({ work, fromRow: size.from + row, rows, out, outRow: row }, { signal });
      running.push(
        band
          .then(given => then(given as Given, rows))
          .then(result => {
            done += rows;
            onProgress?.(done / size.height);
            return result;
          }),
      );
    }
    return Promise.all(running);
  }

  /** Renders to codes in memory. */
  async render(job: RenderJob): Promise<Rendered> {
    const { work, margin } = await this.workOf(job);
    const { width, height: all } = framedSize(work.photograph, job.treatment.frame);
    const { from, count: height } = job.rows ?? { from: 0, count: all };
    const channels = job.profile && isGreySpace(job.profile) ? 1 : 3;
    const out = new SharedArrayBuffer(width * height * channels * (job.bits / 8));
    const most = margin > 0 ? MARGIN_BAND_PIXELS : BAND_PIXELS;
    const rowsEach = Math.max(1, Math.min(Math.ceil(height / 2), Math.floor(most / width)));
    await this.inBands(job, work, { from, height }, rowsEach, out, () => null);
    return { width, height, codes: job.bits === 8 ? new Uint8Array(out) : new Uint16Array(out) };
  }

  /**
   * Renders to a JPEG without a profile: each band is encoded as soon as it is rendered, while others still
   * are, and all are joined.
   */
  async renderJpeg(job: RenderJob, coding: StripCoding): Promise<Buffer> {
    const { work, margin } = await this.workOf(job);
    const size = framedSize(work.photograph, job.treatment.frame);
    const { width, height } = size;
    const most = margin > 0 ? MARGIN_BAND_PIXELS : BAND_PIXELS;
    const wanted = Math.min(mostRows(width), Math.ceil(height / 2), Math.floor(most / width));
    const rowsEach = Math.max(STRIP_STEP, wanted - (wanted % STRIP_STEP));
    const strips = await this.inBands(job, work, { from: 0, height }, rowsEach, null, (given, rows) =>
      encodeStrip(given as Uint8Array, width, rows, isGreySpace(work.profile), coding),
    );
    return joinStrips(strips, width, height, rowsEach);
  }

  close(): Promise<void> {
    return this.threads.close();
  }
}
