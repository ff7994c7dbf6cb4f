import { spawn } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureBuilt, ensureDebian, ensurePackages, root } from './ensure.mjs';
import { ensurePostgres } from './cluster/binaries.mjs';
import { startCluster } from './cluster/cluster.mjs';

/** Throw-away servers for tests, measurements and pictures. */

export const CHROMIUM = '/usr/bin/chromium';

export function ensureChromium() {
  ensureDebian(['chromium'], () => existsSync(CHROMIUM));
}

/** How headless Chromium is started: no sandbox as root, and nothing that calls out. */
export const chromiumOptions = {
  executablePath: CHROMIUM,
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
};

/** Runs work with a cluster in a folder of its own; both are gone afterwards. */
export async function withCluster(work) {
  const home = mkdtempSync(join(tmpdir(), 'lampwash-'));
  // The database runs as another user when this runs as root.
  chmodSync(home, 0o755);
  const cluster = await startCluster(home, { quick: true });
  const end = () => {
    cluster.stop();
    rmSync(home, { recursive: true, force: true });
  };
  const interrupted = () => {
    end();
    process.exit(130);
  };
  process.once('SIGINT', interrupted);
  process.once('SIGTERM', interrupted);
  try {
    return await work({ url: cluster.url, home });
  } finally {
    process.off('SIGINT', interrupted);
    process.off('SIGTERM', interrupted);
    end();
  }
}

/** Runs work with a browser page's worth of application: the built server with the demo, on a free port. */
export async function withServer(work) {
  ensurePackages();
  ensurePostgres();
  ensureChromium();
  ensureBuilt();
  return withCluster(async ({ url: database, home }) => {
    const server = spawn(process.execPath, [join(root, 'dist/server/main.mjs')], {
      env: { ...process.env, DATABASE_URL: database, LAMPWASH_HOME: home, LAMPWASH_PORT: '0' },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    const ended = new Promise(done => server.once('exit', done));
    try {
      const url = await new Promise((done, fail) => {
        server.stdout.on('data', data => {
          const address = /http:\/\/[\d.]+:\d+/.exec(String(data));
          if (address) done(address[0]);
        });
        void ended.then(() => fail(new Error('the server ended')));
      });
      return await work(url);
    } finally {
      server.kill('SIGTERM');
      await ended;
    }
  });
}
