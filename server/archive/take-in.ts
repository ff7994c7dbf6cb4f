import { randomUUID } from 'node:crypto';
import { access } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { Op, type Transaction } from 'sequelize';
import { z } from 'zod';
import { carriedBy } from '../../core/treatment/carried-by';
import { TreatmentError } from '../../core/treatment/treatment';
import { parseTreatment } from '../../core/treatment/schema';
import { referToCarried } from '../data/carried';
import { toldOf, treatmentOf } from '../data/history';
import { KeptLook, Photograph, Series, Take, TakeState } from '../data/models';
import { cleanName } from '../pictures/clean-name';
import { PictureError } from '../pictures/inspect';
import type { PictureSource } from '../pictures/store';
import type { Services } from '../services';
import { ArchiveError, sha256, type Head } from './format';
import { newFolder, readArchive, type TakenIn, type Taking } from './read';
import type { ArchivedTable } from './tables';

/** What is done with an archive: a shelf's is laid beside what is there, a series' comes in as a new one. */

type Kind = Pick<Taking, 'begin' | 'row' | 'end'>;

/** A shelf's own backup: everything as it was, under its own ids. */
class OfShelf implements Kind {
  private demo: string[] = [];

  async begin({ series }: Head, transaction: Transaction): Promise<void> {
    const there = await Series.findOne({ where: { id: series.map(s => s.id) }, transaction });
    if (there) {
      throw new ArchiveError(
        `“${there.title}” of the backup is on this shelf already${there.deletedAt ? ', put aside' : ''}. A backup comes into a shelf without it: start with another LAMPWASH_HOME.`,
      );
    }
    const demo = await Series.findAll({ where: { demo: true, deletedAt: null }, transaction });
    this.demo = demo.map(s => s.id);
  }

  row(_table: ArchivedTable, line: string): string {
    return line;
  }

  /** The demo that was laid out at a first start gives way to the one of the backup; it can be put back. */
  async end({ series }: Head, transaction: Transaction): Promise<void> {
    const demos = await Series.count({ where: { demo: true, id: series.map(s => s.id) }, transaction });
    if (!demos || !this.demo.length) return;
    await Series.update({ deletedAt: new Date() }, { where: { id: { [Op.in]: this.demo } }, transaction });
  }
}

const text = (most: number) => z.string().max(most);
const name = (most: number) => z.string().min(1).max(most);
const when = z.iso.datetime({ offset: true, local: true });
const id = z.uuid();

/** Rows of a package, from somebody else: nothing in them is believed but what is checked. What pictures are is read from them anew. */
const rowSchemas: Record<string, z.ZodType<Record<string, unknown>>> = {
  carried: z.object({ sha256, kind: z.enum(['table', 'picture']) }),
  series: z.object({ id, title: name(200), caption: text(2000), cover_id: id.nullable() }),
  photographs: z.object({
    id,
    series_id: id,
    place: z.int(),
    title: name(200),
    file_name: name(500).transform(cleanName),
    sha256,
    page: z.int().min(0).max(10_000),
    taken: text(40).nullable(),
    taken_read: z.boolean(),
    camera: text(200).nullable(),
    author: text(200).nullable(),
    caption: text(2000),
    current_take_id: id.nullable(),
  }),
  takes: z.object({
    id,
    photograph_id: id,
    letter: z.string().regex(/^[A-Z]{1,3}$/),
    name: text(200),
    place: z.int(),
    revision: z.int().min(0),
    current_state: z.int().min(0),
    redo_tip: z.int().min(0),
  }),
  take_states: z.object({
    take_id: id,
    number: z.int().min(0),
    parent: z.int().min(0).nullable(),
    label: text(500),
    patch: z.unknown(),
    treatment: z.unknown(),
    patches_since: z.int().min(0),
    bytes_since: z.int().min(0),
    created_at: when,
  }),
  take_carries: z.object({ take_id: id, sha256 }),
  looks: z.object({ id, series_id: id, name: name(80), group: name(60), treatment: z.unknown() }),
  look_carries: z.object({ look_id: id, sha256 }),
};

const UUID = /\b[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}\b/g;

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
    const known = this.fresh.get(of) ?? randomUUID();
    this.fresh.set(of, known);
    return known;
  }

  async row(table: ArchivedTable, line: string): Promise<string> {
    const schema = rowSchemas[table.name];
    if (!schema) throw new ArchiveError(`A package does not hold ${table.name}.`);
    let row: Record<string, unknown>;
    try {
      row = schema.parse(JSON.parse(line.replace(UUID, of => this.freshId(of))));
    } catch (error) {
      const [issue] = error instanceof z.ZodError ? error.issues : [];
      const where = issue ? `: ${issue.path.join('.')} ${issue.message}` : '';
      throw new ArchiveError(`A row of ${table.name} in the package is not valid${where}.`);
    }
    if (table.name in this.ids) this.ids[table.name as keyof typeof this.ids].push(row.id as string);
    if (table.name === 'photographs') Object.assign(row, await this.factsOf(row));
    if (table.name === 'take_states') {
      // Told of the treatment itself when all is there.
      Object.assign(row, { kinds: [], steps: 0, looks: [], frame: null });
    }
    if (table.name === 'looks') row.treatment = this.read(row.treatment, `the look ${row.name as string}`);
    return JSON.stringify(row);
  }

  private read(treatment: unknown, of: string) {
    try {
      return parseTreatment(treatment);
    } catch (error) {
      if (!(error instanceof TreatmentError)) throw error;
      throw new ArchiveError(`The treatment of ${of} in the package is not valid: ${error.message}`);
    }
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
    for (const take of takes) await this.check(take, transaction);
    const { sequelize } = this.services;
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

  /** Every state of a take is read as any treatment is, and told of by what stands in it. */
  private async check(take: Take, transaction: Transaction): Promise<void> {
    const states = await TakeState.findAll({
      where: { takeId: take.id },
      attributes: ['number'],
      order: ['number'],
      transaction,
    });
    const numbers = new Set(states.map(s => s.number));
    if (!numbers.has(take.currentState) || !numbers.has(take.redoTip)) {
      throw new ArchiveError(`The history of take ${take.letter} in the package is not whole.`);
    }
    for (const { number } of states) {
      try {
        const treatment = await treatmentOf(take, number, transaction);
        await TakeState.update(toldOf(treatment), { where: { takeId: take.id, number }, transaction });
        await referToCarried(this.services.sequelize, { take: take.id }, carriedBy(treatment), transaction);
      } catch (error) {
        if (error instanceof ArchiveError) throw error;
        throw new ArchiveError(
          `State ${number} of take ${take.letter} in the package is not valid: ${(error as Error).message}`,
        );
      }
    }
  }
}

/** Looks at the head, and then goes on as the archive wants it. */
class ByHead implements Taking {
  private of: Kind | null = null;
  readonly folder: string;
  private readonly ofSeries: OfSeries;
  constructor(services: Services) {
    this.ofSeries = new OfSeries(services);
    this.folder = this.ofSeries.folder;
  }
  /** Bytes are needed as files for what is checked by them. */
  get keepsFiles(): boolean {
    return this.of === this.ofSeries;
  }
  get seriesId(): string {
    return this.ofSeries.seriesId;
  }
  get sources(): readonly PictureSource[] {
    return this.ofSeries.sources;
  }
  async begin(head: Head, transaction: Transaction): Promise<void> {
    this.of = head.of === 'series' ? this.ofSeries : new OfShelf();
    await this.of.begin(head, transaction);
  }
  row(table: ArchivedTable, line: string) {
    return this.of!.row(table, line);
  }
  end(head: Head, transaction: Transaction): Promise<void> {
    return this.of!.end(head, transaction);
  }
}

/** Takes an archive in, of whichever kind it is. Throws an ArchiveError; then nothing has changed. */
export async function takeIn(services: Services, bytes: Readable): Promise<TakenIn> {
  const taking = new ByHead(services);
  const taken = await readArchive(services.sequelize, bytes, taking);
  const ahead = async () => {
    for (const source of taking.sources) await services.pictures.warm(source);
  };
  ahead().catch((error: unknown) => services.log.warn({ err: error }, 'sizes not made ahead'));
  if (taken.of === 'shelf') return taken;
  const [{ title }] = taken.series;
  return { ...taken, series: [{ id: taking.seriesId, title }] };
}
