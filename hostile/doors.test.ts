import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { beforeAll, expect, it } from 'vitest';
import { startApp } from '../server/testing/running';
import { breaks, chances } from './files';
import { tried, watchHealth, type Answer } from './tally';
import { heavyTreatments } from './treatments';
import {
  allIsWell,
  app,
  each,
  faults,
  newSeries,
  noise,
  notes,
  SEED,
  startServer,
  tally,
} from './server-under-test';

/** What was let in comes out again by every door that shows it; and each door that takes a treatment in reads it with the same eyes. */

let series: string;
startServer();
beforeAll(async () => {
  series = await newSeries('Doors');
});

const whole = (rest: object) => ({ format: 'lampwash-treatment', version: 1, ...rest });
/** Forty pictures of two hundred steps take their time, beside all others. */
const LONG_MS = 120_000;
const ask = (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) => {
  const asked = {
    method,
    ...(body !== undefined && {
      headers: { 'Content-Type': 'application/json', ...headers },
      body: body instanceof Uint8Array ? new Uint8Array(body) : JSON.stringify(body),
    }),
  };
  return tried(tally, faults, app.url + path, asked, LONG_MS);
};
/** Asks, and holds that the answer is one of those that may be. */
async function may(
  what: string,
  fits: readonly number[],
  asked: Promise<Answer | null>,
): Promise<Answer | null> {
  const answer = await asked;
  if (answer && !fits.includes(answer.status))
    faults.push(`${what}: ${answer.status} ${answer.text.slice(0, 200)}`);
  return answer;
}

/** Names that a person may give, and that what is printed or saved under them must bear. */
const NAMES = [
  'a'.repeat(120),
  'ﷺ'.repeat(60),
  '𝕬𝖗𝖊𝖆 \u{1f469}\u{200d}\u{1f527}',
  '<b>&amp;</b> \'"; DROP',
  '../../etc/passwd',
  'CON. ',
  '%s%n%x',
  'e\u0301'.repeat(50),
];

const kinds = ['mono', 'split-tone', 'curve', 'local-contrast', 'vignette', 'grain', 'glow', 'levels'];

/** These take no time by themselves: what lays them out is tried. */
const QUICK = ['mono', 'levels', 'curve', 'split-tone'];

/** Treatments that are let in, and are hard on what lays them out. */
const strange: [string, unknown][] = [
  ...heavyTreatments().filter(([what]) => /^(areas doubled 8 |300 strokes)/.test(what)),
  [
    'names of all kinds',
    whole({
      masks: NAMES.map((name, i) => ({ id: `m${i}`, name, parts: [{ kind: 'whole' }] })),
      steps: NAMES.map((name, i) => ({ kind: kinds[i], name, mask: `m${i}`, settings: {} })),
    }),
  ],
  [
    '200 steps, each with a name of 120 letters and an area of its own',
    whole({
      masks: Array.from({ length: 8 }, (_, i) => ({ id: `m${i}`, parts: [{ kind: 'whole' }] })),
      steps: Array.from({ length: 200 }, (_, i) => ({
        kind: QUICK[i % QUICK.length],
        name: 'w'.repeat(120),
        mask: `m${i % 8}`,
        settings: {},
      })),
    }),
  ],
  ['nothing at all', whole({ steps: [] })],
];

type Door = [string, () => Promise<Answer | null>];

/** The doors that show a take. */
const doors = (take: string, steps: readonly string[]): Door[] => {
  const sheet = (settings: object) => () =>
    ask('POST', `/api/series/${series}/contact-sheet`, { takes: [take], settings });
  const strip = Array.from({ length: 9 }, (_, i) => [{ name: 'strength', value: i * 10 }]);
  // Of two hundred steps it is the same many times over.
  const asPictures: Door = ['a card as pictures', sheet({ kind: 'card', as: 'png', paper: 'a3' })];
  return [
    ['a card', sheet({ kind: 'card' })],
    ...(steps.length < 100 ? [asPictures] : []),
    ['a sheet', sheet({ columns: 8, margin: 40, lying: true })],
    ['before and after', sheet({ kind: 'before-after', as: 'jpeg' })],
    [
      'a test strip',
      () =>
        ask('POST', `/api/takes/${take}/strip-sheet`, {
          step: steps[0] ?? 'none',
          pictures: strip,
          settings: {},
        }),
    ],
    ['a colour table', () => ask('GET', `/api/takes/${take}/cube?size=33`)],
    ['how exact that is', () => ask('GET', `/api/takes/${take}/cube/exactness`)],
    ['its treatment', () => ask('POST', `/api/series/${series}/treatment-files`, { takes: [take] })],
    ['its areas', () => ask('POST', `/api/series/${series}/area-files`, { takes: [take] })],
    ['the pigments', () => ask('GET', `/api/series/${series}/palette`)],
    ['how even it is', () => ask('GET', `/api/series/${series}/evenness`)],
    ['towards the middle', () => ask('POST', `/api/takes/${take}/fit`)],
    ['its history', () => ask('GET', `/api/takes/${take}/history`)],
    ['a package', () => ask('GET', `/api/series/${series}/package`)],
  ];
};

/** Sends a take out, and waits for its file. */
async function sendOut(what: string, take: string, settings: object): Promise<void> {
  const asked = await may(
    what,
    [200, 201],
    ask('POST', '/api/send-outs', { series, takes: [take], settings }),
  );
  if (!asked) return;
  const [{ id }] = JSON.parse(asked.text) as { id: string }[];
  for (let tries = 0; tries < 60; tries++) {
    const rows = await app.api<{ id: string; state: string; problem: string | null }[]>(
      'GET',
      `/api/send-outs?series=${series}`,
    );
    const { state, problem } = rows.find(row => row.id === id)!;
    if (state === 'done') return;
    if (state === 'failed') {
      // What is too much is named, and blames neither the server nor its code.
      if (!problem || /undefined|null|Error|cannot read/i.test(problem)) faults.push(`${what}: ${problem}`);
      return;
    }
    await new Promise(done => setTimeout(done, 100));
  }
  // Two hundred layers are not waited for, but stopped.
  await may(`${what}, stopped`, [200, 201, 204], ask('POST', `/api/send-outs/${id}/stop`));
}

it('what was let in comes out by every door: cards, sheets, tables, areas, layers and files', async () => {
  let longest = { ms: 0, what: '' };
  let asked = 0;
  for (const [what, treatment] of strange) {
    const { id, currentTakeId: take } = await app.bringIn(series, await noise(), 'door.png');
    const saved = await may(
      what,
      [200],
      ask('PUT', `/api/takes/${take}/treatment`, { revision: 1, treatment, label: 'Strange' }),
    );
    if (saved?.status !== 200) continue;
    const { steps } = (await app.api<{ treatment: { steps: { id: string }[] } }>('GET', `/api/takes/${take}`))
      .treatment;
    for (const [door, open] of doors(
      take,
      steps.map(step => step.id),
    )) {
      const stop = watchHealth(tally, faults, app.url);
      await may(`${what}, ${door}`, [200, 400, 404, 409, 422], open());
      asked++;
      const ms = Math.round(await stop());
      if (ms > longest.ms) longest = { ms, what: `${what}, ${door}` };
    }
    for (const settings of [{ format: 'layers' }, { format: 'jpeg', metadata: 'all' }]) {
      await sendOut(`${what} as ${settings.format}`, take, settings);
    }
    await ask('DELETE', `/api/photographs/${id}`);
  }
  notes.push(
    `${asked} doors of strange takes: health within ${longest.ms} ms, the longest beside ${longest.what}`,
  );
  await allIsWell();
}, 400_000);

it('forms that are broken are refused by name or taken, and leave nothing behind', async () => {
  const chance = chances(SEED);
  const png = await noise(40, 30);
  const boundary = 'between';
  const part = (name: string, more: string, bytes: Buffer) =>
    Buffer.concat([
      Buffer.from(`--${boundary}\r\nContent-Disposition: form-data; name="${name}"${more}\r\n\r\n`),
      bytes,
      Buffer.from('\r\n'),
    ]);
  const end = Buffer.from(`--${boundary}--\r\n`);
  const file = part('file', '; filename="a.png"\r\nContent-Type: image/png', png);
  const strangeForms = [
    Buffer.concat([file, file, end]),
    Buffer.concat([part('__proto__', '', png), file, end]),
    Buffer.concat([...Array.from({ length: 3000 }, (_, i) => part(`f${i}`, '', Buffer.from('x'))), end]),
    part('file', `; filename="${'a'.repeat(200_000)}"`, png),
    part('file', "; filename*=utf-8''%ff%00%2e%2e%2f", png),
    end,
    Buffer.from(`--${boundary}\r\n`.repeat(5000)),
  ];
  const whole = Buffer.concat([file, end]);
  const broken = Object.values(breaks).flatMap(breaking =>
    Array.from({ length: 12 }, () => breaking(whole, chance, png)),
  );
  const stop = watchHealth(tally, faults, app.url);
  await each([...strangeForms, ...broken], 4, async body => {
    await tried(tally, faults, `${app.url}/api/series/${series}/photographs?again=1`, {
      method: 'POST',
      headers: { 'Content-Type': `multipart/form-data; boundary=${boundary}` },
      body: new Uint8Array(body),
    });
  });
  expect(await readdir(join(app.home, 'cache', 'uploads'))).toEqual([]);
  notes.push(
    `${strangeForms.length + broken.length} broken forms: health within ${Math.round(await stop())} ms`,
  );
  await allIsWell();
}, 120_000);

it('strokes beyond what a take may hold are refused by every door that takes a treatment in', async () => {
  const { currentTakeId: take } = await app.bringIn(series, await noise(), 'strokes.png');
  const strokes = (megabytes: number) => {
    const points = Array.from({ length: 1000 }, (_, i) => [
      (i % 97) / 970 + 0.123456,
      (i % 89) / 890 + 0.123456,
      1,
    ]);
    const stroke = { points, radius: 0.01 };
    const count = Math.ceil((megabytes * 2 ** 20) / JSON.stringify(stroke).length);
    const brush = (n: number) => ({ kind: 'brush', strokes: Array.from({ length: n }, () => stroke) });
    return whole({
      masks: [{ id: 'm', parts: [brush(count)] }],
      steps: [{ kind: 'wash', mask: 'm', settings: {} }],
    });
  };
  const doorsIn = (treatment: unknown): [string, string, string, unknown][] => [
    ['a take', 'PUT', `/api/takes/${take}/treatment`, { revision: 1, treatment, label: 'Strokes' }],
    ['a look', 'POST', '/api/looks', { name: 'Strokes', group: 'Doors', treatment }],
    ['a shared look', 'POST', `/api/series/${series}/looks`, { name: 'Strokes', treatment }],
    [
      'a patch',
      'PATCH',
      `/api/takes/${take}/treatment`,
      {
        revision: 1,
        patch: [{ op: 'add', path: '/masks', value: (treatment as { masks: unknown }).masks }],
        label: 'Strokes',
      },
    ],
  ];
  let longest = 0;
  for (const [what, method, path, body] of doorsIn(strokes(18))) {
    const stop = watchHealth(tally, faults, app.url);
    await may(`18 MB of strokes by ${what}`, [400, 413, 422], ask(method, path, body));
    // Small on its way, large when it is there.
    const packed = gzipSync(JSON.stringify(body));
    await may(
      `18 MB of strokes packed, by ${what}`,
      [400, 413, 415, 422],
      ask(method, path, packed, { 'Content-Encoding': 'gzip' }),
    );
    const ms = Math.round(await stop());
    longest = Math.max(longest, ms);
  }
  // Five megabytes are within bounds: they are taken, shown and given back.
  const stop = watchHealth(tally, faults, app.url);
  const [[, method, path, body]] = doorsIn(strokes(5));
  await may('5 MB of strokes', [200], ask(method, path, body));
  await may('their picture', [200], ask('GET', `/api/takes/${take}/picture?edge=160`));
  await may(
    'a card of them',
    [200],
    ask('POST', `/api/series/${series}/contact-sheet`, { takes: [take], settings: { kind: 'card' } }),
  );
  longest = Math.max(longest, Math.round(await stop()));
  notes.push(`strokes beyond 4 MB: health within ${longest} ms`);
  await allIsWell();
}, 240_000);

it('who has no passphrase, or a token that is none, gets nothing of any door; a token makes no other', async () => {
  const LAMPWASH_PASSPHRASE = 'slack water at noon';
  const closed = await startApp({ LAMPWASH_DEMO: '0', LAMPWASH_PASSPHRASE });
  try {
    const { paths } = (await (await fetch(`${app.url}/api/openapi.json`)).json()) as {
      paths: Record<string, Record<string, unknown>>;
    };
    const routes = Object.entries(paths).flatMap(([path, methods]) =>
      Object.keys(methods).map(method => ({
        method: method.toUpperCase(),
        path: path.replace(/\{\w+\}/g, '7f0c9a52-1a65-4c4e-9f5c-0d2b6a3c1e01'),
      })),
    );
    const signedIn = await fetch(`${closed.url}/sign-in`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/x-www-form-urlencoded', Origin: closed.url },
      body: new URLSearchParams({ passphrase: LAMPWASH_PASSPHRASE }),
      redirect: 'manual',
    });
    const Cookie = signedIn.headers.getSetCookie()[0].split(';')[0];
    const given = await fetch(`${closed.url}/api/tokens`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Origin: closed.url, Cookie },
      body: JSON.stringify({ name: 'Press' }),
    });
    const { token } = (await given.json()) as { token: string };
    const half = token.slice(0, -1) + (token.endsWith('A') ? 'B' : 'A');
    const strangers: Record<string, string>[] = [
      {},
      { Authorization: 'Bearer' },
      { Authorization: `Bearer ${half}` },
      { Authorization: `Bearer ${token}${token}` },
      { Authorization: `Bearer ${'x'.repeat(8000)}` },
      { Authorization: `Basic ${Buffer.from(`:${LAMPWASH_PASSPHRASE}`).toString('base64')}` },
      { Cookie: `lampwash=${token}` },
      { Cookie: `${Cookie.slice(0, -2)}xx` },
      { 'X-Forwarded-For': '127.0.0.1', 'X-Forwarded-User': 'root' },
    ];
    const stop = watchHealth(tally, faults, closed.url);
    let entered = 0;
    await each(routes, 4, async ({ method, path }, i) => {
      if (path === '/api/health') return;
      // Every stranger at some doors, and at each door one with nothing.
      for (const headers of [{}, strangers[i % strangers.length]]) {
        const answer = await tried(tally, faults, `${closed.url}${path}`, { method, headers });
        if (answer && answer.status !== 401) {
          entered++;
          faults.push(`${method} ${path} with ${JSON.stringify(headers).slice(0, 60)}: ${answer.status}`);
        }
      }
      // A token is not a cookie: what makes and ends ways in is not its.
      if (!/tokens|sign-ins/.test(path)) return;
      const answer = await tried(tally, faults, `${closed.url}${path}`, {
        method,
        headers: { Authorization: `Bearer ${token}` },
      });
      if (answer?.status !== 401) faults.push(`${method} ${path} with a token: ${answer?.status}`);
    });
    const own = await fetch(`${closed.url}/api/series`, { headers: { Authorization: `Bearer ${token}` } });
    expect(own.status).toBe(200);
    notes.push(
      `${routes.length} routes behind a passphrase: entered ${entered}; health within ${Math.round(await stop())} ms`,
    );
  } finally {
    await closed.close();
  }
  await allIsWell();
}, 240_000);
