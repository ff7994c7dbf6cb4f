import { createHash, scryptSync } from 'node:crypto';
import { createServer, type Server } from 'node:http';
import { createServer as createTlsServer, request as tlsRequest } from 'node:https';
import type { AddressInfo } from 'node:net';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import express from 'express';
import { QueryTypes } from 'sequelize';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { SignIn } from '../../contract/tokens';
import { readConfig } from '../config';
import { openSignIns, type SignIns } from '../data/sign-ins';
import { testServer, type TestServer } from '../testing/server';
import { certificateFor } from '../tls';
import { createApp } from './app';
import { onlyOwnPages } from './own-pages';
import { onlySignedIn, waitAfter } from './sign-in';

const PASSPHRASE = 'low water at the jetty';
const database = 'postgres://a:b@127.0.0.1/c';
const proxied = {
  LAMPWASH_BEHIND_PROXY: '1',
  LAMPWASH_NAMES: 'studio.example',
  LAMPWASH_PASSPHRASE: PASSPHRASE,
};

let server: TestServer;
let signIns: SignIns;
let running: Server;
const appWith = (config = {}) => {
  const services = { ...server.services, config: { ...server.services.config, ...config } };
  return createApp(services, server.queue, join(server.folder, 'no-interface'), signIns);
};
beforeAll(async () => {
  server = await testServer();
  signIns = await openSignIns(server.services.sequelize, PASSPHRASE);
  running = createServer(appWith());
  await new Promise<void>(done => void running.listen(0, '127.0.0.1', done));
});
afterAll(async () => {
  running.close();
  await server.close();
});

const http = () => request(running);
const signIn = (passphrase: string, to?: string) =>
  http()
    .post('/sign-in')
    .type('form')
    .send(to === undefined ? { passphrase } : { passphrase, to });
const cookieOf = (headers: Record<string, unknown>) => (headers['set-cookie'] as string[])[0];

describe('what is asked for at the start', () => {
  it.each([
    [{ LAMPWASH_HOST: '0.0.0.0' }, 'LAMPWASH_PASSPHRASE: must be set'],
    [{ LAMPWASH_HOST: '127.0.0.2' }, 'LAMPWASH_PASSPHRASE: must be set'],
    [{ LAMPWASH_HOST: '0.0.0.0', LAMPWASH_PASSPHRASE: 'short' }, 'at least 12'],
    [{ LAMPWASH_TLS_CERT: 'a.pem' }, 'LAMPWASH_TLS_KEY'],
    [{ LAMPWASH_BEHIND_PROXY: '1', LAMPWASH_PASSPHRASE: PASSPHRASE }, 'LAMPWASH_NAMES'],
    [{ ...proxied, LAMPWASH_HOST: '0.0.0.0' }, 'LAMPWASH_PROXIES: must name'],
    [{ ...proxied, LAMPWASH_PROXIES: 'everybody' }, 'everybody is no address'],
  ])('%j is refused', (env, said) => {
    expect(() => readConfig({ DATABASE_URL: database, ...env })).toThrow(said);
  });

  it('nothing is ever plain on another address, unless a proxy before it ends TLS', () => {
    const transport = (env: NodeJS.ProcessEnv) =>
      readConfig({ DATABASE_URL: database, LAMPWASH_PASSPHRASE: PASSPHRASE, ...env }).transport;
    expect(transport({})).toBe('plain');
    for (const LAMPWASH_HOST of ['0.0.0.0', '::', '192.0.2.7', 'studio.example', '127.0.0.2']) {
      expect(transport({ LAMPWASH_HOST })).toBe('tls');
      expect(transport({ LAMPWASH_HOST, ...proxied, LAMPWASH_PROXIES: '192.0.2.1, 10.0.0.0/8' })).toBe(
        'proxy',
      );
    }
  });
});

describe('with a passphrase', () => {
  it('nothing is answered before it is given, but for whether the server is well', async () => {
    expect((await http().get('/api/health')).status).toBe(200);
    const { body } = await request(server.app).get('/api/openapi.json');
    const paths = Object.entries((body as { paths: Record<string, Record<string, unknown>> }).paths);
    expect(paths.length).toBeGreaterThan(20);
    for (const [path, methods] of paths) {
      if (path === '/api/health') continue;
      for (const method of Object.keys(methods) as ('get' | 'post')[]) {
        const answer = await http()[method](path.replace(/\{\w+\}/g, '1'));
        expect([path, method, answer.status]).toEqual([path, method, 401]);
      }
    }
    for (const path of ['/api/openapi.json', '/assets/index.js', '/series/1', '/']) {
      const { text, status } = await http().get(path);
      expect(status).toBe(path === '/' ? 200 : 401);
      if (!path.startsWith('/api')) expect(text).toContain('Passphrase');
    }
    expect((await http().post('/anything')).status).toBe(401);
  });

  it('it lets in by a cookie that no script and no other page can use, and out again', async () => {
    const wrong = await signIn('high water at the jetty');
    expect(wrong.status).toBe(401);
    expect(wrong.headers['set-cookie']).toBeUndefined();
    const right = await signIn(PASSPHRASE, '/series/7?a=1');
    expect(right.status).toBe(303);
    expect(right.headers.location).toBe('/series/7?a=1');
    const cookie = cookieOf(right.headers);
    expect(cookie).toMatch(/^__Host-lampwash=[\w-]{43};/);
    for (const part of ['HttpOnly', 'Secure', 'SameSite=Strict', 'Path=/', 'Max-Age=2592000']) {
      expect(cookie).toContain(part);
    }
    const Cookie = cookie.split(';')[0];
    expect((await http().get('/api/series').set({ Cookie })).status).toBe(200);
    expect(
      (
        await http()
          .get('/api/series')
          .set({ Cookie: `${Cookie.slice(0, -1)}~` })
      ).status,
    ).toBe(401);
    // Another page has no way in, whatever it sends along.
    const foreign = await http()
      .post('/api/series')
      .set({ Cookie, Origin: 'https://elsewhere.example' })
      .send({ title: 'Mine' });
    expect(foreign.status).toBe(403);
    await http().post('/sign-out').set({ Cookie });
    expect((await http().get('/api/series').set({ Cookie })).status).toBe(401);
  });

  it.each(['//elsewhere.example', '/\\elsewhere.example', 'https://elsewhere.example', '"><script>'])(
    'it leads nowhere else: %s',
    async to => {
      const { headers } = await signIn(PASSPHRASE, to);
      expect(headers.location).toBe('/');
    },
  );

  it('another one makes all who signed in with this one give it anew', async () => {
    const token = (await signIns.signIn(PASSPHRASE))!;
    expect(await signIns.isSignedIn(token)).toBe(true);
    const other = await openSignIns(server.services.sequelize, 'another tide altogether');
    expect(await other.isSignedIn(token)).toBe(false);
    expect(await other.signIn(PASSPHRASE)).toBeNull();
    // Kept nowhere: neither the passphrase nor what the cookie holds.
    const [rows] = await server.services.sequelize.query('SELECT token_hash, passphrase FROM sign_ins');
    expect(JSON.stringify(rows)).not.toContain(token);
    signIns = await openSignIns(server.services.sequelize, PASSPHRASE);
  });

  it('a wrong try waits the longer the more there were; the right one comes in after any', async () => {
    expect([0, 2, 3, 4, 9, 50].map(waitAfter)).toEqual([0, 0, 500, 1000, 30_000, 30_000]);
    const waits: number[] = [];
    const app = express().use((_req, res, next) => {
      res.locals.nonce = '';
      next();
    });
    app.use(
      onlySignedIn(signIns, '', wrong => {
        waits.push(wrong);
        return 0;
      }),
    );
    const alone = createServer(app).listen(0, '127.0.0.1');
    const tried = (passphrase: string) => request(alone).post('/sign-in').type('form').send({ passphrase });
    const token = (await signIns.signIn(PASSPHRASE))!;
    for (let i = 0; i < 12; i++) expect((await tried(`guess ${i}`)).status).toBe(401);
    expect(waits).toEqual(Array.from({ length: 12 }, (_, i) => i));
    // A browser that is signed in goes on, and whoever knows it comes in.
    expect(await signIns.isSignedIn(token)).toBe(true);
    expect((await tried(PASSPHRASE)).status).toBe(303);
    alone.close();
  });

  it('guesses of one address are looked at one after the other, those of others beside them', async () => {
    let letGo = () => undefined as void;
    const held = new Promise<void>(done => (letGo = done));
    const slow: SignIns = { ...signIns, signIn: () => held.then(() => null) };
    const app = express().set('trust proxy', 'loopback');
    app.use(
      (_req, res, next) => {
        res.locals.nonce = '';
        next();
      },
      onlySignedIn(slow, '', () => 0),
    );
    const alone = createServer(app).listen(0, '127.0.0.1');
    const tried = (address: string) =>
      request(alone).post('/sign-in').set('X-Forwarded-For', address).type('form').send({ passphrase: 'a' });
    const first = [1, 2, 3].map(() => tried('192.0.2.1').then(r => r.status));
    await vi.waitFor(async () => expect((await tried('192.0.2.1')).status).toBe(429));
    const other = tried('192.0.2.2').then(r => r.status);
    letGo();
    expect(await Promise.all([...first, other])).toEqual([401, 401, 401, 401]);
    alone.close();
  });

  it('what is not used for long ends; browsers are listed with their last use, and can be signed out', async () => {
    const { sequelize } = server.services;
    await sequelize.query('DELETE FROM sign_ins');
    const signed = await http()
      .post('/sign-in')
      .set('User-Agent', 'Studio browser')
      .type('form')
      .send({ passphrase: PASSPHRASE });
    const Cookie = cookieOf(signed.headers).split(';')[0];
    const other = (await signIns.signIn(PASSPHRASE, 'Another'))!;
    const listed = (await http().get('/api/sign-ins').set({ Cookie })).body as SignIn[];
    expect(listed.map(({ browser, own }) => [browser, own]).sort()).toEqual([
      ['Another', false],
      ['Studio browser', true],
    ]);
    const { id } = listed.find(each => !each.own)!;
    expect((await http().delete(`/api/sign-ins/${id}`).set({ Cookie })).status).toBe(204);
    expect(await signIns.isSignedIn(other)).toBe(false);
    expect((await http().delete(`/api/sign-ins/${id}`).set({ Cookie })).status).toBe(404);

    await sequelize.query(`UPDATE sign_ins SET used_at = now() - interval '2 hours'`);
    expect((await http().get('/api/series').set({ Cookie })).status).toBe(200);
    await sequelize.query(`UPDATE sign_ins SET used_at = now() - interval '13 days'`);
    expect((await http().get('/api/series').set({ Cookie })).status).toBe(200);
    // Its use was noted.
    await sequelize.query(`UPDATE sign_ins SET used_at = used_at - interval '13 days'`);
    expect((await http().get('/api/series').set({ Cookie })).status).toBe(200);
    await sequelize.query(`UPDATE sign_ins SET used_at = now() - interval '15 days'`);
    expect((await http().get('/api/series').set({ Cookie })).status).toBe(401);

    const { id: program, token } = await signIns.giveToken('For the archive');
    expect(await signIns.isGiven(token)).toBe(true);
    await sequelize.query(`UPDATE tokens SET used_at = now() - interval '181 days' WHERE id = $1`, {
      bind: [program],
    });
    expect(await signIns.isGiven(token)).toBe(false);
    expect((await signIns.tokens()).some(t => t.id === program)).toBe(false);
  });

  it('what was given under weaker numbers before counts on', async () => {
    const { sequelize } = server.services;
    const salted = await sequelize.query<{ salt: Buffer }>('SELECT salt FROM passphrase_salt', {
      type: QueryTypes.SELECT,
    });
    const old = createHash('sha256')
      .update(scryptSync(PASSPHRASE, salted[0].salt, 32, { N: 2 ** 15, r: 8, p: 1, maxmem: 2 ** 26 }))
      .digest('hex');
    const { token } = await signIns.giveToken('From before');
    await sequelize.query('UPDATE tokens SET passphrase = $1', { bind: [old] });
    expect(await signIns.isGiven(token)).toBe(false);
    signIns = await openSignIns(sequelize, PASSPHRASE);
    expect(await signIns.isGiven(token)).toBe(true);
  });

  it('leaves nothing in the cache of a browser that signs out', async () => {
    const { headers } = await signIn(PASSPHRASE);
    const { headers: out } = await http()
      .post('/sign-out')
      .set({ Cookie: cookieOf(headers).split(';')[0] });
    expect(out['clear-site-data']).toBe('"cache"');
  });
});

describe('behind a proxy', () => {
  it('only what came there over TLS, under a name of the server, is answered', async () => {
    const app = request(appWith({ transport: 'proxy', names: ['studio.example'] }));
    const get = (headers: Record<string, string>) => app.get('/').set(headers);
    expect((await get({ Host: 'studio.example', 'X-Forwarded-Proto': 'https' })).status).toBe(200);
    expect((await get({ Host: 'studio.example' })).status).toBe(403);
    expect((await get({ Host: 'studio.example', 'X-Forwarded-Proto': 'http' })).status).toBe(403);
    expect((await get({ Host: 'rebound.example', 'X-Forwarded-Proto': 'https' })).status).toBe(421);
    const safe = (await get({ Host: 'studio.example', 'X-Forwarded-Proto': 'https' })).headers;
    expect(safe['strict-transport-security']).toBe('max-age=31536000');
    // Whoever is no proxy is not believed, and not answered.
    const among = (address: string, proxies: string[]) => {
      const check = onlyOwnPages({ names: ['studio.example'], transport: 'proxy', proxies });
      const headers = { host: 'studio.example', 'x-forwarded-proto': 'https' };
      const req = { headers, path: '/', method: 'GET', socket: { remoteAddress: address } };
      let passed = false;
      try {
        // eslint-disable-next-line no-restricted-syntax -- only what it looks at is given
        void check(req as unknown as express.Request, {} as express.Response, () => (passed = true));
      } catch (error) {
        expect((error as { status: number }).status).toBe(403);
      }
      return passed;
    };
    expect(among('203.0.113.9', [])).toBe(false);
    expect(among('203.0.113.9', ['203.0.113.0/24'])).toBe(true);
    expect(among('::ffff:10.1.2.3', ['10.0.0.0/8'])).toBe(true);
    expect(among('2001:db8::7', ['2001:db8::7'])).toBe(true);
    expect(among('127.0.0.1', [])).toBe(true);
  });
});

describe('the certificate', () => {
  it('is made once, kept from others, and serves the names and addresses of the machine', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'lampwash-tls-'));
    const config = readConfig({
      DATABASE_URL: database,
      LAMPWASH_HOME: folder,
      LAMPWASH_HOST: '127.0.0.2',
      LAMPWASH_PASSPHRASE: PASSPHRASE,
      LAMPWASH_NAMES: 'studio.example',
    });
    const first = await certificateFor(config);
    expect(await certificateFor(config)).toEqual(first);
    expect((await stat(join(config.tlsFolder, 'own.json'))).mode & 0o777).toBe(0o600);
    const tls = createTlsServer(first, appWith({ names: config.names, transport: config.transport }));
    await new Promise<void>(done => void tls.listen(0, config.host, done));
    const { port } = tls.address() as AddressInfo;
    const ask = (servername: string, headers = {}) =>
      new Promise<number | undefined>((resolve, reject) => {
        const options = { host: config.host, port, servername, ca: first.cert, path: '/api/series', headers };
        tlsRequest(options, answer => resolve(answer.resume().statusCode))
          .once('error', reject)
          .end();
      });
    expect(await ask('studio.example', { Host: `studio.example:${port}` })).toBe(401);
    expect(await ask('localhost', { Host: `127.0.0.2:${port}` })).toBe(401);
    expect(await ask('localhost', { Host: 'rebound.example' })).toBe(421);
    await expect(ask('other.example')).rejects.toThrow('altnames');
    // Plainly nothing is said at all.
    await expect(fetch(`http://127.0.0.2:${port}/api/health`)).rejects.toThrow();
    tls.close();
    await rm(folder, { recursive: true });
  });
});

describe('tokens of programs', () => {
  const withToken = (token: string, path = '/api/series') =>
    http().get(path).set('Authorization', `Bearer ${token}`);

  it('let a program in, until they are ended; they open nothing but the API', async () => {
    const cookie = cookieOf((await signIn(PASSPHRASE)).headers);
    const made = await http().post('/api/tokens').set('Cookie', cookie).send({ name: ' The press room ' });
    expect(made.status, JSON.stringify(made.body)).toBe(201);
    const { token, id, name, usedAt } = made.body as {
      token: string;
      id: string;
      name: string;
      usedAt: null;
    };
    expect([name, usedAt]).toEqual(['The press room', null]);
    expect((await http().get('/api/series')).status).toBe(401);
    expect((await withToken(token)).status).toBe(200);
    // What is known of it tells nothing of what it says.
    const list = (await http().get('/api/tokens').set('Cookie', cookie)).body as {
      id: string;
      usedAt: string;
    }[];
    const listed = list.find(t => t.id === id)!;
    expect(JSON.stringify(list)).not.toContain(token);
    expect(listed.usedAt).toMatch(/^\d{4}-/);
    const { rows } = await tokensKept();
    expect(JSON.stringify(rows)).not.toContain(token);
    // A program cannot make or end tokens, nor see the pages.
    expect((await withToken(token, '/api/tokens')).status).toBe(401);
    expect(
      (await http().post('/api/tokens').set('Authorization', `Bearer ${token}`).send({ name: 'x' })).status,
    ).toBe(401);
    // However the address is written.
    for (const path of [
      '/api/Tokens',
      '/API/tokens',
      '/api/TOKENS',
      '/api/tokens/',
      '/api/%74okens',
      '/api//tokens',
    ]) {
      const asked = await http().post(path).set('Authorization', `Bearer ${token}`).send({ name: 'x' });
      expect([path, [401, 404].includes(asked.status)]).toEqual([path, true]);
      const ended = await http().delete(`${path}/${id}`).set('Authorization', `Bearer ${token}`);
      expect([path, [401, 404].includes(ended.status)]).toEqual([path, true]);
    }
    expect(await tokensKept()).toEqual({ rows });
    expect((await withToken(token, '/series')).status).toBe(401);
    expect((await http().delete(`/api/tokens/${id}`).set('Cookie', cookie)).status).toBe(204);
    const after = await withToken(token);
    expect([after.status, after.body.title]).toEqual([401, 'This token does not count.']);
    expect((await http().delete(`/api/tokens/${id}`).set('Cookie', cookie)).status).toBe(404);
  });

  it.each(['', 'lampwash_', 'x'.repeat(150), 'lampwash_AAAA'])(
    'that are none are refused: %j',
    async token => {
      expect((await withToken(token)).status).toBe(401);
    },
  );

  it('count no more under another passphrase', async () => {
    const cookie = cookieOf((await signIn(PASSPHRASE)).headers);
    const { token } = (await http().post('/api/tokens').set('Cookie', cookie).send({ name: 'Old' })).body as {
      token: string;
    };
    const other = await openSignIns(server.services.sequelize, 'another tide altogether');
    expect(await signIns.isGiven(token)).toBe(true);
    expect(await other.isGiven(token)).toBe(false);
  });

  it('are not needed where no passphrase is set', async () => {
    const open = request(server.app);
    const { status, body } = await open.post('/api/tokens').send({ name: 'x' });
    expect([status, body.title]).toEqual([409, 'No passphrase is set: programs are let in without a token.']);
    expect((await open.get('/api/tokens')).body).toEqual([]);
  });

  const tokensKept = async () => ({ rows: await server.services.sequelize.query('SELECT * FROM tokens') });
});
