import { wrap, type Remote } from 'comlink';
import { tell } from '../app/notices';
import type { Engine } from './worker';

/** A worker that is started again when it dies. */
export interface LivingEngine {
  /** The engine: a call to it that a death cuts off is made again, once. */
  engine: Remote<Engine>;
  /** The engine as it is now: a call that a death cuts off is rejected. */
  once: Remote<Engine>;
  /** Told each time that it has been started again. */
  onRestart: (listener: () => void) => () => void;
}

/** A call that was under way when the worker died. */
export class EngineDied extends Error {
  constructor() {
    super('What computes the picture stopped. It is started again.');
  }
}

let started = 0;
/** One word about dying engines is enough. */
let said = false;

/** @param before called with each new engine before anything else is asked of it */
export function livingEngine(before: (engine: Remote<Engine>) => Promise<unknown>): LivingEngine {
  const listeners = new Set<() => void>();
  let deaths = 0;
  let remote: Remote<Engine>;
  let ready: Promise<unknown>;
  let cutOff: (error: Error) => void;
  let dead: Promise<never>;

  const start = () => {
    const name = `lampwash engine ${Date.now()} ${++started}`;
    const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name });
    const mine = wrap<Engine>(worker);
    remote = mine;
    dead = new Promise<never>((_, reject) => (cutOff = reject));
    dead.catch(() => undefined);
    let isOver = false;
    const over = () => {
      if (isOver) return;
      isOver = true;
      worker.terminate();
      cutOff(new EngineDied());
      deaths++;
      if (deaths === 2 && !said) {
        said = true;
        tell({
          text: 'What computes the picture has stopped twice, and was started again. If it goes on, this picture may be too large for this machine.',
          tone: 'problem',
        });
      }
      // One that cannot even start is not started for ever.
      if (deaths < 6) {
        start();
        for (const listener of listeners) listener();
      }
    };
    let isLiving = false;
    worker.addEventListener('error', () => isLiving || over());
    ready = mine
      .living()
      .then(() => {
        isLiving = true;
        void navigator.locks?.request(name, over);
      })
      .then(() => before(mine));
    ready.catch(() => undefined);
  };
  start();

  const ask = async (method: keyof Engine, args: unknown[]): Promise<unknown> => {
    const lost = dead;
    await Promise.race([ready, lost]);
    // eslint-disable-next-line no-restricted-syntax -- whichever method it is, the caller knows its types
    const call = remote[method] as unknown as (...args: unknown[]) => Promise<unknown>;
    return Promise.race([call(...args), lost]);
  };
  const again = (method: keyof Engine, args: unknown[]) =>
    ask(method, args).catch(error => {
      if (error instanceof EngineDied) return ask(method, args);
      throw error;
    });
  const engineBy = (way: typeof ask) =>
    new Proxy({} as Remote<Engine>, {
      // It must not look like a promise to whoever awaits it.
      get: (_, method) =>
        method === 'then' ? undefined : (...args: unknown[]) => way(method as keyof Engine, args),
    });
  return {
    engine: engineBy(again),
    once: engineBy(ask),
    onRestart: listener => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
  };
}
