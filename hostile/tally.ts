import { once } from 'node:events';
import { Worker } from 'node:worker_threads';

/** What has been tried, and what came of it. */

export interface Tally {
  tried: number;
  refused: number;
  taken: number;
  /** Answers that blame the server for what was sent. */
  '5xx': number;
  /** Requests that got no answer in time, and times when the server did not say how it is. */
  hung: number;
  /** Things that were acknowledged, and are not there. */
  lost: number;
}

export const newTally = (): Tally => ({ tried: 0, refused: 0, taken: 0, '5xx': 0, hung: 0, lost: 0 });

/** How long an answer may take. Heavy pictures take long; nothing takes so long. */
export const PATIENCE_MS = 30_000;
/** The demo is twelve photographs that are laid out in one request, on a machine that others may use as well. */
const DEMO_MS = 150_000;
/** How long the server may take to say how it is, whatever else it does. */
export const HEALTH_MS = 2_000;

export interface Answer {
  status: number;
  type: string;
  text: string;
}

/** Sends a request and counts what comes of it; null where nothing does. What is wrong is also told in `faults`. */
export async function tried(
  tally: Tally,
  faults: string[],
  url: string,
  init: RequestInit = {},
  patience = new URL(url).pathname === '/api/demo' ? DEMO_MS : PATIENCE_MS,
): Promise<Answer | null> {
  const name = `${init.method ?? 'GET'} ${url.slice(0, 200)}`;
  tally.tried++;
  try {
    const response = await fetch(url, {
      ...init,
      signal: AbortSignal.timeout(patience),
      redirect: 'manual',
    });
    const text = await response.text();
    const { status } = response;
    const type = response.headers.get('content-type') ?? '';
    if (status >= 500) {
      tally['5xx']++;
      faults.push(`${name}: ${status} ${text.slice(0, 200)} for ${String(init.body).slice(0, 300)}`);
    } else if (status >= 400) {
      tally.refused++;
      if (!type.startsWith('application/problem+json')) faults.push(`${name}: ${status} in ${type}`);
    } else tally.taken++;
    return { status, type, text };
  } catch (error) {
    if ((error as Error).name === 'TimeoutError') {
      tally.hung++;
      faults.push(`${name}: no answer for ${String(init.body).slice(0, 300)}`);
    } else if (/invalid|unsupported|failed to parse|headers/i.test(String((error as Error).cause ?? error)))
      tally.refused++;
    else faults.push(`${name}: ${String((error as Error).cause ?? error)}`);
    return null;
  }
}

/**
 * Asks the server how it is, again and again, until told to stop; gives the longest that it took. By a thread of its own: what
 * packs millions of points to send them would itself be late to ask.
 */
export function watchHealth(tally: Tally, faults: string[], url: string): () => Promise<number> {
  const watcher = new Worker(new URL('./health-watcher.mjs', import.meta.url), {
    workerData: { url, patience: PATIENCE_MS },
  });
  return async () => {
    watcher.postMessage('stop');
    const [{ longest, wrong }] = (await once(watcher, 'message')) as [{ longest: number; wrong: string[] }];
    faults.push(...wrong);
    if (longest > HEALTH_MS) {
      tally.hung++;
      faults.push(`health took ${Math.round(longest)} ms`);
    }
    return longest;
  };
}
