import { parentPort, workerData } from 'node:worker_threads';

/** Asks a server how it is, again and again, until told to stop; then tells the longest that it took, and what was wrong. */
const { url, patience } = workerData;
const wrong = [];
let longest = 0;
let isOver = false;
parentPort.once('message', () => (isOver = true));

while (!isOver) {
  const from = performance.now();
  try {
    const response = await fetch(`${url}/api/health`, { signal: AbortSignal.timeout(patience) });
    await response.text();
    if (response.status !== 200) wrong.push(`health: ${response.status}`);
  } catch (error) {
    wrong.push(`health: ${error}`);
  }
  longest = Math.max(longest, performance.now() - from);
  await new Promise(done => setTimeout(done, 50));
}
parentPort.postMessage({ longest, wrong });
