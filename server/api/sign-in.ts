import { parseCookie, stringifySetCookie } from 'cookie';
import express, { type Request, type RequestHandler, Router } from 'express';
import { slowDown } from 'express-slow-down';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { SIGNED_IN_DAYS, type SignIns } from '../data/sign-ins';
import { Problem } from './problem';

/** Where a passphrase is set, nothing is answered before it has been given, but for whether the server is well. */

/** The prefix binds it to this very server, by a safe connection. Source: RFC 6265bis, 4.1.3.2. */
const COOKIE = '__Host-lampwash';
const settings = { httpOnly: true, secure: true, sameSite: 'strict', path: '/' } as const;

/** What the cookie of a request holds. */
export const signInOf = (req: Request): string | undefined => parseCookie(req.headers.cookie ?? '')[COOKIE];

/** Wrong tries of an address are counted for so many minutes. */
const MINUTES = 15;
/** So many of an address are looked at at once. */
const AT_ONCE = 3;

/**
 * How long a try waits, in milliseconds, after so many wrong ones of its address: nobody is shut out, and whoever guesses waits
 * half a minute for each.
 */
export const waitAfter = (wrong: number): number =>
  wrong < 3 ? 0 : Math.min(30_000, 500 * 2 ** (wrong - 3));

/** At most some of an address at a time: guesses wait one after the other. */
function fewAtOnce(tooMany: RequestHandler): RequestHandler {
  const running = new Map<string, number>();
  return (req, res, next) => {
    const address = req.ip ?? '';
    const now = running.get(address) ?? 0;
    if (now >= AT_ONCE) return tooMany(req, res, next);
    running.set(address, now + 1);
    res.once('close', () => {
      const left = running.get(address)! - 1;
      if (left) running.set(address, left);
      else running.delete(address);
    });
    next();
  };
}

interface Page {
  nonce: string;
  wrong?: string;
  /** The page that was asked for. */
  to: string;
  /** The address of the display face, where there is one. */
  font: string | null;
}

const inHtml = (text: string) => text.replace(/[&<>"]/g, c => `&#${c.charCodeAt(0)};`);

/** A page of this server, whatever was given for one. */
const ownPath = (given: unknown): string =>
  typeof given === 'string' && /^\/(?![/\\])[\x21-\x7e]{0,300}$/.test(given) ? given : '/';

const page = ({ nonce, wrong, to, font }: Page) => `<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8" />
    <meta name="viewport" content="width=device-width, initial-scale=1" />
    <title>Lamp Wash</title>
    <link rel="icon" href="/mark.svg" type="image/svg+xml" />
    <style nonce="${nonce}">
      ${font ? `@font-face { font-family: 'Instrument Serif'; src: url('${font}') format('woff2'); }` : ''}
      body { margin: 0; min-height: 100vh; display: grid; place-items: center; background: #7c7c7c; color: #1c1c1c;
        font: 15px/1.45 system-ui, sans-serif; }
      main { background: #f4f4f4; padding: 26px 30px 24px; width: 320px; border-radius: 2px;
        box-shadow: 0 1px 2px rgb(0 0 0 / 0.3), 0 12px 34px rgb(0 0 0 / 0.22); }
      img { width: 40px; height: 38px; display: block; margin-bottom: 12px; }
      h1 { font: 400 30px/1 'Instrument Serif', serif; margin: 0 0 14px; }
      label { display: grid; gap: 5px; color: #4a4a4a; }
      input { font: inherit; color: #1c1c1c; height: 36px; padding: 0 9px; border: 0; border-bottom: 1px solid #5a5a5a;
        background: #fff; }
      button { font: 600 15px/1 system-ui, sans-serif; margin-top: 16px; padding: 10px 18px; border: 0; border-radius: 2px;
        background: #1c1c1c; color: #fff; cursor: pointer; }
      input:focus-visible, button:focus-visible { outline: 2px solid #1c1c1c; outline-offset: 2px; }
      p { margin: 12px 0 0; font-weight: 600; }
    </style>
  </head>
  <body>
    <main>
      <img src="/mark.svg" alt="" />
      <h1>A passphrase opens this shelf</h1>
      <form method="post" action="/sign-in">
        <input type="hidden" name="to" value="${inHtml(to)}" />
        <label>Passphrase<input type="password" name="passphrase" autocomplete="current-password" autofocus required /></label>
        ${wrong ? `<p role="alert">${wrong}</p>` : ''}
        <button>Come in</button>
      </form>
    </main>
  </body>
</html>`;

/** The file of the display face that the interface was built with. */
function fontIn(interfaceFolder: string): string | null {
  try {
    const name = readdirSync(join(interfaceFolder, 'assets')).find(file =>
      /^instrument-serif-latin-400-normal.*\.woff2$/.test(file),
    );
    return name ? `/assets/${name}` : null;
  } catch {
    return null;
  }
}

/**
 * Lets in only who has signed in; answers the signing in and out itself.
 * @param wait milliseconds that a try waits after so many wrong ones
 */
export function onlySignedIn(signIns: SignIns, interfaceFolder: string, wait = waitAfter): Router {
  const router = Router();
  const font = fontIn(interfaceFolder);
  const isOpen = (path: string) => path === '/api/health' || path === '/mark.svg' || path === font;
  const show = (wrong?: string, status = 200): RequestHandler => {
    return (req, res) => {
      const { nonce } = res.locals as { nonce: string };
      const { to } = (req.body ?? {}) as { to?: unknown };
      res.status(status).type('html').set('Cache-Control', 'no-store');
      res.send(
        page({ nonce, wrong, font, to: ownPath(to ?? (req.method === 'GET' ? req.originalUrl : '/')) }),
      );
    };
  };
  const slower = slowDown({
    windowMs: MINUTES * 60_000,
    delayAfter: 0,
    delayMs: tries => wait(tries - 1),
    skipSuccessfulRequests: true,
  });
  router.post(
    '/sign-in',
    fewAtOnce(show('Too many tries at once. Wait a moment, then try again.', 429)),
    slower,
    express.urlencoded({ extended: false, limit: 4096, parameterLimit: 4 }),
    async (req, res, next) => {
      const { passphrase: given, to } = (req.body ?? {}) as { passphrase?: unknown; to?: unknown };
      const token = typeof given === 'string' ? await signIns.signIn(given, req.headers['user-agent']) : null;
      if (!token) return show('That is not it.', 401)(req, res, next);
      const cookie = { ...settings, name: COOKIE, value: token, maxAge: SIGNED_IN_DAYS * 86_400 };
      res.set('Set-Cookie', stringifySetCookie(cookie)).redirect(303, ownPath(to));
    },
  );
  router.post('/sign-out', async (req, res) => {
    const token = signInOf(req);
    if (token) await signIns.signOut(token);
    res
      // What is not saved yet stays, until its owner signs in again.
      .set('Clear-Site-Data', '"cache"')
      .set('Set-Cookie', stringifySetCookie({ ...settings, name: COOKIE, value: '', maxAge: 0 }))
      .redirect(303, '/');
  });
  router.use(async (req, res, next) => {
    if (isOpen(req.path)) return next();
    const token = signInOf(req);
    if (token && (await signIns.isSignedIn(token))) return next();
    // Of programs; what a token does not open says so itself, so that one that is lost opens no more than it did.
    const given = /^Bearer (\S{1,200})$/i.exec(req.headers.authorization ?? '')?.[1];
    if (given && req.path.startsWith('/api/')) {
      if (await signIns.isGiven(given)) {
        res.locals.byToken = true;
        return next();
      }
      throw new Problem(
        401,
        'This token does not count.',
        'It may have been ended: make another on the server’s page.',
      );
    }
    if (req.path.startsWith('/api/') || req.method !== 'GET') {
      throw new Problem(
        401,
        'Sign in first.',
        'Open the server’s page and give the passphrase; a program gives a token.',
      );
    }
    return show(undefined, req.path === '/' ? 200 : 401)(req, res, next);
  });
  return router;
}
