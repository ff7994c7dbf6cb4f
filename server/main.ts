import { createServer } from 'node:http';
import { createServer as createTlsServer } from 'node:https';
import { fileURLToPath } from 'node:url';
import { join } from 'node:path';
import { FIRST, layOut, seedDemo } from '../demo/seed';
import { createApp } from './api/app';
import { removeLeft } from './archive/staging';
import { readConfig } from './config';
import { bringUpToDate } from './data/migrate';
import { openQueue } from './jobs/queue';
import { sweepByTheClock } from './jobs/sweep';
import { workOnBatches } from './jobs/batch';
import { readWhenTaken } from './jobs/taken';
import { workOnSendOuts } from './jobs/send-out';
import { openSignIns } from './data/sign-ins';
import { openServices } from './services';
import { certificateFor } from './tls';

/** Starts the server and serves until it is told to stop. */
async function main(): Promise<void> {
  // What is kept here is its owner's alone.
  process.umask(0o077);
  const config = readConfig(process.env);
  const services = await openServices(config);
  await removeLeft(join(config.cacheFolder, 'uploads'));
  await bringUpToDate(services.sequelize);
  const queue = await openQueue(config.databaseUrl, services.log);
  if (config.works) {
    await workOnSendOuts(services, queue);
    await workOnBatches(services, queue);
  }
  sweepByTheClock(services);
  services.backups?.byTheClock();
  readWhenTaken(services).catch(error => services.log.warn({ err: error }, 'not read when they were taken'));
  const photographs = fileURLToPath(new URL('../../../demo/photographs', import.meta.url));
  if (config.demo) await seedDemo(services, photographs, what => process.stdout.write(`${what}\n`));

  const signIns =
    config.passphrase === null ? null : await openSignIns(services.sequelize, config.passphrase);
  const app = createApp(services, queue, fileURLToPath(new URL('../web', import.meta.url)), signIns, {
    layOut: () => layOut(services, photographs),
    photograph: { path: join(photographs, FIRST), name: FIRST },
  });
  const certificate = config.transport === 'tls' ? await certificateFor(config) : null;
  const server = certificate ? createTlsServer(certificate, app) : createServer(app);
  server.requestTimeout = 30 * 60_000;
  // Longer than people pause: a connection that ends just as it is used again looks like a server that is away.
  server.keepAliveTimeout = 75_000;
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(config.port, config.host, resolve);
  });
  const { port } = server.address() as { port: number };
  const host = config.host.includes(':') ? `[${config.host}]` : config.host;
  process.stdout.write(`Lamp Wash is at ${certificate ? 'https' : 'http'}://${host}:${port}\n`);
  if (certificate?.isOwn) {
    process.stdout.write(
      `Its certificate was made here; browsers ask about it once. SHA-256: ${certificate.fingerprint}\n`,
    );
  }

  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    server.close();
    server.closeIdleConnections();
    setTimeout(() => server.closeAllConnections(), 2000).unref();
    services.beginClosing();
    await queue.close().catch(() => undefined);
    await services.close().catch(() => undefined);
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());
  // Whoever started it and watches its database is gone.
  process.on('disconnect', () => void stop());
}

main().catch(error => {
  const { code, syscall, message } = error as NodeJS.ErrnoException;
  const { LAMPWASH_PORT = '4870' } = process.env;
  const text =
    code === 'EADDRINUSE'
      ? `Port ${LAMPWASH_PORT} is in use. Stop what uses it, or set LAMPWASH_PORT to another.`
      : code === 'EACCES' && syscall === 'listen'
        ? `Only root may open port ${LAMPWASH_PORT}, and the server does not run as root. Set LAMPWASH_PORT to 1024 or more, or put a proxy in front of it.`
        : `Lamp Wash could not start: ${message}`;
  process.stderr.write(`${text}\n`);
  process.exit(1);
});
