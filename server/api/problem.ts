import type { ErrorRequestHandler, RequestHandler } from 'express';
import type { Logger } from 'pino';

/** An error that a client is told, as problem+json (RFC 9457). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail?: string,
    readonly more: Record<string, unknown> = {},
  ) {
    super(detail ?? title);
  }
}

export const notFound = (what: string) => new Problem(404, `There is no such ${what}.`);

/** Answers every error as problem+json. What was not meant for the client is logged and told in general. */
export function answerProblems(log: Logger): ErrorRequestHandler {
  return (error, req, res, next) => {
    if (res.headersSent) return next(error);
    let problem: Problem;
    if (error instanceof Problem) problem = error;
    else if (error?.type === 'entity.too.large') problem = new Problem(413, 'The request is too large.');
    else if (error?.type === 'entity.parse.failed')
      problem = new Problem(400, 'The request is not valid JSON.');
    else if (error instanceof URIError) problem = new Problem(400, 'The address is malformed.');
    else {
      log.error({ err: error, path: req.path }, 'request failed');
      problem = new Problem(500, 'Something failed on the server.', 'Nothing was changed. Try again.');
    }
    res
      .status(problem.status)
      .type('application/problem+json')
      .json({
        type: 'about:blank',
        status: problem.status,
        title: problem.title,
        detail: problem.detail,
        ...problem.more,
      });
  };
}

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]']);

const hostOf = (value: string) => value.replace(/:\d+$/, '').toLowerCase();

/**
 * Answers only requests that were meant for this server: the Host must be a loopback name, so that a
 * rebound name of a foreign page does not reach it, and the Origin of anything that changes must be ours.
 */
export const onlyOwnPages: RequestHandler = (req, _res, next) => {
  const host = req.headers.host ?? '';
  if (!LOOPBACK.has(hostOf(host))) {
    throw new Problem(421, 'This server is not known under that name.', `Host: ${host.slice(0, 100)}`);
  }
  const { origin } = req.headers;
  if (origin !== undefined && req.method !== 'GET' && req.method !== 'HEAD') {
    if (!URL.canParse(origin) || new URL(origin).host !== host) {
      throw new Problem(403, 'Requests from other pages are refused.');
    }
  }
  if (req.headers['sec-fetch-site'] === 'cross-site' && req.path.startsWith('/api/')) {
    throw new Problem(403, 'Requests from other pages are refused.');
  }
  next();
};
