import PgBoss from 'pg-boss';
import type { Logger } from 'pino';

/** The queue of long work, in the same database as all else. */
export interface Queue {
  boss: PgBoss;
  /** Asks for a send-out to be made. */
  askForSendOut: (id: string) => Promise<void>;
  close: () => Promise<void>;
}

export const SEND_OUT = 'send-out';

export async function openQueue(databaseUrl: string, log: Logger): Promise<Queue> {
  const boss = new PgBoss({ connectionString: databaseUrl, schema: 'jobs', max: 4 });
  boss.on('error', error => log.warn({ err: error }, 'queue'));
  await boss.start();
  await boss.createQueue(SEND_OUT);
  return {
    boss,
    askForSendOut: async id => {
      await boss.send(SEND_OUT, { id }, { retryLimit: 2, retryDelay: 1, expireInMinutes: 30 });
    },
    close: () => boss.stop({ graceful: true, timeout: 5000 }),
  };
}
