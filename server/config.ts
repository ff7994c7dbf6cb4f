import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { z } from 'zod';

const environment = z.object({
  DATABASE_URL: z.url({ protocol: /^postgres(ql)?$/, error: 'must be the address of a PostgreSQL database' }),
  LAMPWASH_HOME: z.string().default('data'),
  LAMPWASH_PORT: z.coerce.number().int().min(0).max(65535).default(4870),
  LAMPWASH_HOST: z
    .enum(['127.0.0.1', 'localhost', '::1'], 'only loopback addresses are served')
    .default('127.0.0.1'),
  LAMPWASH_LOG: z.enum(['silent', 'warn', 'info']).default('warn'),
  LAMPWASH_DEMO: z.enum(['0', '1']).default('1'),
  LAMPWASH_CHECK: z.enum(['0', '1']).default('0'),
});

export interface Config {
  databaseUrl: string;
  /** Folder for what can be computed again. */
  cacheFolder: string;
  host: string;
  port: number;
  logLevel: 'silent' | 'warn' | 'info';
  demo: boolean;
  /** Answers are checked against the contract: in tests and in development. */
  checkAnswers: boolean;
  /** The built script of the render threads. */
  bandWorker: string;
}

/** Reads the environment; throws an Error whose message names the variable that is wrong. */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const read = environment.safeParse(env);
  if (!read.success) {
    const [issue] = read.error.issues;
    throw new Error(`${issue.path.join('.')}: ${issue.message}`);
  }
  const e = read.data;
  return {
    databaseUrl: e.DATABASE_URL,
    cacheFolder: resolve(e.LAMPWASH_HOME, 'cache'),
    host: e.LAMPWASH_HOST,
    port: e.LAMPWASH_PORT,
    logLevel: e.LAMPWASH_LOG,
    demo: e.LAMPWASH_DEMO === '1',
    checkAnswers: e.LAMPWASH_CHECK === '1',
    bandWorker: fileURLToPath(new URL('./band-worker.mjs', import.meta.url)),
  };
}
