import PgBoss from 'pg-boss';
import type { Logger } from 'pino';

/** The queue of long work, in the same database as all else. */
export interface Queue {
  /** Asks for a send-out to be made. */
  askForSendOut: (id: string) => Promise<void>;
  /** Makes what is asked for, here. */
  workOn: (make: (id: string) => Promise<void>) => Promise<void>;
  close: () => Promise<void>;
}

const SEND_OUT = 'send-out';

export async function openQueue(databaseUrl: string, log: Logger): Promise<Queue> {
  const boss = new PgBoss({ connectionString: databaseUrl, schema: 'jobs', max: 4 });
  boss.on('error', error => log.warn({ err: error }, 'queue'));
  await boss.start();
  await boss.createQueue(SEND_OUT);
  let workerId: string | undefined;
  return {
    askForSendOut: async id => {
      await boss.send(SEND_OUT, { id }, { retryLimit: 2, retryDelay: 1, expireInMinutes: 30 });
      // Our own worker need not wait for its next look at the queue.
      if (workerId) boss.notifyWorker(workerId);
    },
    workOn: async make => {
      workerId = await boss.work<{ id: string }>(
        SEND_OUT,
        { batchSize: 1, pollingIntervalSeconds: 0.5 },
        async ([job]) => make(job.data.id),
      );
    },
    close: () => boss.stop({ graceful: true, timeout: 5000 }),
  };
}
