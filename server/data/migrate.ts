import type { Sequelize, Transaction } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import * as shelf from './migrations/0001-shelf';
import * as colourTables from './migrations/0002-colour-tables';
import * as pigments from './migrations/0003-pigments';
import * as smallSaves from './migrations/0004-small-saves';
import * as attempts from './migrations/0005-attempts';
import * as room from './migrations/0006-room';
import * as signIns from './migrations/0007-sign-ins';
import * as depth from './migrations/0008-depth';
import * as looks from './migrations/0009-looks';
import * as batches from './migrations/0010-batches';
import * as sharedLooks from './migrations/0011-shared-looks';
import * as sheet from './migrations/0012-sheet';
import * as takeOrder from './migrations/0013-take-order';
import * as sendingOut from './migrations/0014-sending-out';
import * as notes from './migrations/0015-notes';
import * as demo from './migrations/0016-demo';
import * as waysIn from './migrations/0017-ways-in';
import * as tokens from './migrations/0018-tokens';
import * as lastUse from './migrations/0019-last-use';

/** Statements, or what is run where statements do not serve. */
type Way = string[] | ((sequelize: Sequelize, transaction: Transaction) => Promise<void>);

const migrations: Record<string, { up: Way; down: Way }> = {
  '0001-shelf': shelf,
  '0002-colour-tables': colourTables,
  '0003-pigments': pigments,
  '0004-small-saves': smallSaves,
  '0005-attempts': attempts,
  '0006-room': room,
  '0007-sign-ins': signIns,
  '0008-depth': depth,
  '0009-looks': looks,
  '0010-batches': batches,
  '0011-shared-looks': sharedLooks,
  '0012-sheet': sheet,
  '0013-take-order': takeOrder,
  '0014-sending-out': sendingOut,
  '0015-notes': notes,
  '0016-demo': demo,
  '0017-ways-in': waysIn,
  '0018-tokens': tokens,
  '0019-last-use': lastUse,
};

const storageOf = (sequelize: Sequelize) => new SequelizeStorage({ sequelize, tableName: 'migrations' });

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
    storage: storageOf(sequelize),
    logger: undefined,
  });
}

/** The names of the migrations that a database has had. */
export const executedMigrations = (sequelize: Sequelize): Promise<string[]> =>
  storageOf(sequelize).executed();

/** Names, in this version's own order, and what of a database it does not know. */
async function stateOf(sequelize: Sequelize) {
  const done = await executedMigrations(sequelize);
  return {
    missing: Object.keys(migrations).filter(name => !done.includes(name)),
    unknown: done.filter(name => !(name in migrations)),
  };
}

function refuseNewer(unknown: readonly string[]): void {
  if (!unknown.length) return;
  throw new Error(
    `the database was made by a newer version of it (which knows ${unknown.join(', ')}). Nothing was changed: use that version, or set LAMPWASH_HOME to another folder`,
  );
}

/** Any number that nothing else locks by. */
const LOCK = 4870_0001;

/**
 * Brings a database to this version, one server at a time. Throws an Error where it is of a newer one, and changes
 * nothing then.
 */
export async function bringUpToDate(sequelize: Sequelize): Promise<void> {
  await sequelize.transaction(async transaction => {
    await sequelize.query(`SELECT pg_advisory_xact_lock(${LOCK})`, { transaction });
    refuseNewer((await stateOf(sequelize)).unknown);
    await migrator(sequelize).up();
  });
}

/** Refuses a database that is of another version. Throws an Error. */
export async function needThisVersion(sequelize: Sequelize): Promise<void> {
  const { missing, unknown } = await stateOf(sequelize);
  refuseNewer(unknown);
  if (missing.length) {
    throw new Error('the database is of an earlier version: start the server of this version first');
  }
}
