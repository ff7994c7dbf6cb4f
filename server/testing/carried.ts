import { createHash } from 'node:crypto';
import request from 'supertest';
import type { Express } from 'express';

/** Sends bytes that treatments can refer to, as a client does; the answer, and the reference. */
export async function sendCarried(app: Express, kind: 'table' | 'picture', bytes: Buffer) {
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const answer = await request(app)
    .put(`/api/carried/${kind}/${sha256}`)
    .set('Content-Type', 'application/octet-stream')
    .send(bytes);
  return { answer, reference: { sha256 } };
}
