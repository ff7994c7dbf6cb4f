import { readConfig } from './config';
import { needThisVersion } from './data/migrate';
import { openQueue } from './jobs/queue';
import { workOnBatches } from './jobs/batch';
import { workOnSendOuts } from './jobs/send-out';
import { openServices } from './services';

/** Takes part in the long work of a server elsewhere that has the same DATABASE_URL. */
async function main(): Promise<void> {
  const config = readConfig(process.env);
  const services = await openServices(config);
  await needThisVersion(services.sequelize);
  const queue = await openQueue(config.databaseUrl, services.log);
  await workOnSendOuts(services, queue);
  await workOnBatches(services, queue);
  process.stdout.write('Working on what is sent out. Ctrl-C ends it.\n');
  const stop = async () => {
    services.beginClosing();
    await queue.close().catch(() => undefined);
    await services.close().catch(() => undefined);
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());
}

main().catch((error: Error) => {
  process.stderr.write(`The worker could not start: ${error.message}\n`);
  process.exit(1);
});
