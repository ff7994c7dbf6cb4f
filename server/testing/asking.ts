import request from 'supertest';
import { expect } from 'vitest';
import type { SendOut } from '../../contract/send-outs';
import { parseTreatment } from '../../core/treatment/schema';
import { makeSendOut } from '../jobs/send-out';
import { png8 } from './pictures';
import type { TestServer } from './server';

/** What tests of the API ask of a server again and again. */

export const treatmentOf = (...steps: object[]) =>
  parseTreatment({ format: 'lampwash-treatment', version: 1, steps });

export const light = (exposure: number) => treatmentOf({ kind: 'light', settings: { exposure } });

export interface Brought {
  id: string;
  currentTakeId: string;
  sha256: string;
  takes: { id: string; letter: string }[];
}

/** Asks the server that there is when it is asked. */
export function asking(server: () => TestServer) {
  const http = () => request(server().app);
  const newSeries = async (title = 'Low water') =>
    (await http().post('/api/series').send({ title })).body as { id: string };
  const bringIn = (seriesId: string, file: Buffer, name = 'picture.png') =>
    http().post(`/api/series/${seriesId}/photographs?again=1`).attach('file', file, name);
  /** A photograph in a series: small, of many colours, where no file is given. */
  const photographIn = async (seriesId: string, file?: Buffer): Promise<Brought> => {
    const bytes = file ?? (await png8(60, 40, (x, y) => [x * 4, y * 6, 128]));
    const { status, body } = await bringIn(seriesId, bytes);
    expect(status).toBe(201);
    return body as Brought;
  };
  /** Sends a take out, and makes its file here. */
  const sent = async (
    series: string,
    take: string,
    settings: object,
  ): Promise<{ row: SendOut; file: Buffer }> => {
    const { status, body } = await http()
      .post('/api/send-outs')
      .send({ series, takes: [take], settings });
    expect(status, JSON.stringify(body)).toBe(201);
    const [{ id }] = body as SendOut[];
    await makeSendOut(server().services, id);
    const { body: list } = await http().get(`/api/send-outs?series=${series}`);
    const row = (list as SendOut[]).find(s => s.id === id)!;
    expect(row.problem).toBeNull();
    const { body: file } = await http().get(`/api/send-outs/${id}/file`).responseType('blob');
    return { row, file: file as Buffer };
  };
  return { http, newSeries, bringIn, photographIn, sent };
}
