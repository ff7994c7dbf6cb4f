import type { IncomingMessage } from 'node:http';
import {
  json as readJson,
  Router,
  text as readText,
  type Request,
  type RequestHandler,
  type Response,
} from 'express';
import { z } from 'zod';
import { problemSchema } from '../../contract/common';
import { MOST_BODY } from '../../contract/limits';
import type { Read, Route } from '../../contract/route';
import { unwritable } from '../../contract/writable';
import type { Treatment } from '../../core/treatment/treatment';
import { firstIssue } from '../../core/treatment/schema';
import type { Body, ReadTreatment } from '../render/read-treatment';
import { pauseAfter } from '../pause';
import { Problem } from './problem';

type Shape = z.ZodType;
type Answer<A extends Shape | undefined> = A extends Shape ? z.input<A> : void;

/** A route of the contract with what the server does for it. */
export interface Implemented {
  route: Route;
  handle: (
    input: { params: unknown; query: unknown; body: unknown },
    req: Request,
    res: Response,
    whole: ReadTreatment | null,
  ) => Promise<unknown>;
}

/**
 * Says what the server does for a route. What `handle` gives is sent as JSON, nothing as 204; one that answers by itself
 * (bytes) gives nothing. A treatment in the request comes as `whole`, read and checked.
 */
export function implement<
  P extends Shape | undefined,
  Q extends Shape | undefined,
  B extends Shape | undefined,
  A extends Shape | undefined,
>(
  route: Route<P, Q, B, A>,
  handle: (
    input: { params: Read<P>; query: Read<Q>; body: Read<B> },
    req: Request,
    res: Response,
    whole: ReadTreatment | null,
  ) => Promise<Answer<A>>,
): Implemented {
  // eslint-disable-next-line no-restricted-syntax -- the input is read by the route's own schemas before it comes here
  return { route, handle: handle as unknown as Implemented['handle'] };
}

function read(schema: Shape | undefined, value: unknown, what: string): unknown {
  if (!schema) return undefined;
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const { path, reason } = firstIssue(result.error);
  throw new Problem(400, `The ${what} is not valid.`, path ? `${path}: ${reason}` : reason);
}

/** Before a body is parsed: when that begins, and whether it has an escape; without one it cannot hold what no text should. */
const noteBody = (req: IncomingMessage, _res: unknown, bytes: Buffer) => {
  began.set(req, performance.now());
  if (bytes.includes('\\u')) escaped.add(req);
};
const began = new WeakMap<IncomingMessage, number>();
const escaped = new WeakSet<IncomingMessage>();

function refuseUnwritable(req: Request): void {
  const found =
    unwritable(req.params) ?? unwritable(req.query) ?? (escaped.has(req) ? unwritable(req.body) : null);
  if (found) throw new Problem(400, 'The request is not valid.', found);
}

/** Answers other methods of a path that there is. */
function refuseOtherMethods(router: Router, routes: readonly Route[]): void {
  for (const path of new Set(routes.map(r => r.path))) {
    const methods = routes.filter(r => r.path === path).map(r => r.method.toUpperCase());
    const allowed = methods.includes('GET') ? [...methods, 'HEAD'] : methods;
    router.all(path, (req, res, next) => {
      if (allowed.includes(req.method)) return next();
      res.set('Allow', allowed.join(', '));
      throw new Problem(405, `${req.method} is not answered here.`);
    });
  }
}

/** What stands before a route. */
const guardsOf = ({ cookieOnly }: Route): RequestHandler[] =>
  cookieOnly
    ? [
        (_req, res, next) => {
          if (!res.locals.byToken) return next();
          throw new Problem(
            401,
            'Sign in first.',
            'A token does not open this: give the passphrase on the server’s page.',
          );
        },
      ]
    : [];

/** How requests that hold whole treatments are read. */
export type BodyReader = (text: string) => Promise<Body>;

/** Reads a request that may hold a treatment; in the body a mark stands for it. */
async function treatmentOf(req: Request, readBody: BodyReader): Promise<ReadTreatment | null> {
  const text: unknown = req.body;
  const read = await readBody(typeof text === 'string' ? text : '');
  if ('wrong' in read) throw new Problem(read.wrong.status, read.wrong.title, read.wrong.detail);
  req.body = read.whole ? { ...read.body, treatment: true } : read.body;
  if (!read.whole) return null;
  const { json, carried } = read.whole;
  began.set(req, performance.now());
  return { treatment: JSON.parse(json) as Treatment, carried };
}

interface Mounting {
  /** Answers are checked against the contract: in tests and in development. */
  checked: boolean;
  readBody: BodyReader;
}

/** Mounts routes. */
export function mount(implemented: readonly Implemented[], { checked, readBody }: Mounting): Router {
  // An address is written in one way: what is said of it is not got round by capitals.
  const router = Router({ caseSensitive: true });
  refuseOtherMethods(
    router,
    implemented.map(each => each.route),
  );
  for (const { route, handle } of implemented) {
    const limit = route.most ?? MOST_BODY;
    const reader = route.holdsTreatment
      ? readText({ type: 'application/json', limit })
      : readJson({ limit, verify: noteBody });
    router[route.method](
      route.path,
      ...guardsOf(route),
      ...(route.takes ? [] : [reader]),
      async (req, res) => {
        const whole = route.holdsTreatment ? await treatmentOf(req, readBody) : null;
        await pauseAfter(began.get(req));
        refuseUnwritable(req);
        const input = {
          params: read(route.params, req.params, 'address'),
          query: read(route.query, req.query, 'query'),
          body: read(route.body, req.body, 'request'),
        };
        const value = await handle(input, req, res, whole);
        if (res.headersSent) return;
        if (value === undefined) {
          res.status(204).end();
          return;
        }
        if (checked) {
          const sent = route.answer?.safeParse(JSON.parse(JSON.stringify(value)));
          if (!sent?.success) {
            throw new Error(`${route.method} ${route.path} does not answer as it says: ${sent?.error}`);
          }
        }
        if (res.statusCode === 200 && route.method === 'post') res.status(201);
        res.json(value);
      },
    );
  }
  return router;
}

const describe = (schema: Shape, io: 'input' | 'output') => {
  const { $schema: _dialect, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: 'any' });
  return rest;
};

function parameters(place: 'path' | 'query', schema: Shape | undefined) {
  if (!schema) return [];
  const { properties = {}, required = [] } = describe(schema, 'input') as {
    properties?: Record<string, unknown>;
    required?: string[];
  };
  return Object.entries(properties).map(([name, of]) => ({
    name,
    in: place,
    required: place === 'path' || required.includes(name),
    schema: of,
  }));
}

/** How a program is let in. */
const guarded = {
  components: {
    securitySchemes: {
      token: {
        type: 'http',
        scheme: 'bearer',
        description: 'A token that was given out on the server’s page.',
      },
    },
  },
  security: [{ token: [] }],
};

/**
 * The OpenAPI 3.1 description of routes, from the schemas that check them.
 * @param needsToken a passphrase is set
 */
export function openApi(routes: readonly Route[], needsToken: boolean): object {
  const paths: Record<string, Record<string, unknown>> = {};
  const problem = { 'application/problem+json': { schema: describe(problemSchema, 'output') } };
  for (const r of routes) {
    const path = r.path.replace(/:(\w+)/g, '{$1}');
    const success = r.method === 'post' ? '201' : r.answer || r.gives ? '200' : '204';
    (paths[path] ??= {})[r.method] = {
      summary: r.summary,
      parameters: [...parameters('path', r.params), ...parameters('query', r.query)],
      ...(r.body && {
        requestBody: { content: { 'application/json': { schema: describe(r.body, 'input') } } },
      }),
      ...(r.takes && { requestBody: { content: { [r.takes]: {} } } }),
      responses: {
        [success]: {
          description: 'Done.',
          ...(r.answer && { content: { 'application/json': { schema: describe(r.answer, 'output') } } }),
          ...(r.gives && { content: { [r.gives]: {} } }),
        },
        default: { description: 'What is wrong.', content: problem },
      },
    };
  }
  const info = { title: 'Lamp Wash', version: '1' };
  return { openapi: '3.1.0', info, ...(needsToken && guarded), paths };
}
