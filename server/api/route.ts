import { Router, type Request, type Response } from 'express';
import { z } from 'zod';
import { firstIssue } from '../../core/treatment/schema';
import { Problem } from './problem';

type Shape = z.ZodType;
type Read<S extends Shape | undefined> = S extends Shape ? z.infer<S> : undefined;

/** A route: what it takes, what it gives, and what it does. The OpenAPI page is made from the same. */
export interface Route<
  P extends Shape | undefined = Shape | undefined,
  Q extends Shape | undefined = Shape | undefined,
  B extends Shape | undefined = Shape | undefined,
> {
  method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** Express path, with `:name` for parameters. */
  path: string;
  summary: string;
  params?: P;
  query?: Q;
  body?: B;
  /** What a successful answer holds; left out where it is bytes or nothing. */
  answer?: Shape;
  /** Media type of a body or an answer that is not JSON. */
  takes?: string;
  gives?: string;
  handle: (
    input: { params: Read<P>; query: Read<Q>; body: Read<B> },
    req: Request,
    res: Response,
  ) => Promise<unknown>;
}

export function route<
  P extends Shape | undefined = undefined,
  Q extends Shape | undefined = undefined,
  B extends Shape | undefined = undefined,
>(definition: Route<P, Q, B>): Route {
  return definition as unknown as Route;
}

function read(schema: Shape | undefined, value: unknown, what: string): unknown {
  if (!schema) return undefined;
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const { path, reason } = firstIssue(result.error);
  throw new Problem(400, `The ${what} is not valid.`, path ? `${path}: ${reason}` : reason);
}

/**
 * Mounts routes. A handler's value is sent as JSON, undefined as 204; a handler that answers by itself
 * (bytes) leaves the value alone.
 */
export function mount(routes: readonly Route[]): Router {
  const router = Router();
  for (const r of routes) {
    router[r.method](r.path, async (req, res) => {
      const input = {
        params: read(r.params, req.params, 'address'),
        query: read(r.query, req.query, 'query'),
        body: read(r.body, req.body, 'request'),
      };
      const value = await r.handle(input as never, req, res);
      if (res.headersSent) return;
      if (value === undefined) res.status(204).end();
      else res.status(r.method === 'post' ? 201 : 200).json(value);
    });
  }
  return router;
}

const json = (schema: Shape, io: 'input' | 'output') => {
  const { $schema: _dialect, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: 'any' });
  return rest;
};

function parameters(place: 'path' | 'query', schema: Shape | undefined) {
  if (!schema) return [];
  const { properties = {}, required = [] } = json(schema, 'input') as {
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

/** The OpenAPI 3.1 description of the routes, from the schemas that check them. */
export function openApi(routes: readonly Route[]): object {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const r of routes) {
    const path = r.path.replace(/:(\w+)/g, '{$1}');
    const success = r.method === 'post' ? '201' : r.answer || r.gives ? '200' : '204';
    (paths[path] ??= {})[r.method] = {
      summary: r.summary,
      parameters: [...parameters('path', r.params), ...parameters('query', r.query)],
      ...(r.body && { requestBody: { content: { 'application/json': { schema: json(r.body, 'input') } } } }),
      ...(r.takes && { requestBody: { content: { [r.takes]: {} } } }),
      responses: {
        [success]: {
          description: 'Done.',
          ...(r.answer && { content: { 'application/json': { schema: json(r.answer, 'output') } } }),
          ...(r.gives && { content: { [r.gives]: {} } }),
        },
        default: { description: 'What is wrong.', content: { 'application/problem+json': {} } },
      },
    };
  }
  return { openapi: '3.1.0', info: { title: 'Lamp Wash', version: '1' }, paths };
}
