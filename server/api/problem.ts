import type { ErrorRequestHandler } from 'express';
import type { Logger } from 'pino';
import { TooMuchWork } from '../render/threads';

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

/** PostgreSQL's code for a full disk. */
const DISK_FULL = '53100';

interface Told {
  status?: unknown;
  type?: unknown;
  code?: unknown;
  name?: unknown;
  message?: unknown;
  /** Bytes that a body may have. */
  limit?: unknown;
  /** What the database said, beneath what Sequelize makes of it. */
  original?: Told;
}

const titles: Record<number, string> = {
  404: 'There is no such file.',
  413: 'The request is too large.',
  415: 'The request is in a form that is not read here.',
};

/** What a client is told of an error; null where that is nothing but that something failed. */
function toldOf(error: unknown): Problem | null {
  if (error instanceof Problem) return error;
  if (error instanceof TooMuchWork) {
    return new Problem(422, 'This is too much work for one picture.', error.message);
  }
  // Nothing of ours goes so deep: what was sent does.
  if (error instanceof RangeError && /call stack/.test(error.message)) {
    return new Problem(400, 'The request is nested too deeply.');
  }
  if (error instanceof URIError) return new Problem(400, 'The address is malformed.');
  const { status, type, code, name, message, original, limit } = (error ?? {}) as Told;
  if (type === 'entity.too.large' && typeof limit === 'number') {
    return new Problem(413, `The request is too large: it may have ${Math.floor(limit / 2 ** 20)} MB.`);
  }
  if (type === 'entity.parse.failed') return new Problem(400, 'The request is not valid JSON.');
  if (code === 'ENOSPC' || original?.code === 'ENOSPC' || original?.code === DISK_FULL) {
    return new Problem(507, 'The disk is full.', 'Nothing was changed. Make room on it, then try again.');
  }
  if (typeof message === 'string' && /connection manager was closed/.test(message)) {
    return new Problem(503, 'The server is being stopped.', 'Nothing was changed. Try again in a moment.');
  }
  if (typeof name === 'string' && /^Sequelize(Connection|HostNot|Access)/.test(name)) {
    return new Problem(503, 'The database is away.', 'Nothing was changed. Try again in a moment.');
  }
  // What Express and its readers find wrong with a request carries a status.
  if (typeof status === 'number' && status >= 400 && status < 500) {
    // What is said of a file that is not there names its path on the server.
    const detail = status === 404 ? undefined : String(message);
    return new Problem(status, titles[status] ?? 'The request is not understood.', detail);
  }
  return null;
}

/** Answers every error as problem+json. What was not meant for the client is logged and told in general. */
export function answerProblems(log: Logger): ErrorRequestHandler {
  return (error, req, res, next) => {
    if (res.headersSent) return next(error);
    const told = toldOf(error);
    if (!told || told.status >= 500) log.error({ err: error, path: req.path }, 'request failed');
    const problem =
      told ?? new Problem(500, 'Something failed on the server.', 'Nothing was changed. Try again.');
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
