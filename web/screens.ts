import type { QueryClient } from '@tanstack/react-query';
import { photographQuery } from './app/queries';
import { whenNothingWaits } from './engine/first-picture';
import { lazily } from './ui/lazily';

/** The screens, each a part of the program of its own: the one that is opened comes first, the others when nothing else is done. */
export const screens = {
  Shelf: lazily(async () => (await import('./shelf/Shelf')).Shelf),
  PutAside: lazily(async () => (await import('./shelf/PutAside')).PutAside),
  Sheet: lazily(async () => (await import('./sheet/Sheet')).Sheet),
  SendOut: lazily(async () => (await import('./sendout/SendOut')).SendOut),
  Bench: lazily(async () => (await import('./bench/Bench')).Bench),
  ApiPage: lazily(async () => (await import('./reference/ApiPage')).ApiPage),
};

/** How long the first screen is left alone, milliseconds. */
const ALONE_MS = 1500;

/** Fetches the screens that are often next, once the first one is there and the browser has nothing else to do. */
export function screensAhead(): void {
  setTimeout(() => {
    for (const { ahead } of [screens.Shelf, screens.Sheet, screens.Bench, screens.SendOut]) {
      if (isBench(location.pathname)) void whenNothingWaits(ahead);
      else (window.requestIdleCallback ?? setTimeout)(ahead);
    }
  }, ALONE_MS);
}

const isBench = (path: string) => path.startsWith('/photographs/');

/** Begins with all that the Bench needs for its picture at once: its program, its photograph, and the workers that make it. */
export function benchAhead(client: QueryClient, photographId: string): void {
  screens.Bench.ahead();
  void client.prefetchQuery(photographQuery(photographId));
  void import('./engine/client').then(({ engineAhead }) => engineAhead()).catch(() => undefined);
}
