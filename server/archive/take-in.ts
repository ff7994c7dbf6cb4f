import { randomUUID } from 'node:crypto';
import { access, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { Op, type Transaction } from 'sequelize';
import type { CarriedKind } from '../../core/formats/carried';
import { carriedBy, type Carried } from '../../core/treatment/carried-by';
import type { Treatment } from '../../core/treatment/treatment';
import { referToCarried } from '../data/carried';
import { toldOf } from '../data/history';
import { KeptLook, Photograph, Series, Take } from '../data/models';
import { PictureError } from '../pictures/inspect';
import type { PictureSource } from '../pictures/store';
import type { Services } from '../services';
import { ArchiveError, type Head } from './format';
import { checkShelfRow, lineOf, packageRow, treatmentIn } from './rows';
import { Histories } from './states';
import { newFolder, readArchive, type TakenIn, type Taking } from './read';
import type { ArchivedTable } from './tables';

/** What is done with an archive: a shelf's comes into an empty shelf, a series' as a new one beside what is there. */

type Kind = Pick<Taking, 'begin' | 'row' | 'whole' | 'end'>;

/** A shelf's own backup: everything as it was, under its own ids. */
class OfShelf implements Kind {
  private demo: string[] = [];
  private readonly histories = new Histories();

  constructor(
    private readonly services: Services,
    private readonly folder: string,
  ) {}

  async begin({ series }: Head, transaction?: Transaction): Promise<void> {
    const there = await Series.findOne({ where: { id: series.map(s => s.id) }, transaction });
    if (there) {
      throw new ArchiveError(
        `“${there.title}” of the backup is on this shelf already${there.deletedAt ? ', put aside' : ''}. A backup comes into a shelf without it: start with another LAMPWASH_HOME.`,
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

  /** As it stands there, once it has been read. */
  async row(table: ArchivedTable, line: string): Promise<string> {
    const row = checkShelfRow(table, lineOf(table, line));
    if (table.name === 'takes') this.histories.expect(row);
    if (table.name === 'take_states') this.histories.read(row);
    if (table.name === 'carried') await checkCarriedBytes(this.services, this.folder, row);
    return line;
  }

  whole(): void {
    this.histories.end();
  }

  /** The demo that was laid out at a first start gives way to the one of the backup; it can be put back. */
  async end({ series }: Head, transaction: Transaction): Promise<void> {
    const demos = await Series.count({ where: { demo: true, id: series.map(s => s.id) }, transaction });
    if (!demos || !this.demo.length) return;
    await Series.update({ deletedAt: new Date() }, { where: { id: { [Op.in]: this.demo } }, transaction });
  }
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

/** Bytes that treatments carry are what they are said to be. Throws an ArchiveError. */
async function checkCarriedBytes(
  { renderer }: Services,
  folder: string,
  { sha256: hash, kind }: Record<string, unknown>,
): Promise<void> {
  const bytes = await readFile(join(folder, hash as string)).catch(() => {
    throw new ArchiveError(`Bytes that treatments carry are missing in the archive (${hash as string}).`);
  });
  const problem = await renderer.check(kind as CarriedKind, bytes);
  if (problem !== null)
    throw new ArchiveError(`What a treatment in the archive carries cannot be read: ${problem}`);
}

/** One series that somebody gave: under new ids, so that it comes in beside one that is here, and twice. */
class OfSeries implements Kind {
  readonly folder: string;
  private readonly fresh = new Map<string, string>();
  private readonly ids: Record<'series' | 'photographs' | 'takes' | 'looks', string[]> = {
    series: [],
    photographs: [],
    takes: [],
    looks: [],
  };
  readonly sources: PictureSource[] = [];
  private readonly histories = new Histories();
  /** What the states of each take carry, by hash. */
  private readonly carried = new Map<string, Map<string, Carried>>();

  get seriesId(): string {
    return this.ids.series[0];
  }

  constructor(private readonly services: Services) {
    this.folder = newFolder(join(services.config.cacheFolder, 'uploads'));
  }

  async begin({ series }: Head): Promise<void> {
    if (series.length !== 1) throw new ArchiveError('The package does not hold one series.');
  }

  private freshId(of: string): string {
    const key = of.toLowerCase();
    const known = this.fresh.get(key) ?? randomUUID();
    this.fresh.set(key, known);
    return known;
  }

  /** The same with other ids, however they are written. */
  private withFreshIds(value: unknown): unknown {
    if (typeof value === 'string') return UUID.test(value) ? this.freshId(value) : value;
    if (Array.isArray(value)) return value.map(each => this.withFreshIds(each));
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, this.withFreshIds(each)]));
  }

  async row(table: ArchivedTable, line: string): Promise<string> {
    const row = packageRow(table, this.withFreshIds(lineOf(table, line)));
    if (table.name === 'carried') await checkCarriedBytes(this.services, this.folder, row);
    if (table.name in this.ids) this.ids[table.name as keyof typeof this.ids].push(row.id as string);
    if (table.name === 'photographs') Object.assign(row, await this.factsOf(row));
    if (table.name === 'takes') this.histories.expect(row);
    if (table.name === 'take_states') {
      const treatment = this.histories.read(row);
      // Told of by what stands in it, not by what is said of it.
      Object.assign(row, toldOf(treatment));
      this.noteCarried(row.take_id as string, treatment);
    }
    if (table.name === 'looks') row.treatment = treatmentIn(row.treatment, `the look ${row.name as string}`);
    return JSON.stringify(row);
  }

  private noteCarried(takeId: string, treatment: Treatment): void {
    const known = this.carried.get(takeId) ?? new Map<string, Carried>();
    for (const each of carriedBy(treatment)) known.set(each.reference.sha256, each);
    this.carried.set(takeId, known);
  }

  whole(): void {
    this.histories.end();
  }

  /** What a photograph is, by its own bytes. */
  private async factsOf({ sha256: hash, page, title }: Record<string, unknown>) {
    const { pictures } = this.services;
    const path = join(this.folder, hash as string);
    await access(path).catch(() => {
      throw new ArchiveError(`The original of “${title as string}” is missing in the package.`);
    });
    try {
      const { mediaType, ...facts } = await pictures.inspect(path, page as number);
      const source: PictureSource = { ...facts, mediaType, sha256: hash as string };
      const damage = await pictures.admit(source, path);
      this.sources.push(source);
      return { ...facts, media_type: mediaType, damage };
    } catch (error) {
      if (!(error instanceof PictureError)) throw error;
      throw new ArchiveError(`The original of “${title as string}” ${error.message}.`);
    }
  }

  async end(_head: Head, transaction: Transaction): Promise<void> {
    const [seriesId] = this.ids.series;
    const photographs = await Photograph.findAll({ where: { id: this.ids.photographs }, transaction });
    if (this.ids.series.length !== 1 || photographs.some(p => p.seriesId !== seriesId)) {
      throw new ArchiveError('The package does not hold one series.');
    }
    const takes = await Take.findAll({ where: { id: this.ids.takes }, transaction });
    const inPackage = new Set(this.ids.photographs);
    if (takes.some(t => !inPackage.has(t.photographId)))
      throw new ArchiveError('A take in the package has no photograph.');
    for (const photograph of photographs) {
      const own = takes.filter(t => t.photographId === photograph.id);
      if (!own.some(t => t.id === photograph.currentTakeId)) {
        throw new ArchiveError(`“${photograph.title}” has no take in the package.`);
      }
    }
    const { sequelize } = this.services;
    for (const [take, carried] of this.carried) {
      await referToCarried(sequelize, { take }, [...carried.values()], transaction);
    }
    for (const look of await KeptLook.findAll({ where: { id: this.ids.looks }, transaction })) {
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

/** Looks at the head, and then goes on as the archive wants it. */
class ByHead implements Taking {
  private of: Kind | null = null;
  readonly folder: string;
  private readonly ofSeries: OfSeries;
  constructor(private readonly services: Services) {
    this.ofSeries = new OfSeries(services);
    this.folder = this.ofSeries.folder;
  }
  get seriesId(): string {
    return this.ofSeries.seriesId;
  }
  get sources(): readonly PictureSource[] {
    return this.ofSeries.sources;
  }
  async begin(head: Head, transaction?: Transaction): Promise<void> {
    this.of ??= head.of === 'series' ? this.ofSeries : new OfShelf(this.services, this.folder);
    await this.of.begin(head, transaction);
  }
  row(table: ArchivedTable, line: string) {
    return this.of!.row(table, line);
  }
  whole(head: Head): void {
    this.of!.whole(head);
  }
  end(head: Head, transaction: Transaction): Promise<void> {
    return this.of!.end(head, transaction);
  }
}

/**
 * Takes an archive in, of whichever kind it is. Throws an ArchiveError, or what `signal` says; then nothing has changed.
 */
export async function takeIn(services: Services, bytes: Readable, signal?: AbortSignal): Promise<TakenIn> {
  const taking = new ByHead(services);
  const taken = await readArchive(services.sequelize, bytes, taking, signal);
  const ahead = async () => {
    for (const source of taking.sources) await services.pictures.warm(source);
  };
  ahead().catch((error: unknown) => services.log.warn({ err: error }, 'sizes not made ahead'));
  if (taken.of === 'shelf') return taken;
  const [{ title }] = taken.series;
  return { ...taken, series: [{ id: taking.seriesId, title }] };
}
