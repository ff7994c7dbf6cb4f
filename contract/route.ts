import type { z } from 'zod';

type Shape = z.ZodType;
export type Read<S extends Shape | undefined> = S extends Shape ? z.output<S> : undefined;
export type Given<S extends Shape | undefined> = S extends Shape ? z.input<S> : undefined;

/**
 * One route of the HTTP interface, declared once: where it is, what it takes, what it gives. The server mounts it, the
 * interface calls it, `/api/openapi.json` describes it.
 */
export interface Route<
  P extends Shape | undefined = Shape | undefined,
  Q extends Shape | undefined = Shape | undefined,
  B extends Shape | undefined = Shape | undefined,
  A extends Shape | undefined = Shape | undefined,
> {
  method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** With `:name` for parameters. */
  path: string;
  summary: string;
  params?: P;
  query?: Q;
  body?: B;
  /** What a successful answer holds; left out where it is bytes or nothing. */
  answer?: A;
  /** Media type of a body or an answer that is not JSON. */
  takes?: string;
  gives?: string;
  /** The body may hold a whole treatment, which is read apart from the rest. */
  holdsTreatment?: boolean;
  /** The largest body in bytes, where it is not the usual one. */
  most?: number;
  /** Only for somebody who has signed in with the passphrase: a program's token does not open it. */
  cookieOnly?: true;
}

/** Declares a route. */
export function declare<
  P extends Shape | undefined = undefined,
  Q extends Shape | undefined = undefined,
  B extends Shape | undefined = undefined,
  A extends Shape | undefined = undefined,
>(route: Route<P, Q, B, A>): Route<P, Q, B, A> {
  return route;
}

export interface Asked {
  params?: Record<string, unknown>;
  query?: Record<string, unknown>;
}

/** The address of a route with its parameters. */
export function addressOf({ path }: Pick<Route, 'path'>, { params = {}, query = {} }: Asked = {}): string {
  const filled = path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name])));
  const given = Object.entries(query).filter(([, value]) => value !== undefined);
  if (!given.length) return filled;
  return `${filled}?${new URLSearchParams(given.map(([name, value]) => [name, String(value)])).toString()}`;
}
