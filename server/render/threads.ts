import { availableParallelism } from 'node:os';
import PQueue from 'p-queue';
import { Piscina } from 'piscina';

/** A piece of work that took more time or memory than any should; the message says so to whoever asked. */
export class TooMuchWork extends Error {}

/** Seconds that one piece of work may take: far more than any that somebody waits for. */
const MOST_SECONDS = 120;
/** Memory of a thread's own, in MB; pixels lie outside of it. */
const MOST_MEGABYTES = 1024;

interface Options {
  signal?: AbortSignal;
  /** What somebody waits for goes before what nobody does. */
  urgent?: boolean;
  /** Seconds that it may take once it has begun. */
  seconds?: number;
}

/** What the threads are nicer than the one that answers: it gets about three times their share where there are too few cores. */
const NICE = 5;

/** Threads, one a core, that do pieces of work, each within limits of time and memory: one that goes beyond ends alone. */
export class Threads<Task, Result> {
  private readonly pool: Piscina<Task, Result>;
  /** As many at once as there are threads, so that the time of each begins when it does. */
  private readonly turns: PQueue;

  /**
   * @param filename of the built script that a thread runs
   * @param ready threads that are kept even when there is nothing to do
   * @param size threads at most; `megabytes` that each may have of its own
   */
  constructor(
    filename: string,
    ready: number,
    { size = availableParallelism(), megabytes = MOST_MEGABYTES } = {},
  ) {
    this.pool = new Piscina<Task, Result>({
      filename,
      minThreads: ready,
      maxThreads: size,
      idleTimeout: 60_000,
      resourceLimits: { maxOldGenerationSizeMb: megabytes },
      niceIncrement: NICE,
    });
    this.turns = new PQueue({ concurrency: size });
  }

  /** Does a piece of work. Throws TooMuchWork, the signal's reason, or what the work throws. */
  run(task: Task, { signal, urgent = false, seconds = MOST_SECONDS }: Options = {}): Promise<Result> {
    return this.turns.add(
      async () => {
        signal?.throwIfAborted();
        const limit = AbortSignal.timeout(seconds * 1000);
        try {
          return await this.pool.run(task, { signal: signal ? AbortSignal.any([signal, limit]) : limit });
        } catch (error) {
          if (signal?.aborted) throw signal.reason;
          if (limit.aborted) throw new TooMuchWork(`It took more than ${seconds} seconds to compute.`);
          if ((error as NodeJS.ErrnoException).code === 'ERR_WORKER_OUT_OF_MEMORY') {
            throw new TooMuchWork('It took more memory than there is for one picture.');
          }
          throw error;
        }
      },
      { priority: urgent ? 1 : 0 },
    );
  }

  close(): Promise<void> {
    this.turns.clear();
    return this.pool.destroy();
  }
}
