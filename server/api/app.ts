import { randomBytes } from 'node:crypto';
import express, { type Express } from 'express';
import helmet from 'helmet';
import { getHealth } from '../../contract/health';
import { BUILD_HEADER } from '../../contract/limits';
import type { Queue } from '../jobs/queue';
import type { SignIns } from '../data/sign-ins';
import type { Services } from '../services';
import { followDisk } from '../pictures/disk';
import { importRoutes } from './import';
import { photographRoutes } from './photographs';
import { putAsideRoutes } from './put-aside';
import { onlyOwnPages } from './own-pages';
import { letGoBy } from './let-go-by';
import { answerProblems, notFound, Problem } from './problem';
import { implement, mount, openApi, type Implemented } from './route';
import { sendOutRoutes } from './send-outs';
import { lookTableRoutes } from './look-tables';
import { sheetRoutes } from './sheets';
import { archiveRoutes } from './archives';
import { areaFileRoutes } from './area-files';
import { treatmentFileRoutes } from './treatment-files';
import { onlySignedIn } from './sign-in';
import { seriesRoutes } from './series';
import { batchRoutes } from './batches';
import { demoRoutes, type Demo } from './demo';
import { evennessRoutes } from './evenness';
import { openInterface } from './interface';
import { lookRoutes } from './looks';
import { sharedLookRoutes } from './shared-looks';
import { pigmentRoutes } from './pigments';
import { carriedRoutes } from './carried';
import { tableRoutes } from './tables';
import { takeRoutes } from './takes';
import { tokenRoutes } from './tokens';

function healthRoute({ sequelize, config }: Services): Implemented {
  const isFull = followDisk(config.cacheFolder);
  return implement(getHealth, async (_input, _req, res) => {
    const database = await sequelize.query('SELECT 1').then(
      () => true,
      () => false,
    );
    const full = await isFull();
    res.status(database ? 200 : 503);
    return {
      name: 'lampwash' as const,
      ok: database && !full,
      database,
      disk: full ? ('full' as const) : ('well' as const),
      passphrase: config.passphrase !== null,
    };
  });
}

/** The engine's worker compiles its kernels from WebAssembly; no page does. */
const mayCompile = (url: string): boolean => /^\/assets\/worker-[\w-]+\.js$/.test(url);

/** Whoever comes in once over TLS may always be asked to. */
const hasKnownCertificate = ({ transport, tls }: Services['config']): boolean =>
  transport === 'proxy' || (transport === 'tls' && tls !== null);

/**
 * The whole HTTP application.
 * @param signIns who may come in, where a passphrase is set
 */
export function createApp(
  services: Services,
  queue: Queue,
  interfaceFolder: string,
  signIns: SignIns | null = null,
  demo: Demo | null = null,
): Express {
  const app = express();
  if (services.config.transport === 'proxy') app.set('trust proxy', ['loopback', ...services.config.proxies]);
  app.disable('x-powered-by');
  app.set('query parser', 'simple');
  app.set('case sensitive routing', true);
  app.use(letGoBy);
  app.use((_req, res, next) => {
    res.locals.nonce = randomBytes(16).toString('base64');
    next();
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: [req => (mayCompile(req.url ?? '') ? "'self' 'wasm-unsafe-eval'" : "'self'")],
          styleSrc: [
            "'self'",
            (_req, res) => `'nonce-${(res as express.Response<unknown, { nonce: string }>).locals.nonce}'`,
          ],
          imgSrc: ["'self'", 'blob:', 'data:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          workerSrc: ["'self'"],
          objectSrc: ["'none'"],
          baseUri: ["'none'"],
          formAction: ["'self'"],
          frameAncestors: ["'none'"],
        },
      },
      // With these a page may share memory with its workers.
      crossOriginEmbedderPolicy: true,
      crossOriginOpenerPolicy: { policy: 'same-origin' },
      // Of a certificate that was made here a browser must be able to say that it is not known.
      strictTransportSecurity: hasKnownCertificate(services.config) && {
        maxAge: 31_536_000,
        includeSubDomains: false,
      },
      // Without it a form would not say where it comes from.
      referrerPolicy: { policy: 'same-origin' },
    }),
  );
  app.use(onlyOwnPages(services.config));
  if (signIns) app.use(onlySignedIn(signIns, interfaceFolder));
  const { build, serve } = openInterface(interfaceFolder);
  app.use('/api', async (_req, res, next) => {
    res.set('Cache-Control', 'no-store');
    const id = await build;
    if (id) res.set(BUILD_HEADER, id);
    next();
  });

  const routes = [
    healthRoute(services),
    ...seriesRoutes(services),
    ...photographRoutes(services),
    ...importRoutes(services),
    ...takeRoutes(services),
    ...carriedRoutes(services),
    ...tableRoutes(services),
    ...pigmentRoutes(),
    ...lookRoutes(services),
    ...sharedLookRoutes(services, queue),
    ...evennessRoutes(services),
    ...batchRoutes(services, queue),
    ...sendOutRoutes(services, queue),
    ...sheetRoutes(services),
    ...lookTableRoutes(services),
    ...treatmentFileRoutes(services),
    ...areaFileRoutes(services),
    ...putAsideRoutes(services),
    ...demoRoutes(demo),
    ...archiveRoutes(services),
    ...tokenRoutes(signIns),
  ];
  const description = openApi(
    routes.map(r => r.route),
    signIns !== null,
  );
  app.get('/api/openapi.json', (_req, res) => {
    res.json(description);
  });
  app.use(
    mount(routes, {
      checked: services.config.checkAnswers,
      readBody: text => services.renderer.readBody(text),
    }),
  );
  app.use('/api', () => {
    throw notFound('resource');
  });
  serve(app);
  app.use((req, res) => {
    res.set('Allow', 'GET, HEAD');
    throw new Problem(405, `${req.method} is not answered here.`);
  });
  app.use(answerProblems(services.log));
  return app;
}
