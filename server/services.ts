import { setMaxListeners } from 'node:events';
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { pino, type Logger } from 'pino';
import type { Sequelize } from 'sequelize';
import type { Config } from './config';
import { readBlob } from './data/blobs';
import { connect } from './data/models';
import { Backups } from './jobs/backups';
import { FileCache } from './pictures/cache';
import { PictureStore } from './pictures/store';
import { Renderer } from './render/renderer';
import { Threads } from './render/threads';
import type { Sheet } from './sheets/draw-sheet';
import type { PaperFile } from './sheets/paper';

/** What the parts of a running server share. */
export interface Services {
  config: Config;
  log: Logger;
  sequelize: Sequelize;
  pictures: PictureStore;
  /** A path at which an original's bytes can be read. */
  original: (sha256: string) => Promise<string>;
  renders: FileCache;
  /** All folders of files that can be had again. */
  caches: readonly FileCache[];
  renderer: Renderer;
  /** Threads that draw sheets to print. */
  sheets: Threads<Sheet, PaperFile[]>;
  /** Backups that are made by the clock; null where none are. */
  backups: Backups | null;
  /** Aborted when all is about to be closed: long work ends, and is left to be taken up. */
  closing: AbortSignal;
  beginClosing: () => void;
  close: () => Promise<void>;
}

/** What a log keeps of an error: drivers hang all that they know to theirs. */
function wrongness(error: unknown) {
  if (!(error instanceof Error)) return String(error);
  const { name, message, stack } = error;
  return { name, message, code: (error as NodeJS.ErrnoException).code, stack };
}

const GIGABYTE = 1024 ** 3;
/** One that takes long keeps the next from nothing. */
const SHEETS_AT_ONCE = 2;

/** Connects to the database and makes the caches and the render threads. */
export async function openServices(config: Config): Promise<Services> {
  const log = pino({ level: config.logLevel, serializers: { err: wrongness } });
  await mkdir(config.cacheFolder, { recursive: true });
  const sequelize = connect(config.databaseUrl);
  await sequelize.authenticate();
  const cache = (name: string, gigabytes: number) =>
    new FileCache(join(config.cacheFolder, name), gigabytes * GIGABYTE);
  const pixels = cache('pixels', 12);
  const renders = cache('renders', 1);
  const originals = cache('originals', 4);
  const uploads = cache('uploads', 16);
  const original = (sha256: string) =>
    originals.file(sha256, 'original', () => Promise.resolve(readBlob(sequelize, sha256)));
  const renderer = new Renderer(config.bandWorker);
  const pictures = new PictureStore(pixels, original, {
    inspect: (path, page) => renderer.inspect(path, page),
    decode: (path, facts) => renderer.decode(path, facts),
    resize: (of, width, height) => renderer.resize(of, width, height),
  });
  const sheets = new Threads<Sheet, PaperFile[]>(config.sheetWorker, 0, { size: SHEETS_AT_ONCE });
  const closing = new AbortController();
  setMaxListeners(0, closing.signal);
  return {
    config,
    log,
    sequelize,
    pictures,
    original,
    renders,
    caches: [pixels, renders, originals, uploads],
    renderer,
    sheets,
    backups: config.backups && new Backups(sequelize, config.backups),
    closing: closing.signal,
    beginClosing: () => closing.abort(new Error('the server is being stopped')),
    close: async () => {
      await pictures.close();
      await renderer.close();
      await sheets.close();
      await sequelize.close();
    },
  };
}
