import { QueryTypes } from 'sequelize';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { testServer, type TestServer } from '../testing/server';
import { bringUpToDate, migrator, needThisVersion } from './migrate';
import { Series } from './models';

let server: TestServer;
beforeAll(async () => void (server = await testServer()));
afterAll(() => server.close());

it('migrations go down and up again', async () => {
  const { sequelize } = server.services;
  const umzug = migrator(sequelize);
  await umzug.down({ to: 0 });
  const tables = await sequelize.query<{ name: string }>(
    "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = 'public'",
    { type: QueryTypes.SELECT },
  );
  expect(tables.map(t => t.name)).toEqual(['migrations']);
  await expect(needThisVersion(sequelize)).rejects.toThrow('earlier version');
  // Servers that start at once wait for one another.
  await Promise.all([bringUpToDate(sequelize), bringUpToDate(sequelize), bringUpToDate(sequelize)]);
  await needThisVersion(sequelize);
  expect(await Series.count()).toBe(0);
});

it('a database of a newer version is refused, named, and not touched', async () => {
  const { sequelize } = server.services;
  await sequelize.query(`INSERT INTO migrations (name) VALUES ('0999-from-tomorrow')`);
  await expect(bringUpToDate(sequelize)).rejects.toThrow('newer version');
  await expect(bringUpToDate(sequelize)).rejects.toThrow('0999-from-tomorrow');
  await expect(needThisVersion(sequelize)).rejects.toThrow('newer version');
  expect(await Series.count()).toBe(0);
  await sequelize.query(`DELETE FROM migrations WHERE name = '0999-from-tomorrow'`);
  await bringUpToDate(sequelize);
});
