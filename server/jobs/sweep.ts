import { sweepCarried } from '../data/carried';
import type { Services } from '../services';

const EVERY_MS = 60 * 60_000;

/** Removes, now and every hour, what treatments carried and nothing refers to any more. */
export function sweepByTheClock({ sequelize, log }: Services): void {
  const sweep = () =>
    sweepCarried(sequelize).catch(error => log.warn({ err: error }, 'what is carried was not swept'));
  void sweep();
  setInterval(() => void sweep(), EVERY_MS).unref();
}
