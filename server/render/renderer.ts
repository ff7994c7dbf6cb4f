import { randomUUID } from 'node:crypto';
import { setMaxListeners } from 'node:events';
import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { framedSize } from '../../core/engine/geometry';
import { createPlanner, type KeptTable } from '../../core/engine/plan';
import type { Surveys } from '../../core/engine/run';
import type { Treatment } from '../../core/treatment/schema';
import type { Pixels } from '../pictures/decode';
import type { Bake, Band, Look, Shared, Work } from './band';
import { joinStrips, mostRows, STRIP_STEP } from './jpeg-strips';

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
  /** RGB codes of the bits asked for. */
  codes: Uint8Array | Uint16Array;
}

function share({ width, height, codes }: Pixels): Shared {
  const narrow = codes instanceof Uint8Array;
  if (codes.buffer instanceof SharedArrayBuffer && codes.byteOffset === 0) {
    return { codes: codes.buffer, narrow, width, height };
  }
  const shared = new SharedArrayBuffer(codes.byteLength);
  if (narrow) new Uint8Array(shared).set(codes);
  else new Uint16Array(shared).set(codes);
  return { codes: shared, narrow, width, height };
}

/** Renders treatments in worker threads, one a core, each a band of rows at a time. */
export class Renderer {
  private readonly pool: Piscina<Band | Bake | Look, Uint8Array | null | KeptTable[] | Surveys>;
  private readonly planner = createPlanner(0);

  /** @param bandWorker path of the built script that a thread runs */
  constructor(bandWorker: string, { ready = 1 }: { ready?: number } = {}) {
    this.pool = new Piscina<Band | Bake | Look, Uint8Array | null | KeptTable[] | Surveys>({
      filename: bandWorker,
      minThreads: ready,
      maxThreads: availableParallelism(),
      idleTimeout: 60_000,
    });
  }

  /**
   * Bakes the tables of a treatment ahead, in one thread for all, so that it can go on while the picture is
   * being decoded.
   * @param pixels of the whole picture
   */
  bake(treatment: Treatment, grey: boolean, pixels: number): Promise<KeptTable[]> {
    const tables = this.pool.run({ bake: { treatment, grey, pixels } }) as Promise<KeptTable[]>;
    // Whoever renders awaits it; a failed decoding before that leaves nobody to.
    tables.catch(() => undefined);
    return tables;
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
    const tables = await (job.tables ?? this.bake(treatment, grey, count));
    let surveys: Surveys = [];
    if (plan.surveyed) {
      const survey = share(await job.survey());
      const look = { treatment, grey, pixels: count, tables, survey };
      surveys = (await this.pool.run({ look }, { signal: job.signal })) as Surveys;
    }
    const work = { id: randomUUID(), photograph, surveys, grey, treatment, bits, profile, tables };
    return { work, margin };
  }

  /** Runs bands of `rows` rows; resolves to what each gave, in order. */
  private async inBands(
    job: RenderJob,
    work: Work,
    size: { width: number; height: number },
    rowsEach: number,
    band: Pick<Band, 'out' | 'quality'>,
  ): Promise<(Uint8Array | null)[]> {
    const { signal, onProgress } = job;
    // Every band listens for the stop.
    if (signal) setMaxListeners(0, signal);
    const running: Promise<Uint8Array | null>[] = [];
    let done = 0;
    for (let fromRow = 0; fromRow < size.height; fromRow += rowsEach) {
      const rows = Math.min(rowsEach, size.height - fromRow);
      running.push(
        this.pool.run({ work, fromRow, rows, ...band }, { signal }).then(result => {
          done += rows;
          onProgress?.(done / size.height);
          return result as Uint8Array | null;
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
    const out = new SharedArrayBuffer(width * height * 3 * (job.bits / 8));
    const most = margin > 0 ? MARGIN_BAND_PIXELS : BAND_PIXELS;
    const rowsEach = Math.max(1, Math.min(Math.ceil(height / 2), Math.floor(most / width)));
    await this.inBands(job, work, size, rowsEach, { out, quality: 0 });
    return { width, height, codes: job.bits === 8 ? new Uint8Array(out) : new Uint16Array(out) };
  }

  /**
   * Renders to a JPEG without a profile: bands are encoded in the threads that rendered them, while others are
   * still rendered, and joined.
   */
  async renderJpeg(job: RenderJob, quality: number): Promise<Buffer> {
    const { work, margin } = await this.workOf(job);
    const size = framedSize(work.photograph, job.treatment.frame);
    const { width, height } = size;
    const most = margin > 0 ? MARGIN_BAND_PIXELS : BAND_PIXELS;
    const wanted = Math.min(mostRows(width), Math.ceil(height / 2), Math.floor(most / width));
    const rowsEach = Math.max(STRIP_STEP, wanted - (wanted % STRIP_STEP));
    const strips = await this.inBands(job, work, size, rowsEach, { out: null, quality });
    return joinStrips(
      strips.map(s => Buffer.from(s!.buffer, s!.byteOffset, s!.byteLength)),
      width,
      height,
      rowsEach,
    );
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}
