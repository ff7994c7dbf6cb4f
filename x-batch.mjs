import { readdirSync } from 'node:fs';import { join } from 'node:path';import { root } from './scripts/ensure.mjs';
/** The demo's photographs sent out at once by a server, and one after another by sharp. */
async function batchThroughServer() {
  const { withServer } = await import('./scripts/temporary.mjs');
  const { default: sharp } = await import('sharp');
  let result;
  await withServer(async url => {
    const api = async (path, body) => {
      const response = await fetch(url + path, {
        ...(body && {
          method: 'POST',
          body: JSON.stringify(body),
          headers: { 'Content-Type': 'application/json' },
        }),
      });
      if (!response.ok) throw new Error(await response.text());
      return response.json();
    };
    const list = await api('/api/series');
    const series = await api(`/api/series/${list.find(s => s.title === 'Saltmarsh Ferry').id}`);
    const takes = series.photographs.map(p => p.currentTakeId);
    // What is fetched and read for the first time is not what is measured.
    await new Promise(done => setTimeout(done, 3000));
    const began = performance.now();
    await api('/api/send-outs', { series: series.id, takes, settings: {} });
    for (;;) {
      const rows = await api(`/api/send-outs?series=${series.id}`);
      const failed = rows.find(row => row.state === 'failed');
      if (failed) throw new Error(failed.problem);
      if (rows.filter(row => row.state === 'done').length === takes.length) break;
      await new Promise(done => setTimeout(done, 20));
    }
    const server = performance.now() - began;
    const files = readdirSync(join(root, 'demo/photographs')).filter(name => name.endsWith('.jpg'));
    const plainBegan = performance.now();
    for (const name of files.slice(0, takes.length)) {
      await sharp(join(root, 'demo/photographs', name))
        .recomb([
          [0.3, 0.6, 0.1],
          [0.3, 0.6, 0.1],
          [0.3, 0.6, 0.1],
        ])
        .jpeg({ quality: 90, chromaSubsampling: '4:4:4' })
        .toBuffer();
    }
    result = { server, plain: performance.now() - plainBegan };
  });
  return result;
}

const b=await batchThroughServer();console.log(b, b.server/b.plain);