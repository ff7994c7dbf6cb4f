import { isIP } from 'node:net';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { z } from 'zod';

const flag = z.enum(['0', '1']);
const path = z.string().min(1);

const environment = z.object({
  DATABASE_URL: z.url({ protocol: /^postgres(ql)?$/, error: 'must be the address of a PostgreSQL database' }),
  LAMPWASH_HOME: z.string().default('data'),
  LAMPWASH_PORT: z.coerce.number().int().min(0).max(65535).default(4870),
  LAMPWASH_HOST: z.string().min(1).max(253).default('127.0.0.1'),
  LAMPWASH_NAMES: z.string().default(''),
  LAMPWASH_PASSPHRASE: z.string().min(12, 'must have at least 12 characters').max(1000).optional(),
  LAMPWASH_TLS_CERT: path.optional(),
  LAMPWASH_TLS_KEY: path.optional(),
  LAMPWASH_BEHIND_PROXY: flag.default('0'),
  LAMPWASH_PROXIES: z.string().default(''),
  LAMPWASH_LOG: z.enum(['silent', 'warn', 'info']).default('warn'),
  LAMPWASH_DEMO: flag.default('1'),
  LAMPWASH_WORK: flag.default('1'),
  LAMPWASH_CHECK: flag.default('0'),
  LAMPWASH_BACKUPS: path.optional(),
  LAMPWASH_BACKUP_HOURS: z.coerce.number().int().min(1).max(720).default(24),
  LAMPWASH_BACKUPS_KEPT: z.coerce.number().int().min(1).max(365).default(7),
});

export interface Config {
  databaseUrl: string;
  /** Folder for what can be computed again. */
  cacheFolder: string;
  host: string;
  port: number;
  /** Names, beside its address, under which others reach the server. */
  names: string[];
  /** What must be given before anything is answered; null where everybody on this machine may use the server. */
  passphrase: string | null;
  /** Paths of the certificate and its key, where they are given. */
  tls: { cert: string; key: string } | null;
  /** Folder of the certificate that is made here. */
  tlsFolder: string;
  /**
   * How requests come: plainly, from this machine alone; over TLS that ends here; or over TLS that ends at a proxy before
   * it.
   */
  transport: 'plain' | 'tls' | 'proxy';
  /** Addresses of proxies that are believed, beside those on this machine. */
  proxies: string[];
  logLevel: 'silent' | 'warn' | 'info';
  demo: boolean;
  /** The server makes what is sent out itself, and does not leave it to workers elsewhere. */
  works: boolean;
  /** Where backups of the shelf are made by themselves, every so many hours, and how many are kept; null where none are. */
  backups: { folder: string; hours: number; kept: number } | null;
  /** Answers are checked against the contract: in tests and in development. */
  checkAnswers: boolean;
  /** The built script of the render threads. */
  bandWorker: string;
  /** The built script of the thread that reads an archive's rows. */
  rowWorker: string;
  /** The built script of the threads that draw sheets. */
  sheetWorker: string;
}

/** Addresses that only this machine reaches. */
export const OWN_HOSTS: readonly string[] = ['127.0.0.1', 'localhost', '::1'];

/** Reads the environment; throws an Error whose message names the variable that is wrong. */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const read = environment.safeParse(env);
  if (!read.success) {
    const [issue] = read.error.issues;
    throw new Error(`${issue.path.join('.')}: ${issue.message}`);
  }
  const e = read.data;
  const { LAMPWASH_TLS_CERT: cert, LAMPWASH_TLS_KEY: key, LAMPWASH_PASSPHRASE: passphrase = null } = e;
  const isOwnAlone = OWN_HOSTS.includes(e.LAMPWASH_HOST);
  const isBehindProxy = e.LAMPWASH_BEHIND_PROXY === '1';
  if ((cert === undefined) !== (key === undefined)) {
    throw new Error(`${cert ? 'LAMPWASH_TLS_KEY' : 'LAMPWASH_TLS_CERT'}: certificate and key go together`);
  }
  if (!isOwnAlone && passphrase === null) {
    throw new Error(
      `LAMPWASH_PASSPHRASE: must be set where others reach the server (LAMPWASH_HOST is ${e.LAMPWASH_HOST})`,
    );
  }
  const names = e.LAMPWASH_NAMES.split(/[\s,]+/).filter(Boolean);
  if (isBehindProxy && (passphrase === null || !names.length)) {
    throw new Error('LAMPWASH_BEHIND_PROXY: LAMPWASH_PASSPHRASE and LAMPWASH_NAMES must be set too');
  }
  const proxies = e.LAMPWASH_PROXIES.split(/[\s,]+/).filter(Boolean);
  const unknown = proxies.find(each => !/^[\da-f.:]+(\/\d{1,3})?$/i.test(each) || !isIP(each.split('/')[0]));
  if (unknown) throw new Error(`LAMPWASH_PROXIES: ${unknown} is no address`);
  if (isBehindProxy && !isOwnAlone && !proxies.length) {
    throw new Error(
      `LAMPWASH_PROXIES: must name the addresses of the proxies where they are not on this machine (LAMPWASH_HOST is ${e.LAMPWASH_HOST})`,
    );
  }
  return {
    databaseUrl: e.DATABASE_URL,
    cacheFolder: resolve(e.LAMPWASH_HOME, 'cache'),
    host: e.LAMPWASH_HOST,
    port: e.LAMPWASH_PORT,
    names: names.map(name => name.toLowerCase()),
    passphrase,
    tls: cert && key ? { cert, key } : null,
    tlsFolder: join(resolve(e.LAMPWASH_HOME), 'tls'),
    transport: isBehindProxy ? 'proxy' : isOwnAlone && !cert ? 'plain' : 'tls',
    proxies,
    logLevel: e.LAMPWASH_LOG,
    demo: e.LAMPWASH_DEMO === '1',
    works: e.LAMPWASH_WORK === '1',
    backups: e.LAMPWASH_BACKUPS
      ? { folder: resolve(e.LAMPWASH_BACKUPS), hours: e.LAMPWASH_BACKUP_HOURS, kept: e.LAMPWASH_BACKUPS_KEPT }
      : null,
    checkAnswers: e.LAMPWASH_CHECK === '1',
    bandWorker: fileURLToPath(new URL('./band-worker.mjs', import.meta.url)),
    rowWorker: fileURLToPath(new URL('./row-worker.mjs', import.meta.url)),
    sheetWorker: fileURLToPath(new URL('./sheet-worker.mjs', import.meta.url)),
  };
}
