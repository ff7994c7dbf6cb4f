import { randomUUID } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeGreyPng } from '../../core/formats/grey-png';
import { nameOfBytes } from '../../core/formats/carried';
import { readTreatmentFile } from '../../core/treatment/carrying';
import { testServer, type TestServer } from '../testing/server';
import { carriedBytes } from './carried';
import { forgetStates, historyAbout, stateOfTake, treatmentOf, undo } from './history';
import { migrator } from './migrate';
import { ColourTable, SendOut, Take } from './models';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const CUBE = 'LUT_1D_SIZE 2\n0 0 0\n1 0.9 0.7\n# fin\n';
const PNG = Buffer.from(
  writeGreyPng(
    Uint8Array.from({ length: 12 }, (_, i) => i * 20),
    4,
    3,
  ),
);

/** A treatment as the version before this saved it: what it carries stands in it. */
const before = (exposure: number, more: object = {}) => ({
  format: 'lampwash-treatment',
  version: 1,
  strength: 1,
  steps: [{ id: 's1', kind: 'light', settings: { exposure }, enabled: exposure < 2 }],
  masks: [],
  tables: {},
  ...more,
});

const carrying = {
  masks: [
    { id: 'm1', name: 'From a file', parts: [{ kind: 'picture', op: 'add', png: PNG.toString('base64') }] },
  ],
  tables: { 'Lamp oil': CUBE },
};

// The database goes a version back first, which it can as long as nothing newer is in it.
describe('what earlier versions saved', { shuffle: false }, () => {
  describe('a database of the version before this', () => {
    it('comes over with every state, undo and redo, its tables and areas kept once; and goes back', async () => {
      const { sequelize } = server.services;
      const run = (sql: string, bind: unknown[] = []) => sequelize.query(sql, { bind });
      const umzug = migrator(sequelize);
      await umzug.down({ to: '0004-small-saves' });

      const [series, photograph, take, bare, sendOut, table] = Array.from({ length: 6 }, () => randomUUID());
      const original = 'a'.repeat(64);
      await run(`INSERT INTO blobs (sha256, size) VALUES ($1, 1)`, [original]);
      await run(`INSERT INTO series (id, title) VALUES ($1, 'Before')`, [series]);
      await run(
        `INSERT INTO photographs (id, series_id, place, title, file_name, sha256, media_type, width, height, bits, grey)
       VALUES ($1, $2, 1, 'Boat', 'boat.png', $3, 'image/png', 4, 3, 8, false)`,
        [photograph, series, original],
      );
      const states = [
        before(0),
        before(1),
        before(1, carrying),
        before(1.5, carrying),
        before(3, carrying),
        // A branch from the second.
        before(-1),
      ];
      const parents = [null, 0, 1, 2, 3, 1];
      for (const id of [take, bare]) {
        await run(
          `INSERT INTO takes (id, photograph_id, letter, revision, current_state, redo_tip) VALUES ($1, $2, $3, 7, $4, $5)`,
          id === take ? [id, photograph, 'A', 3, 4] : [id, photograph, 'B', 0, 0],
        );
      }
      for (const [number, treatment] of states.entries()) {
        await run(
          `INSERT INTO take_states (take_id, number, parent, label, treatment) VALUES ($1, $2, $3, $4, $5)`,
          [take, number, parents[number], `e${number}`, JSON.stringify(treatment)],
        );
      }
      await run(`INSERT INTO take_states (take_id, number, parent, treatment) VALUES ($1, 0, NULL, $2)`, [
        bare,
        JSON.stringify(before(0)),
      ]);
      await run(
        `INSERT INTO send_outs (id, take_id, series_id, treatment, settings, file_name) VALUES ($1, $2, $3, $4, '{}', 'x.jpg')`,
        [sendOut, take, series, JSON.stringify(states[2])],
      );
      await run(`INSERT INTO colour_tables (id, name, cube) VALUES ($1, 'Lamp oil', $2)`, [table, CUBE]);

      await umzug.up();
      forgetStates();
      const found = (await Take.findByPk(take))!;
      for (const [number, treatment] of states.entries()) {
        expect(await treatmentOf(found, number)).toEqual(readTreatmentFile(treatment));
      }
      expect(await stateOfTake(found)).toMatchObject({ revision: 7, state: 3, undo: 'e3', redo: 'e4' });
      const { past, future } = await historyAbout(found, 3, 50);
      expect([...past, ...future].map(s => s.state)).toEqual([1, 2, 3, 4]);
      expect(await undo(sequelize, take, { revision: 7 })).toMatchObject({ state: 2, redo: 'e3' });
      const cube = nameOfBytes(Buffer.from(CUBE));
      expect((await ColourTable.findByPk(table))!.sha256).toBe(cube);
      expect((await carriedBytes(sequelize, cube))!.toString()).toBe(CUBE);
      expect(await carriedBytes(sequelize, nameOfBytes(PNG))).toEqual(PNG);
      expect((await SendOut.findByPk(sendOut))!.treatment).toEqual(readTreatmentFile(states[2]));
      const rows = await sequelize.query<{ bytes: number; kinds: string[] }>(
        `SELECT coalesce(octet_length(patch::text), octet_length(treatment::text)) AS bytes, kinds
         FROM take_states WHERE take_id = $1 ORDER BY number`,
        { bind: [take], type: QueryTypes.SELECT },
      );
      expect(Math.max(...rows.map(r => r.bytes))).toBeLessThan(600);
      expect(rows.map(r => r.kinds.length)).toEqual([1, 1, 1, 1, 0, 1]);

      await umzug.down({ to: '0004-small-saves' });
      const old = await sequelize.query<{ treatment: unknown }>(
        'SELECT treatment FROM take_states WHERE take_id = $1 ORDER BY number',
        { bind: [take], type: QueryTypes.SELECT },
      );
      expect(old.map(s => s.treatment)).toEqual(states);
      const [kept] = await sequelize.query<{ cube: string }>('SELECT cube FROM colour_tables', {
        type: QueryTypes.SELECT,
      });
      expect(kept.cube).toBe(CUBE);
      await umzug.up();
    });
  });

  describe('a state that an earlier version saved', () => {
    it('is read before a patch of a later version is laid on it, which touches what it lacks', async () => {
      const { sequelize } = server.services;
      const [series, photograph, take] = Array.from({ length: 3 }, () => randomUUID());
      const run = (sql: string, bind: unknown[]) => sequelize.query(sql, { bind });
      const original = 'b'.repeat(64);
      await run(`INSERT INTO blobs (sha256, size) VALUES ($1, 1)`, [original]);
      await run(`INSERT INTO series (id, title) VALUES ($1, 'Early')`, [series]);
      await run(
        `INSERT INTO photographs (id, series_id, place, title, file_name, sha256, media_type, width, height, bits, grey)
       VALUES ($1, $2, 1, 'Boat', 'boat.png', $3, 'image/png', 4, 3, 8, false)`,
        [photograph, series, original],
      );
      await run(
        `INSERT INTO takes (id, photograph_id, letter, revision, current_state, redo_tip) VALUES ($1, $2, 'A', 3, 2, 2)`,
        [take, photograph],
      );
      // Without groups, without a depth; a group that is only named.
      const early = {
        ...before(0),
        steps: [
          { id: 's1', kind: 'tint', group: 'Base' },
          {
            id: 's2',
            kind: 'wash',
            group: 'Base',
            settings: { pigment: { kind: 'flat', colour: '#a04020' } },
          },
        ],
      };
      const patches = [
        [{ op: 'replace', path: '/steps/1/settings/depth', value: 0.4 }],
        [{ op: 'replace', path: '/groups/0/strength', value: 0.5 }],
      ];
      const state = `INSERT INTO take_states (take_id, number, parent, label, treatment, patch, kinds, steps)`;
      await run(`${state} VALUES ($1, 0, NULL, 'Early', $2, NULL, '{}', 2)`, [take, JSON.stringify(early)]);
      for (const [i, patch] of patches.entries()) {
        await run(`${state} VALUES ($1, $2, $3, 'Later', NULL, $4, '{}', 2)`, [
          take,
          i + 1,
          i,
          JSON.stringify(patch),
        ]);
      }
      forgetStates();
      const found = (await Take.findByPk(take))!;
      const now = await treatmentOf(found, 2);
      expect(now.groups).toEqual([{ id: 'Base', name: 'Base', strength: 0.5 }]);
      expect(now.steps[1].settings).toMatchObject({ depth: 0.4 });
      expect((await treatmentOf(found, 0)).steps[1].settings).toMatchObject({ depth: 0 });
      expect(await undo(sequelize, take, { revision: 3 })).toMatchObject({ state: 1 });
    });
  });
});
