import type { Sequelize, Transaction } from 'sequelize';
import type { Treatment } from '../../core/treatment/schema';
import { Take, TakeState } from './models';

/**
 * A take's treatments as a tree of states that only grows: each state knows the one it was made from, the
 * take knows its current state and the tip that redo leads to. Undoing moves towards the root; a new edit
 * after it grows a new branch, and the old one stays.
 */

/** A save that started from a revision that is no longer the newest. */
export class StaleRevision extends Error {
  constructor(readonly newest: TakeView) {
    super('This take was changed elsewhere.');
  }
}

export interface TakeView {
  id: string;
  photographId: string;
  letter: string;
  name: string;
  revision: number;
  treatment: Treatment;
  /** What undo would take back, and redo bring again; null where there is nothing. */
  undo: string | null;
  redo: string | null;
}

async function stateOf(take: Take, number: number, transaction?: Transaction): Promise<TakeState> {
  const state = await TakeState.findOne({ where: { takeId: take.id, number }, transaction });
  if (!state) throw new Error(`take ${take.id} has no state ${number}`);
  return state;
}

/** The state after the current one on the way to the tip. */
async function nextState(take: Take, transaction?: Transaction): Promise<TakeState | null> {
  if (take.redoTip === take.currentState) return null;
  const [rows] = await take.sequelize.query(
    `WITH RECURSIVE way AS (
       SELECT number, parent, label FROM take_states WHERE take_id = $1 AND number = $2
       UNION ALL
       SELECT s.number, s.parent, s.label FROM take_states s JOIN way ON s.number = way.parent
        WHERE s.take_id = $1 AND way.number > $3)
     SELECT number FROM way WHERE parent = $3`,
    { bind: [take.id, take.redoTip, take.currentState], transaction },
  );
  const [row] = rows as { number: number }[];
  return row ? stateOf(take, row.number, transaction) : null;
}

/** A take as clients see it. */
export async function viewTake(take: Take, transaction?: Transaction): Promise<TakeView> {
  const state = await stateOf(take, take.currentState, transaction);
  const next = await nextState(take, transaction);
  return {
    id: take.id,
    photographId: take.photographId,
    letter: take.letter,
    name: take.name,
    revision: take.revision,
    treatment: state.treatment,
    undo: state.parent === null ? null : state.label,
    redo: next ? next.label : null,
  };
}

/** The current treatment of a take. */
export async function currentTreatment(take: Take): Promise<Treatment> {
  return (await stateOf(take, take.currentState)).treatment;
}

async function locked(
  sequelize: Sequelize,
  takeId: string,
  revision: number,
  change: (take: Take, transaction: Transaction) => Promise<void>,
): Promise<TakeView | null> {
  return sequelize.transaction(async transaction => {
    const take = await Take.findOne({
      where: { id: takeId, deletedAt: null },
      lock: transaction.LOCK.UPDATE,
      transaction,
    });
    if (!take) return null;
    if (take.revision !== revision) throw new StaleRevision(await viewTake(take, transaction));
    await change(take, transaction);
    take.revision++;
    await take.save({ transaction });
    return viewTake(take, transaction);
  });
}

/** Saves a treatment made from `revision`. Throws StaleRevision; null where there is no such take. */
export function saveTreatment(
  sequelize: Sequelize,
  takeId: string,
  revision: number,
  treatment: Treatment,
  label: string,
): Promise<TakeView | null> {
  return locked(sequelize, takeId, revision, async (take, transaction) => {
    const highest = (await TakeState.max('number', { where: { takeId }, transaction })) as number;
    const number = highest + 1;
    await TakeState.create({ takeId, number, parent: take.currentState, label, treatment }, { transaction });
    take.currentState = number;
    take.redoTip = number;
  });
}

/** One step back towards the first state; nothing changes at the first. */
export function undo(sequelize: Sequelize, takeId: string, revision: number): Promise<TakeView | null> {
  return locked(sequelize, takeId, revision, async (take, transaction) => {
    const { parent } = await stateOf(take, take.currentState, transaction);
    if (parent !== null) take.currentState = parent;
  });
}

/** One step towards the tip. */
export function redo(sequelize: Sequelize, takeId: string, revision: number): Promise<TakeView | null> {
  return locked(sequelize, takeId, revision, async (take, transaction) => {
    const next = await nextState(take, transaction);
    if (next) take.currentState = next.number;
  });
}

const letterAt = (n: number): string =>
  (n < 26 ? '' : letterAt(Math.floor(n / 26) - 1)) + String.fromCharCode(65 + (n % 26));

/** Makes a take with a first state, named with the next free letter. */
export async function createTake(
  photographId: string,
  treatment: Treatment,
  name: string,
  transaction: Transaction,
): Promise<Take> {
  const taken = new Set((await Take.findAll({ where: { photographId }, transaction })).map(t => t.letter));
  let n = 0;
  while (taken.has(letterAt(n))) n++;
  const take = await Take.create({ photographId, letter: letterAt(n), name }, { transaction });
  await TakeState.create({ takeId: take.id, number: 0, parent: null, label: '', treatment }, { transaction });
  return take;
}
