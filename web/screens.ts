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

/** How long the first screen is left alone. */
const IDLE_MS = 1500;

/** Fetches the screens that are often next, once the browser has nothing else to do. */
export function screensAhead(): void {
  const idle = window.requestIdleCallback ?? ((run: () => void) => setTimeout(run, IDLE_MS));
  setTimeout(() => {
    for (const { ahead } of [screens.Shelf, screens.Sheet, screens.Bench, screens.SendOut]) idle(ahead);
  }, IDLE_MS);
}
