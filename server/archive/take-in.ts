import { access, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { Op, type Transaction } from 'sequelize';
import { referToCarried } from '../data/carried';
import { KeptLook, Photograph, Series, Take } from '../data/models';
import { PictureError } from '../pictures/bounds';
import type { PictureSource } from '../pictures/store';
import { carriedBy } from '../../core/treatment/carried-by';
import { Threads, TooMuchWork } from '../render/threads';
import type { Services } from '../services';
import { ArchiveError, type Head } from './format';
import { readArchive, type TakenIn, type Taking } from './read';
import type { ReadPiece, ReadWhole } from './row-reader';
import type { RowResult, RowTask } from './row-worker';
import { newFolder } from './staging';
import type { ArchivedTable } from './tables';

/** What is done with an archive: a shelf's comes into an empty shelf, a series' as a new one beside what is there. */

/** What is done of it by whom it is for. */
interface Kind {
  /** Throws an ArchiveError where it is not to be taken in. */
  begin: (head: Head, transaction?: Transaction) => Promise<void>;
  end: (head: Head, whole: ReadWhole, transaction: Transaction) => Promise<void>;
}

/** A shelf's own backup: everything as it was, under its own ids. */
class OfShelf implements Kind {
  private demo: string[] = [];

  async begin({ series }: Head, transaction?: Transaction): Promise<void> {
    const there = await Series.findAll({ where: { id: series.map(s => s.id) }, transaction });
    const onShelf = there.find(s => s.deletedAt === null);
    if (onShelf) {
      throw new ArchiveError(
        `“${onShelf.title}” of the backup is on this shelf already. A backup comes into a shelf without it: start with another LAMPWASH_HOME.`,
      );
    }
    if (there.length) {
      const titles = there.map(({ title }) => `“${title}”`);
      const named =
        titles.length > 3
          ? `${titles.slice(0, 3).join(', ')} and ${titles.length - 3} more`
          : titles.join(', ');
      throw new ArchiveError(
        there.length === 1
          ? `${named} from the backup is put aside on this shelf. Restore it, or delete it for good and import the backup.`
          : `${named} from the backup are put aside on this shelf. Restore them, or delete them for good and import the backup.`,
        there.map(({ id, title }) => ({ id, title })),
      );
    }
    const own = await Series.count({ where: { demo: false, deletedAt: null }, transaction });
    if (own) {
      throw new ArchiveError(
        'This is the backup of a whole shelf, which comes into an empty one; this shelf has series of its own. Start with another LAMPWASH_HOME, or give single series as packages.',
      );
    }
    const demo = await Series.findAll({ where: { demo: true, deletedAt: null }, transaction });
    this.demo = demo.map(s => s.id);
  }

  /** The demo that was laid out at a first start gives way to the one of the backup; it can be put back. */
  async end({ series }: Head, _whole: ReadWhole, transaction: Transaction): Promise<void> {
    const demos = await Series.count({ where: { demo: true, id: series.map(s => s.id) }, transaction });
    if (!demos || !this.demo.length) return;
    await Series.update({ deletedAt: new Date() }, { where: { id: { [Op.in]: this.demo } }, transaction });
  }
}

/** One series that somebody gave: under new ids, so that it comes in beside one that is here, and twice. */
class OfSeries implements Kind {
  constructor(private readonly services: Services) {}

  async begin({ series }: Head): Promise<void> {
    if (series.length !== 1) throw new ArchiveError('The package does not hold one series.');
  }

  async end(_head: Head, { ids, carries }: ReadWhole, transaction: Transaction): Promise<void> {
    const [seriesId] = ids.series;
    const photographs = await Photograph.findAll({ where: { id: ids.photographs }, transaction });
    if (ids.series.length !== 1 || photographs.some(p => p.seriesId !== seriesId)) {
      throw new ArchiveError('The package does not hold one series.');
    }
    const takes = await Take.findAll({ where: { id: ids.takes }, transaction });
    const inPackage = new Set(ids.photographs);
    if (takes.some(t => !inPackage.has(t.photographId)))
      throw new ArchiveError('A take in the package has no photograph.');
    for (const photograph of photographs) {
      const own = takes.filter(t => t.photographId === photograph.id);
      if (!own.some(t => t.id === photograph.currentTakeId)) {
        throw new ArchiveError(`“${photograph.title}” has no take in the package.`);
      }
    }
    const { sequelize } = this.services;
    for (const [take, carried] of carries) {
      await referToCarried(sequelize, { take }, carried, transaction);
    }
    for (const look of await KeptLook.findAll({ where: { id: ids.looks }, transaction })) {
      await referToCarried(sequelize, { look: look.id }, carriedBy(look.treatment), transaction);
    }
    // New to this shelf, whatever it was where it came from.
    const now = new Date();
    await Series.update(
      { createdAt: now, touchedAt: now, demo: false },
      { where: { id: seriesId }, transaction },
    );
  }
}

/** Looks at the head, and then goes on as the archive wants it; rows are read in a thread of the archive's own. */
class ByHead implements Taking {
  readonly folder: string;
  /** Originals that have come. */
  readonly sources: PictureSource[] = [];
  private kind: Kind | null = null;
  private of: Head['of'] = 'series';
  private read: ReadWhole | null = null;
  private readonly reader: Threads<RowTask, RowResult>;

  constructor(
    private readonly services: Services,
    private readonly signal: AbortSignal | undefined,
  ) {
    this.folder = newFolder(join(services.config.cacheFolder, 'uploads'));
    this.reader = new Threads(services.config.rowWorker, 1, { size: 1 });
  }

  get seriesId(): string {
    return this.read!.ids.series[0];
  }

  async begin(head: Head, transaction?: Transaction): Promise<void> {
    this.of = head.of;
    this.kind ??= head.of === 'series' ? new OfSeries(this.services) : new OfShelf();
    await this.kind.begin(head, transaction);
  }

  async rows(table: ArchivedTable, text: string): Promise<string[]> {
    const result = await this.ask({ of: this.of, table: table.name, text });
    if (!('read' in result)) throw new Error('the rows were not read');
    const { lines, carried, photographs } = result.read;
    for (const each of carried) await this.checkCarried(each);
    for (const { line, ...photograph } of photographs) {
      const row = JSON.parse(lines[line]) as object;
      lines[line] = JSON.stringify({ ...row, ...(await this.factsOf(photograph)) });
    }
    return lines;
  }

  async whole(): Promise<void> {
    const result = await this.ask('end');
    if (!('whole' in result)) throw new Error('the rows were not read');
    this.read = result.whole;
  }

  end(head: Head, transaction: Transaction): Promise<void> {
    return this.kind!.end(head, this.read!, transaction);
  }

  close(): Promise<void> {
    return this.reader.close();
  }

  private async ask(task: RowTask): Promise<RowResult> {
    try {
      const result = await this.reader.run(task, { signal: this.signal });
      if ('wrong' in result) throw new ArchiveError(result.wrong);
      return result;
    } catch (error) {
      if (error instanceof TooMuchWork)
        throw new ArchiveError('Rows of the archive take more time or memory to read than any should.');
      throw error;
    }
  }

  /** Bytes that treatments carry are what they are said to be. Throws an ArchiveError. */
  private async checkCarried({ sha256, kind }: ReadPiece['carried'][number]): Promise<void> {
    const bytes = await readFile(join(this.folder, sha256)).catch(() => {
      throw new ArchiveError(`Bytes that treatments carry are missing in the archive (${sha256}).`);
    });
    const problem = await this.services.renderer.check(kind, bytes);
    if (problem !== null)
      throw new ArchiveError(`What a treatment in the archive carries cannot be read: ${problem}`);
  }

  /** What a photograph is, by its own bytes. */
  private async factsOf({ sha256, page, title }: Omit<ReadPiece['photographs'][number], 'line'>) {
    const { pictures } = this.services;
    const path = join(this.folder, sha256);
    await access(path).catch(() => {
      throw new ArchiveError(`The original of “${title}” is missing in the package.`);
    });
    try {
      const { mediaType, ...facts } = await pictures.inspect(path, page);
      const source: PictureSource = { ...facts, mediaType, sha256 };
      const damage = await pictures.admit(source, path);
      this.sources.push(source);
      return { ...facts, media_type: mediaType, damage };
    } catch (error) {
      if (!(error instanceof PictureError)) throw error;
      throw new ArchiveError(`The original of “${title}” ${error.message}.`);
    }
  }
}

/**
 * Takes an archive in, of whichever kind it is. Throws an ArchiveError, or what `signal` says; then nothing has changed.
 */
export async function takeIn(services: Services, bytes: Readable, signal?: AbortSignal): Promise<TakenIn> {
  const taking = new ByHead(services, signal);
  let taken: TakenIn;
  try {
    taken = await readArchive(services.sequelize, bytes, taking, signal);
  } finally {
    await taking.close();
  }
  const ahead = async () => {
    for (const source of taking.sources) await services.pictures.warm(source);
  };
  ahead().catch((error: unknown) => services.log.warn({ err: error }, 'sizes not made ahead'));
  if (taken.of === 'shelf') return taken;
  const [{ title }] = taken.series;
  return { ...taken, series: [{ id: taking.seriesId, title }] };
}
