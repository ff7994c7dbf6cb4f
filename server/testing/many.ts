import type { Express } from 'express';
import request from 'supertest';
import type { Batch } from '../../contract/batches';
import type { Series } from '../../contract/series';
import { png8 } from './pictures';

/** Series of several photographs, and changes of many of them. */

/** A series of so many small photographs, each of another colour. */
export async function seriesOf(app: Express, count: number): Promise<Series> {
  const { id } = (await request(app).post('/api/series').send({ title: 'Many' })).body as Series;
  for (let i = 0; i < count; i++) {
    const file = await png8(20, 14, () => [90, 120, 60 + i]);
    await request(app).post(`/api/series/${id}/photographs`).attach('file', file, `p${i}.png`);
  }
  return (await request(app).get(`/api/series/${id}`)).body as Series;
}

/** A change of many once it is over. */
export async function batchOver(app: Express, id: string): Promise<Batch> {
  for (let i = 0; i < 400; i++) {
    const batch = (await request(app).get(`/api/batches/${id}`)).body as Batch;
    if (batch.state !== 'running') return batch;
    await new Promise(done => setTimeout(done, 25));
  }
  throw new Error('never over');
}
