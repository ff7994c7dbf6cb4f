import type { RequestHandler } from 'express';

/** For so long, in milliseconds, what is still being sent is let go by after the answer; then the connection ends. */
const LETTING_GO = 20_000;

/**
 * A request may be answered before it has come whole: what is refused is refused at once. The rest is let go by for a while, so
 * that whoever is still sending hears the answer, and sends no more.
 */
export const letGoBy: RequestHandler = (req, res, next) => {
  res.once('finish', () => {
    if (req.complete) return;
    req.unpipe();
    req.resume();
    const end = setTimeout(() => req.destroy(), LETTING_GO);
    req.once('close', () => clearTimeout(end));
  });
  next();
};
