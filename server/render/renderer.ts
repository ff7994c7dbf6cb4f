import { randomUUID } from 'node:crypto';
import { setMaxListeners } from 'node:events';
import { LRUCache } from 'lru-cache';
import { framedSize } from '../../core/frame/geometry';
import type { KeptTable } from '../../core/engine/kept-tables';
import { createPlanner } from '../../core/engine/plan';
import type { Surveys } from '../../core/engine/run';
import { bytesOf, type CarriedKind } from '../../core/formats/carried';
import { carriedBy } from '../../core/treatment/carried-by';
import type { Treatment } from '../../core/treatment/schema';
import type { Decoded, Pixels } from '../pictures/decode';
import { PictureError, type PictureFacts } from '../pictures/inspect';
import {
  share,
  unshare,
  type Bake,
  type Band,
  type Check,
  type Decode,
  type Held,
  type Look,
  type Resize,
  type Shared,
  type SharedPicture,
  type Work,
} from './band';
import { encodeStrip, joinStrips, mostRows, STRIP_STEP } from './jpeg-strips';
import type { Body, ReadBody } from './read-treatment';
import { Threads } from './threads';
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
  grey: boolean;
  treatment: Treatment;
  bits: 8 | 16;
  profile?: Work['profile'];
  /** Tables asked for ahead, by `bake`. */
  tables?: Promise<KeptTable[]>;
  signal?: AbortSignal;
  /** Called with the share that is done, 0..1. */
  onProgress?: (done: number) => void;
}

export interface Rendered {
  width: number;
  height: number;
  /** Codes of the bits asked for: RGB, or one for each pixel where the profile is grey. */
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

/** What a band gives: its codes, or nothing where they went into shared memory. */
type Given = Uint8Array | Uint16Array | null;

type Task = Band | Bake | Look | Check | Decode | Resize | ReadBody;
type Result = Given | KeptTable[] | Surveys | string | Shared | SharedPicture | { wrong: string } | Body;

/** Renders treatments in worker threads, each a band of rows at a time, and does there all else that takes long. */
export class Renderer {
  private readonly threads: Threads<Task, Result>;
  private readonly planner = createPlanner(0);

  /** @param bandWorker path of the built script that a thread runs */
  constructor(bandWorker: string, { ready = 1 }: { ready?: number } = {}) {
    this.threads = new Threads(bandWorker, ready);
  }

  /**
   * Bakes the tables of a treatment ahead, in one thread for all, so that it can go on while the picture is
   * being decoded.
   * @param pixels of the whole picture
   */
  bake(treatment: Treatment, grey: boolean, pixels: number): Promise<KeptTable[]> {
    const bake = { told: tell(treatment), grey, pixels, held: heldBy(treatment) };
    const tables = this.threads.run({ bake }) as Promise<KeptTable[]>;
    // Whoever renders awaits it; a failed decoding before that leaves nobody to.
    tables.catch(() => undefined);
    return tables;
  }

  /** Decodes a file in a thread. Throws a PictureError. */
  async decode(path: string, facts: PictureFacts): Promise<Decoded> {
    const given = (await this.threads.run({ decode: { path, facts } }, { urgent: true })) as
      SharedPicture | { wrong: string };
    if ('wrong' in given) throw new PictureError(given.wrong);
    return { ...unshare(given), damage: given.damage };
  }

  /** Makes a picture smaller in a thread. */
  async resize(pixels: Pixels, width: number, height: number): Promise<Pixels> {
    return unshare(
      (await this.threads.run({ resize: { of: share(pixels), width, height } }, { urgent: true })) as Shared,
    );
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

  private async workOf(job: RenderJob): Promise<{ work: Work; margin: number }> {
    const { pixels, grey, treatment, bits, profile = 'srgb' } = job;
    // A plan without pixels bakes nothing, but says what it needs.
    const plan = this.planner(treatment, { grey, pixels: 0, draft: true });
    const longEdge = Math.max(pixels.width, pixels.height);
    const margin = plan.margin({ longEdge, width: pixels.width, height: pixels.height, photograph: pixels });
    const photograph = share(pixels);
    const size = framedSize(pixels, treatment.frame);
    const count = size.width * size.height;
    // The small picture is made while the tables are still being baked.
    const small = plan.surveyed ? job.survey() : null;
    small?.catch(() => undefined);
    const tables = await (job.tables ?? this.bake(treatment, grey, count));
    let surveys: Surveys = [];
    if (small) {
      const survey = share(await small);
      const look = { told: tell(treatment), grey, pixels: count, tables, survey, held: heldBy(treatment) };
      surveys = (await this.threads.run({ look }, { signal: job.signal })) as Surveys;
    }
    const held = heldBy(treatment);
    const told = tell(treatment);
    const work = { id: randomUUID(), photograph, surveys, grey, told, bits, profile, tables, held };
    return { work, margin };
  }

  /** Runs bands of some rows each; resolves to what was made of what each gave, in order. */
  private async inBands<T>(
    job: RenderJob,
    work: Work,
    size: { width: number; height: number },
    rowsEach: number,
    out: SharedArrayBuffer | null,
    then: (given: Given, rows: number) => T | Promise<T>,
  ): Promise<T[]> {
    const { signal, onProgress } = job;
    // Every band listens for the stop.
    if (signal) setMaxListeners(0, signal);
    const running: Promise<T>[] = [];
    let done = 0;
    for (let fromRow = 0; fromRow < size.height; fromRow += rowsEach) {
      const rows = Math.min(rowsEach, size.height - fromRow);
      const band = this.threads.run({ work, fromRow, rows, out }, { signal });
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
    const size = framedSize(work.photograph, job.treatment.frame);
    const { width, height } = size;
    const channels = job.profile === 'grey' ? 1 : 3;
    const out = new SharedArrayBuffer(width * height * channels * (job.bits / 8));
    const most = margin > 0 ? MARGIN_BAND_PIXELS : BAND_PIXELS;
    const rowsEach = Math.max(1, Math.min(Math.ceil(height / 2), Math.floor(most / width)));
    await this.inBands(job, work, size, rowsEach, out, () => null);
    return { width, height, codes: job.bits === 8 ? new Uint8Array(out) : new Uint16Array(out) };
  }

  /**
   * Renders to a JPEG without a profile: each band is encoded as soon as it is rendered, while others still
   * are, and all are joined.
   */
  async renderJpeg(job: RenderJob, quality: number): Promise<Buffer> {
    const { work, margin } = await this.workOf(job);
    const size = framedSize(work.photograph, job.treatment.frame);
    const { width, height } = size;
    const most = margin > 0 ? MARGIN_BAND_PIXELS : BAND_PIXELS;
    const wanted = Math.min(mostRows(width), Math.ceil(height / 2), Math.floor(most / width));
    const rowsEach = Math.max(STRIP_STEP, wanted - (wanted % STRIP_STEP));
    const strips = await this.inBands(job, work, size, rowsEach, null, (given, rows) =>
      encodeStrip(given as Uint8Array, width, rows, work.profile === 'grey', quality),
    );
    return joinStrips(strips, width, height, rowsEach);
  }

  close(): Promise<void> {
    return this.threads.close();
  }
}
