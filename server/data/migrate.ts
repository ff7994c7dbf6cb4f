import type { Sequelize, Transaction } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import * as shelf from './migrations/0001-shelf';
import * as colourTables from './migrations/0002-colour-tables';
import * as pigments from './migrations/0003-pigments';
import * as smallSaves from './migrations/0004-small-saves';
import * as attempts from './migrations/0005-attempts';

/** Statements, or what is run where statements do not serve. */
type Way = string[] | ((sequelize: Sequelize, transaction: Transaction) => Promise<void>);

const migrations: Record<string, { up: Way; down: Way }> = {
  '0001-shelf': shelf,
  '0002-colour-tables': colourTables,
  '0003-pigments': pigments,
  '0004-small-saves': smallSaves,
  '0005-attempts': attempts,
};

/** The migrations of this version, ready to go up or down. Each runs in a transaction of its own. */
export function migrator(sequelize: Sequelize): Umzug<Sequelize> {
  const run = (way: Way) => () =>
    sequelize.transaction(async transaction => {
      if (typeof way === 'function') return way(sequelize, transaction);
      for (const statement of way) await sequelize.query(statement, { transaction });
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
