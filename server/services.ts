import { setMaxListeners } from 'node:events';
import { createWriteStream } from 'node:fs';
import { mkdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { pino, type Logger } from 'pino';
import type { Sequelize } from 'sequelize';
import type { Config } from './config';
import { readBlob } from './data/blobs';
import { connect } from './data/models';
import { FileCache } from './pictures/cache';
import { PictureStore } from './pictures/store';
import { Renderer } from './render/renderer';

/** What the parts of a running server share. */
export interface Services {
  config: Config;
  log: Logger;
  sequelize: Sequelize;
  pictures: PictureStore;
  renders: FileCache;
  renderer: Renderer;
  /** Aborted when all is about to be closed: long work ends, and is left to be taken up. */
  closing: AbortSignal;
  beginClosing: () => void;
  close: () => Promise<void>;
}

/** A function that gives the path of an original, fetched from the database where it is not on disk. */
function originalsIn(folder: string, sequelize: Sequelize) {
  return async (sha256: string): Promise<string> => {
    const path = join(folder, sha256);
    if (await stat(path).catch(() => null)) return path;
    await mkdir(folder, { recursive: true });
    const part = `${path}.${process.pid}.${Math.random().toString(36).slice(2)}.part`;
    try {
      await pipeline(readBlob(sequelize, sha256), createWriteStream(part));
      await rename(part, path);
    } finally {
      await rm(part, { force: true });
    }
    return path;
  };
}

/** Connects to the database and makes the caches and the render threads. */
export async function openServices(config: Config): Promise<Services> {
  const log = pino({ level: config.logLevel });
  const sequelize = connect(config.databaseUrl);
  await sequelize.authenticate();
  const pixels = new FileCache(join(config.cacheFolder, 'pixels'));
  const renders = new FileCache(join(config.cacheFolder, 'renders'));
  const original = originalsIn(join(config.cacheFolder, 'originals'), sequelize);
  const renderer = new Renderer(config.bandWorker);
  const pictures = new PictureStore(pixels, original, {
    decode: (path, facts) => renderer.decode(path, facts),
    resize: (of, width, height) => renderer.resize(of, width, height),
  });
  const closing = new AbortController();
  setMaxListeners(0, closing.signal);
  void pixels.prune().catch(error => log.warn({ err: error }, 'cache not pruned'));
  return {
    config,
    log,
    sequelize,
    pictures,
    renders,
    renderer,
    closing: closing.signal,
    beginClosing: () => closing.abort(new Error('the server is being stopped')),
    close: async () => {
      await pictures.close();
      await renderer.close();
      await sequelize.close();
    },
  };
}
