import PgBoss from 'pg-boss';
import type { Client } from 'pg';
import type { Logger } from 'pino';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';

/** The queue of long work, in the same database as all else. */
export interface Queue {
  /** Asks for send-outs to be made: when the transaction is committed, they are in the queue, and else not. */
  askForSendOuts: (ids: readonly string[], transaction: Transaction) => Promise<void>;
  /** Has the worker here look at the queue at once, when what was asked for is committed. */
  wake: () => void;
  /** Send-outs that wait while nothing in the queue is there to make them. */
  forgotten: (sequelize: Sequelize, transaction: Transaction) => Promise<string[]>;
  /** Makes what is asked for, here. What throws is asked for again. */
  workOn: (make: (id: string) => Promise<void>) => Promise<void>;
  close: () => Promise<void>;
}

const SCHEMA = 'jobs';
const SEND_OUT = 'send-out';
/** Send-outs made at once: while one is looked at in one thread, another's bands keep the others busy. */
const AT_ONCE = 2;
/** Whoever took a send-out out of the queue so long ago and has not begun it is gone. */
const TAKEN_SECONDS = 60;

export async function openQueue(databaseUrl: string, log: Logger): Promise<Queue> {
  const boss = new PgBoss({ connectionString: databaseUrl, schema: SCHEMA, max: 4 });
  boss.on('error', error => log.warn({ err: error }, 'queue'));
  await boss.start();
  await boss.createQueue(SEND_OUT);
  const workers: string[] = [];
  const wake = () => {
    for (const id of workers) boss.notifyWorker(id);
  };
  return {
    askForSendOuts: async (ids, transaction) => {
      // eslint-disable-next-line no-restricted-syntax -- Sequelize does not say which connection a transaction has
      const { connection } = transaction as unknown as { connection: Client };
      const options = { retryLimit: 2, retryDelay: 1, expireInSeconds: 30 * 60 };
      await boss.insert(
        ids.map(id => ({ name: SEND_OUT, data: { id }, ...options })),
        { db: { executeSql: (text, values) => connection.query(text, values) } },
      );
    },
    wake,
    forgotten: async (sequelize, transaction) => {
      const rows = await sequelize.query<{ id: string }>(
        `SELECT s.id FROM send_outs s WHERE s.state = 'waiting' AND NOT EXISTS (
           SELECT 1 FROM ${SCHEMA}.job j
           WHERE j.name = $1 AND j.data->>'id' = s.id::text AND (j.state IN ('created', 'retry')
             OR j.state = 'active' AND j.started_on > now() - make_interval(secs => $2)))
         FOR UPDATE OF s SKIP LOCKED`,
        { type: QueryTypes.SELECT, bind: [SEND_OUT, TAKEN_SECONDS], transaction },
      );
      return rows.map(row => row.id);
    },
    workOn: async make => {
      for (let k = 0; k < AT_ONCE; k++) {
        const worker = await boss.work<{ id: string }>(
          SEND_OUT,
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
