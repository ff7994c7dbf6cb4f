import { strFromU8, unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cubeOf } from '../../core/engine/cube';
import { writeCube } from '../../core/formats/cube';
import { bareTreatment } from '../../core/treatment/treatment';
import { asking } from '../testing/asking';
import { testServer, type TestServer } from '../testing/server';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());
const { http, newSeries, photographIn } = asking(() => server);

describe('treatments as files', () => {
  it('hold all that they carry, and go in again as they came out', async () => {
    const series = await newSeries('Low water');
    const { currentTakeId: take } = await photographIn(series.id);
    const table = writeCube(cubeOf(bareTreatment(), 5));
    const treatment = {
      format: 'lampwash-treatment',
      version: 1,
      steps: [{ kind: 'colour-table', name: 'Ours', settings: { table: 't' } }, { kind: 'mono' }],
      tables: { t: table },
    };
    await http().put(`/api/takes/${take}/treatment`).send({ revision: 1, treatment });
    const ask = (takes: string[]) => http().post(`/api/series/${series.id}/treatment-files`).send({ takes });
    const one = await ask([take]).responseType('blob');
    expect(one.headers['content-disposition']).toContain('picture-a.treatment.json');
    const file = JSON.parse((one.body as Buffer).toString()) as { tables: object; steps: { name: string }[] };
    expect(file.tables).toEqual({ t: table });
    expect(file.steps.map(s => s.name)).toEqual(['Ours', '']);

    const { currentTakeId: other } = await photographIn(series.id);
    const put = await http().put(`/api/takes/${other}/treatment`).send({ revision: 1, treatment: file });
    expect(put.status).toBe(200);
    const both = await ask([other, take]).responseType('blob');
    expect(both.headers['content-disposition']).toContain('low-water-treatments.zip');
    const files = unzipSync(new Uint8Array(both.body as Buffer));
    expect(Object.keys(files)).toEqual(['picture-a.treatment.json', 'picture-a-2.treatment.json']);
    for (const bytes of Object.values(files)) expect(JSON.parse(strFromU8(bytes))).toEqual(file);
  });

  it('are of takes of this series', async () => {
    const [series, elsewhere] = [await newSeries(), await newSeries()];
    const { currentTakeId: take } = await photographIn(elsewhere.id);
    const { status } = await http()
      .post(`/api/series/${series.id}/treatment-files`)
      .send({ takes: [take] });
    expect(status).toBe(404);
  });
});
