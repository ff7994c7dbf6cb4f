import PgBoss from 'pg-boss';
import type { Client } from 'pg';
import type { Logger } from 'pino';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';

/** The queue of long work, in the same database as all else. */
export interface Queue {
  /** Asks for work by the ids of its rows: when the transaction is committed, it is in the queue, and else not. */
  ask: (work: WorkName, ids: readonly string[], transaction: Transaction) => Promise<void>;
  /** Has the worker here look at the queue at once, when what was asked for is committed. */
  wake: () => void;
  /** Rows that want work while nothing in the queue is there to do it. */
  forgotten: (work: WorkName, sequelize: Sequelize, transaction: Transaction) => Promise<string[]>;
  /** Does what is asked for, here. What throws is asked for again. */
  workOn: (work: WorkName, make: (id: string) => Promise<void>) => Promise<void>;
  close: () => Promise<void>;
}

const SCHEMA = 'jobs';

interface Work {
  /** The table of its rows, and the state in which one wants work. */
  table: string;
  wants: string;
  /** Done at once: while one is looked at in one thread, another's bands keep the others busy. */
  atOnce: number;
}
const works = {
  'send-out': { table: 'send_outs', wants: 'waiting', atOnce: 2 },
  batch: { table: 'batches', wants: 'running', atOnce: 1 },
} as const satisfies Record<string, Work>;
export type WorkName = keyof typeof works;

/** A moment before all work, in seconds: what is counted from it stays small. */
const SINCE = Date.UTC(2026, 0) / 1000;

/** Whoever took work out of the queue so long ago and has not begun it is gone. */
const TAKEN_SECONDS = 60;

export async function openQueue(databaseUrl: string, log: Logger): Promise<Queue> {
  const boss = new PgBoss({ connectionString: databaseUrl, schema: SCHEMA, max: 4 });
  boss.on('error', error => log.warn({ err: error }, 'queue'));
  await boss.start();
  for (const work of Object.keys(works)) await boss.createQueue(work);
  const workers: string[] = [];
  const wake = () => {
    for (const id of workers) boss.notifyWorker(id);
  };
  return {
    ask: async (work, ids, transaction) => {
      // eslint-disable-next-line no-restricted-syntax -- Sequelize does not say which connection a transaction has
      const { connection } = transaction as unknown as { connection: Client };
      const options = { retryLimit: 2, retryDelay: 1, expireInSeconds: 30 * 60 };
      // What was asked for first is done first, and what was asked for together in its order.
      const now = Math.floor(Date.now() / 1000) - SINCE;
      await boss.insert(
        ids.map((id, i) => ({ name: work, data: { id }, priority: -(now + i), ...options })),
        { db: { executeSql: (text, values) => connection.query(text, values) } },
      );
    },
    wake,
    forgotten: async (work, sequelize, transaction) => {
      const { table, wants } = works[work];
      const rows = await sequelize.query<{ id: string }>(
        `SELECT s.id FROM ${table} s WHERE s.state = $3 AND NOT EXISTS (
           SELECT 1 FROM ${SCHEMA}.job j
           WHERE j.name = $1 AND j.data->>'id' = s.id::text AND (j.state IN ('created', 'retry')
             OR j.state = 'active' AND j.started_on > now() - make_interval(secs => $2)))
         FOR UPDATE OF s SKIP LOCKED`,
        { type: QueryTypes.SELECT, bind: [work, TAKEN_SECONDS, wants], transaction },
      );
      return rows.map(row => row.id);
    },
    workOn: async (work, make) => {
      for (let k = 0; k < works[work].atOnce; k++) {
        const worker = await boss.work<{ id: string }>(
          work,
          { batchSize: 1, pollingIntervalSeconds: 0.5 },
          async ([job]) => {
            // Where there was one there may be another: no pause after it.
            wake();
            await make(job.data.id);
          },
        );
        workers.push(worker);
      }
    },
    close: () => boss.stop({ graceful: true, timeout: 5000 }),
  };
}
