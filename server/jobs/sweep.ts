import { removeOld } from '../data/put-aside';
import { keptOriginals, removeUnused, type Grace } from '../data/unused';
import type { Services } from '../services';

const EVERY_MS = 60 * 60_000;
/** Files younger than this may belong to an original that is just being taken in. */
const YOUNG_MS = 60 * 60_000;

/**
 * Gives room back: removes what was put aside long ago, the bytes that nothing refers to, and cached files of originals
 * that are gone; keeps every cache within its bounds.
 */
export async function sweep(
  { sequelize, caches }: Services,
  { grace, young = YOUNG_MS }: { grace?: Grace; young?: number } = {},
): Promise<void> {
  await removeOld(sequelize);
  await removeUnused(sequelize, grace);
  const kept = await keptOriginals(sequelize);
  for (const cache of caches) await cache.prune({ kept, young });
}

/** Sweeps now and every hour. */
export function sweepByTheClock(services: Services): void {
  const again = () => sweep(services).catch(error => services.log.warn({ err: error }, 'not swept'));
  void again();
  setInterval(() => void again(), EVERY_MS).unref();
}
