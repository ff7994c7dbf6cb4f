import { createHash, randomBytes } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import sharp from 'sharp';
import { afterAll, beforeAll, expect } from 'vitest';
import { startApp, type App } from '../server/testing/running';
import { newTally } from './tally';

/** The server that is tried, what is counted of it, and what must stay as it is whatever is done. */

/** The seed of a run is told; another gives other cases. */
export const SEED = Number(process.env.LAMPWASH_SEED ?? 4870);
export const tally = newTally();
export const faults: string[] = [];
/** What is told at the end. */
export const notes: string[] = [];

export interface Photograph {
  id: string;
  currentTakeId: string;
}
export let app: App & { close: () => Promise<void> };
/** What is never touched, and must be there at the end as it was. */
let witness: { photograph: Photograph; file: Buffer; treatment: unknown };

export const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
export const noise = (width = 120, height = 80) =>
  sharp(randomBytes(width * height * 3), { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
export const newSeries = async (title: string) =>
  (await app.api<{ id: string }>('POST', '/api/series', { title })).id;
const treatmentOf = async (takeId: string) =>
  (await app.api<{ treatment: unknown }>('GET', `/api/takes/${takeId}`)).treatment;
export const light = (exposure: number) => ({
  format: 'lampwash-treatment',
  version: 1,
  steps: [{ kind: 'light', settings: { exposure } }],
});
export const put = (takeId: string, revision: number, treatment: unknown) =>
  app.api<{ revision: number; treatment: unknown }>('PUT', `/api/takes/${takeId}/treatment`, {
    revision,
    treatment,
    label: 'Light',
  });
export async function originalOf(id: string): Promise<Buffer> {
  const response = await fetch(`${app.url}/api/photographs/${id}/original`);
  return Buffer.from(await response.arrayBuffer());
}

/** Runs work on each of many, some at once. */
export async function each<T>(
  list: readonly T[],
  at: number,
  work: (item: T, i: number) => Promise<void>,
): Promise<void> {
  let next = 0;
  const worker = async () => {
    while (next < list.length) {
      const i = next++;
      await work(list[i], i);
    }
  };
  await Promise.all(Array.from({ length: at }, worker));
}

/** Something that was acknowledged is not there. */
export function lose(what: string): void {
  tally.lost++;
  faults.push(`lost: ${what}`);
}

/** Nothing has gone wrong so far, and the witness is as it was. */
export async function allIsWell() {
  if (sha256(await originalOf(witness.photograph.id)) !== sha256(witness.file)) lose('an original');
  const now = await treatmentOf(witness.photograph.currentTakeId);
  if (!isDeepStrictEqual(now, witness.treatment)) lose('a treatment');
  expect(faults).toEqual([]);
  expect([tally['5xx'], tally.hung, tally.lost]).toEqual([0, 0, 0]);
}

/** Has the server started before the tests of a file, and ended after them. */
export function startServer(env: NodeJS.ProcessEnv = {}): void {
  beforeAll(async () => {
    app = await startApp({ LAMPWASH_DEMO: '0', ...env });
    const file = await noise(300, 200);
    const photograph = await app.bringIn(await newSeries('Witness'), file, 'witness.png');
    const { treatment } = await put(photograph.currentTakeId, 1, light(0.25));
    witness = { photograph, file, treatment };
  });
  afterAll(async () => {
    await app?.close();
    console.log(
      `\nhostile: ${JSON.stringify(tally)} (seed ${SEED})${notes.map(note => `\n  ${note}`).join('')}`,
    );
  });
}
