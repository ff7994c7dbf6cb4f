import type { RequestHandler } from 'express';

/** For so long, in milliseconds, what is still being sent is let go by after the answer; then the connection ends. */
const LETTING_GO = 20_000;

/**
 * A request may be answered before it has come whole: what is refused is refused at once. The answer is written, and its end waits
 * while the rest of the request is let go by: a connection that ended at once would take the answer away from whoever is
 * still sending (RFC 9112, section 9.6).
 */
export const letGoBy: RequestHandler = (req, res, next) => {
  const hasBody =
    req.headers['transfer-encoding'] !== undefined || Number(req.headers['content-length'] ?? 0) > 0;
  if (!hasBody) return next();
  const end = res.end.bind(res) as () => typeof res;
  const last = res.end.bind(res) as typeof res.end;
  let ending = false;
  res.end = ((...given: Parameters<typeof res.end>) => {
    if (req.complete || ending) return last(...given);
    ending = true;
    const [chunk, encoding] = given;
    if (typeof chunk === 'string' || chunk instanceof Uint8Array) {
      res.write(chunk, typeof encoding === 'string' ? encoding : 'utf8');
    } else {
      res.flushHeaders();
    }
    req.unpipe();
    req.resume();
    const late = setTimeout(() => req.destroy(), LETTING_GO);
    const done = () => {
      clearTimeout(late);
      end();
    };
    req.once('end', done);
    req.once('close', done);
    return res;
  }) as typeof res.end;
  next();
};
