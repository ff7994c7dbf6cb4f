import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Sequelize } from 'sequelize';
import { archiveOf } from '../archive/write';

/** Backups of the whole shelf that are made by the clock into a folder, of which the last few are kept. */

/** How often it is looked whether one is due, in milliseconds. */
const LOOK_MS = 5 * 60_000;
const HOUR_MS = 3_600_000;

const NAME = /^lampwash-shelf-\d{4}-\d\d-\d\dT\d\d-\d\d-\d\d\.tar$/;
const nameAt = (when: Date) => `lampwash-shelf-${when.toISOString().slice(0, 19).replaceAll(':', '-')}.tar`;

export interface BackupSettings {
  folder: string;
  hours: number;
  /** So many of the last are kept. */
  kept: number;
}

/** What is known of them. */
export interface BackupsTold extends BackupSettings {
  /** When the last was made; null where there is none. */
  last: Date | null;
  /** Why the next could not be made; null where all is well. */
  problem: string | null;
}

export class Backups {
  private problem: string | null = null;
  private running: Promise<void> | null = null;

  constructor(
    private readonly sequelize: Sequelize,
    private readonly settings: BackupSettings,
    private readonly now: () => Date = () => new Date(),
  ) {}

  /** The names of those that are there, the last first. Files that are called otherwise are nobody's here. */
  private async there(): Promise<string[]> {
    const names = await readdir(this.settings.folder).catch(() => []);
    return names
      .filter(name => NAME.test(name))
      .sort()
      .reverse();
  }

  async told(): Promise<BackupsTold> {
    const [last] = await this.there();
    const made = last ? (await stat(join(this.settings.folder, last))).mtime : null;
    return { ...this.settings, last: made, problem: this.problem };
  }

  /** Makes one where one is due. What goes wrong is told, and tried again at the next look. */
  turn(): Promise<void> {
    this.running ??= this.makeWhenDue()
      .then(
        () => (this.problem = null),
        (error: Error) => (this.problem = error.message),
      )
      .then(() => {
        this.running = null;
      });
    return this.running;
  }

  /** Looks now and again, until the process ends. */
  byTheClock(): void {
    void this.turn();
    setInterval(() => void this.turn(), LOOK_MS).unref();
  }

  private async makeWhenDue(): Promise<void> {
    const { folder, hours, kept } = this.settings;
    const { last } = await this.told();
    const now = this.now();
    if (last && now.getTime() - last.getTime() < hours * HOUR_MS) return;
    await mkdir(folder, { recursive: true, mode: 0o700 });
    const path = join(folder, nameAt(now));
    const part = `${path}.part`;
    try {
      await pipeline(archiveOf(this.sequelize, null), createWriteStream(part, { mode: 0o600, flush: true }));
      await rename(part, path);
    } catch (error) {
      await rm(part, { force: true });
      throw error;
    }
    // Older ones go when the new one is whole.
    for (const name of (await this.there()).slice(kept)) await rm(join(folder, name));
  }
}
