import type { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import * as shelf from './migrations/0001-shelf';
import * as colourTables from './migrations/0002-colour-tables';
import * as pigments from './migrations/0003-pigments';

const migrations = { '0001-shelf': shelf, '0002-colour-tables': colourTables, '0003-pigments': pigments };

/** The migrations of this version, ready to go up or down. Each runs in a transaction of its own. */
export function migrator(sequelize: Sequelize): Umzug<Sequelize> {
  const run = (statements: string[]) => () =>
    sequelize.transaction(async transaction => {
      for (const statement of statements) await sequelize.query(statement, { transaction });
    });
  return new Umzug({
    migrations: Object.entries(migrations).map(([name, { up, down }]) => ({
      name,
      up: run(up),
      down: run(down),
    })),
    context: sequelize,
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
}
