import { createHash } from 'node:crypto';
import { request } from 'node:https';
import { URLSearchParams } from 'node:url';
import sharp from 'sharp';

/** Somebody on another host of the studio: first tries to come in without the passphrase, then works. Says numbers, as JSON lines. */

const [address, port, passphrase, work, count] = process.argv.slice(2);
const tell = value => console.log(JSON.stringify(value));
let cookie = '';

/** Asks the server by TLS; its certificate is its own, which a person compares by its fingerprint. */
function ask(method, path, { body, type, headers = {} } = {}) {
  return new Promise((resolve, reject) => {
    const options = {
      host: address,
      port,
      method,
      path,
      rejectUnauthorized: false,
      headers: { ...(cookie && { Cookie: cookie }), ...(type && { 'Content-Type': type }), ...headers },
    };
    const asked = request(options, answer => {
      const chunks = [];
      answer.on('data', chunk => chunks.push(chunk));
      answer.on('end', () => {
        const bytes = Buffer.concat(chunks);
        const isJson = /json/.test(answer.headers['content-type'] ?? '');
        resolve({
          status: answer.statusCode,
          headers: answer.headers,
          body: isJson ? JSON.parse(bytes) : bytes,
        });
      });
    });
    asked.once('error', reject);
    asked.end(body);
  });
}
const json = (method, path, value) =>
  ask(method, path, { body: JSON.stringify(value), type: 'application/json' });
const signIn = given =>
  ask('POST', '/sign-in', {
    body: new URLSearchParams({ passphrase: given }).toString(),
    type: 'application/x-www-form-urlencoded',
  });

/** A small photograph that no other is like. */
const picture = (i, width, height) =>
  sharp({ create: { width, height, channels: 3, background: { r: i % 256, g: (i >> 8) % 256, b: 90 } } })
    .composite([
      {
        input: Buffer.from(
          `<svg width="${width}" height="${height}"><circle cx="50%" cy="40%" r="30%" fill="#ddd"/></svg>`,
        ),
      },
    ])
    .jpeg({ quality: 85 })
    .toBuffer();

async function bringIn(series, i, width, height) {
  const file = await picture(i, width, height);
  const edge = '----lampwash';
  const head = `--${edge}\r\nContent-Disposition: form-data; name="file"; filename="${i}.jpg"\r\nContent-Type: image/jpeg\r\n\r\n`;
  const body = Buffer.concat([Buffer.from(head), file, Buffer.from(`\r\n--${edge}--\r\n`)]);
  const path = `/api/series/${series}/photographs?again=1`;
  const answer = await ask('POST', path, { body, type: `multipart/form-data; boundary=${edge}` });
  if (answer.status !== 201) throw new Error(`${answer.status} ${JSON.stringify(answer.body)}`);
  return { take: answer.body.currentTakeId, bytes: file.length };
}

const steps = [
  { kind: 'mono', settings: {} },
  { kind: 'light', settings: { exposure: 0.2 } },
  { kind: 'vignette', settings: {} },
  { kind: 'grain', settings: {} },
];
const treatment = { format: 'lampwash-treatment', version: 1, steps };

/** Who comes in, and who does not. */
async function door() {
  const plain = await fetch(`http://${address}:${port}/api/health`).then(
    r => r.status,
    () => 'nothing',
  );
  const without = (await ask('GET', '/api/series')).status;
  const wrong = (await signIn('not the passphrase')).status;
  const right = await signIn(passphrase);
  cookie = right.headers['set-cookie']?.[0].split(';')[0] ?? '';
  const within = (await ask('GET', '/api/series')).status;
  const foreign = (await ask('GET', '/api/series', { headers: { Host: 'rebound.example' } })).status;
  tell({ plain, without, wrong, right: right.status, within, foreign });
}

/** Some photographs sent out; resolves to how long it took, and checks that each file is there once. */
async function batch() {
  const series = (await json('POST', '/api/series', { title: 'A batch' })).body.id;
  const takes = [];
  for (let i = 0; i < Number(count); i++) {
    const { take } = await bringIn(series, i, 1800, 1200);
    const put = await json('PUT', `/api/takes/${take}/treatment`, { revision: 1, treatment, label: 'Tone' });
    if (put.status !== 200) throw new Error(JSON.stringify(put.body));
    takes.push(take);
  }
  const settings = { format: 'jpeg', quality: 90 };
  const from = Date.now();
  const sent = await json('POST', '/api/send-outs', { series, takes, settings });
  tell({ asked: sent.body.length, answered: Date.now() - from });
  let last = -1;
  for (;;) {
    const { body } = await ask('GET', `/api/send-outs?series=${series}`);
    const done = body.filter(each => each.state === 'done').length;
    if (done !== last) tell({ done, at: Date.now() - from });
    last = done;
    if (body.every(each => !['waiting', 'running'].includes(each.state))) {
      const files = new Set();
      for (const { id, state } of body) {
        if (state !== 'done') continue;
        const file = await ask('GET', `/api/send-outs/${id}/file`);
        files.add(createHash('sha256').update(file.body).digest('hex'));
      }
      tell({ rows: body.length, took: Date.now() - from, files: files.size });
      return;
    }
    await new Promise(done => setTimeout(done, 100));
  }
}

/** Many small photographs, for what grows by them. */
async function many() {
  let bytes = 0;
  const from = Date.now();
  let next = 0;
  const series = [];
  const worker = async () => {
    while (next < Number(count)) {
      const i = next++;
      const place = Math.floor(i / 500);
      series[place] ??= json('POST', '/api/series', { title: `Series ${place + 1}` }).then(r => r.body.id);
      bytes += (await bringIn(await series[place], i, 96, 64)).bytes;
    }
  };
  await Promise.all([worker(), worker(), worker(), worker()]);
  const took = Date.now() - from;
  const shelf = Date.now();
  const list = await ask('GET', '/api/series');
  const shelfTook = Date.now() - shelf;
  const sheet = Date.now();
  await ask('GET', `/api/series/${await series[0]}`);
  tell({
    photographs: Number(count),
    bytes,
    took,
    series: list.body.length,
    shelfTook,
    sheetTook: Date.now() - sheet,
  });
}

await door();
await { door: () => undefined, batch, many }[work]();
