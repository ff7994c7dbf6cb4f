import { LRUCache } from 'lru-cache';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import type { History, TakeState as TakeStateView } from '../../contract/takes';
import { carriedBy } from '../../core/treatment/carried-by';
import { patchBetween, patched, type Operation, type Patch } from '../../core/treatment/patch';
import { patchedOver, toldOf } from '../../core/treatment/saved';
import type { Treatment } from '../../core/treatment/treatment';
import { parseTreatment } from '../../core/treatment/schema';
import { jsonLength } from '../../core/treatment/size';
import { pauseAfter } from '../pause';
import { referToCarried } from './carried';
import { Take, TakeState } from './models';

/**
 * A take's treatments as a tree of states that only grows: each state knows the one it was made from, the
 * take knows its current state and the tip that redo leads to. Undoing moves towards the root; a new edit
 * after it grows a new branch, and the old one stays. A state holds the patch that made it of the one before, and now
 * and then the whole treatment, so that any is rebuilt fast.
 */

/** A change that started from a revision that is no longer the newest. */
export class StaleRevision extends Error {
  constructor(readonly newest: TakeStateView) {
    super('This take was changed elsewhere.');
  }
}

/** Characters of a treatment that is kept whole at once when it is put whole: to find what changed in it would take long. */
const MUCH = 500_000;

/** After so many patches a state is kept whole, however small they are. */
const MOST_PATCHES = 1000;

/** States rebuilt lately, up to so many characters: they never change. */
const rebuilt = new LRUCache<string, Treatment>({
  maxSize: 100e6,
  sizeCalculation: jsonLength,
});

/** Forgets the states rebuilt, after something has written past this module. */
export const forgetStates = (): void => rebuilt.clear();

const keyOf = (takeId: string, number: number) => `${takeId} ${number}`;

interface StateRow {
  number: number;
  parent: number | null;
  label: string;
  patch: Operation[] | null;
  treatment: unknown;
}

/** A state and those before it back to one that is whole, the earliest first. */
async function wayTo(take: Take, number: number, transaction?: Transaction): Promise<StateRow[]> {
  return take.sequelize.query<StateRow>(
    `WITH RECURSIVE way AS (
       SELECT number, parent, label, patch, treatment FROM take_states WHERE take_id = $1 AND number = $2
       UNION ALL
       SELECT s.number, s.parent, s.label, s.patch, s.treatment
         FROM take_states s JOIN way ON s.number = way.parent AND way.treatment IS NULL
        WHERE s.take_id = $1)
     SELECT * FROM way ORDER BY number`,
    { bind: [take.id, number], type: QueryTypes.SELECT, transaction },
  );
}

/** The treatment of a state. Throws an Error where the take has no such state. */
export async function treatmentOf(take: Take, number: number, transaction?: Transaction): Promise<Treatment> {
  const known = rebuilt.get(keyOf(take.id, number));
  if (known) return known;
  const [first, ...rest] = await wayTo(take, number, transaction);
  if (!first) throw new Error(`take ${take.id} has no state ${number}`);
  // Read as any treatment is, so that one that an earlier version saved gets the settings it lacks.
  const treatment = parseTreatment(
    rest.reduce((json, { patch }) => patchedOver(json, patch!), first.treatment),
  );
  rebuilt.set(keyOf(take.id, number), treatment);
  return treatment;
}

/** The current treatment of a take. */
export const currentTreatment = (take: Take): Promise<Treatment> => treatmentOf(take, take.currentState);

/** The states after the current one on the way to the tip, the next first. */
async function statesAhead(take: Take, most: number, transaction?: Transaction): Promise<StateRow[]> {
  if (take.redoTip === take.currentState) return [];
  const rows = await take.sequelize.query<StateRow>(
    `WITH RECURSIVE way AS (
       SELECT number, parent FROM take_states WHERE take_id = $1 AND number = $2
       UNION ALL
       SELECT s.number, s.parent FROM take_states s JOIN way ON s.number = way.parent
        WHERE s.take_id = $1 AND s.number > $3)
     SELECT s.number, s.parent, s.label
       FROM way JOIN take_states s ON s.take_id = $1 AND s.number = way.number
      ORDER BY s.number LIMIT $4`,
    { bind: [take.id, take.redoTip, take.currentState, most], type: QueryTypes.SELECT, transaction },
  );
  return rows[0]?.parent === take.currentState ? rows : [];
}

/** Where a take stands, as clients see it. */
export async function stateOfTake(take: Take, transaction?: Transaction): Promise<TakeStateView> {
  const current = await TakeState.findOne({
    where: { takeId: take.id, number: take.currentState },
    attributes: ['parent', 'label'],
    transaction,
  });
  const [next] = await statesAhead(take, 1, transaction);
  return {
    id: take.id,
    photographId: take.photographId,
    letter: take.letter,
    name: take.name,
    revision: take.revision,
    state: take.currentState,
    command: take.lastCommand,
    undo: current!.parent === null ? null : current!.label,
    redo: next ? next.label : null,
  };
}

/** The same with its treatment. */
export async function viewTake(take: Take, transaction?: Transaction) {
  return {
    ...(await stateOfTake(take, transaction)),
    treatment: await treatmentOf(take, take.currentState, transaction),
  };
}

/** What a change of a take starts from, and its name, by which one whose answer was lost is known again. */
export interface From {
  revision: number;
  command?: string;
}

/**
 * Changes a take that still has the revision that the change was made from. A change of the same name as the last is
 * not made twice. Throws StaleRevision; null where there is no such take.
 */
async function changed(
  sequelize: Sequelize,
  takeId: string,
  { revision, command }: From,
  change: (take: Take, transaction: Transaction) => Promise<void>,
): Promise<TakeStateView | null> {
  return sequelize.transaction(async transaction => {
    const take = await Take.findOne({
      where: { id: takeId, deletedAt: null },
      lock: transaction.LOCK.UPDATE,
      transaction,
    });
    if (!take) return null;
    if (command !== undefined && take.lastCommand === command) return stateOfTake(take, transaction);
    if (take.revision !== revision) throw new StaleRevision(await stateOfTake(take, transaction));
    await change(take, transaction);
    take.revision++;
    take.lastCommand = command ?? null;
    await take.save({ transaction });
    return stateOfTake(take, transaction);
  });
}

/** The length of a treatment as JSON; others are answered before it is written. */
async function measured(treatment: Treatment): Promise<number> {
  const began = performance.now();
  const length = jsonLength(treatment);
  await pauseAfter(began);
  return length;
}

async function addState(
  take: Take,
  treatment: Treatment,
  patch: Patch | null,
  label: string,
  transaction: Transaction,
): Promise<void> {
  const length = await measured(treatment);
  const parent = await TakeState.findOne({
    where: { takeId: take.id, number: take.currentState },
    attributes: ['patchesSince', 'bytesSince'],
    transaction,
  });
  await referToCarried(take.sequelize, { take: take.id }, carriedBy(treatment), transaction);
  const highest = await TakeState.max<number, TakeState>('number', {
    where: { takeId: take.id },
    transaction,
  });
  const number = highest + 1;
  const bytesSince = parent!.bytesSince + (patch ? JSON.stringify(patch).length : 0);
  const patchesSince = parent!.patchesSince + 1;
  // Kept whole when the patches have grown to its size: so all that is kept whole is no more than all patches.
  const isWhole = !patch || patchesSince >= MOST_PATCHES || bytesSince >= length;
  await TakeState.create(
    {
      takeId: take.id,
      number,
      parent: take.currentState,
      label,
      patch: isWhole ? null : [...patch!],
      treatment: isWhole ? treatment : null,
      ...toldOf(treatment),
      bytesSince: isWhole ? 0 : bytesSince,
      patchesSince: isWhole ? 0 : patchesSince,
    },
    { transaction, returning: false },
  );
  transaction.afterCommit(() => void rebuilt.set(keyOf(take.id, number), treatment));
  take.currentState = number;
  take.redoTip = number;
}

/**
 * Lays a patch on the treatment of a revision. `check` reads what it makes, and throws where that is not a treatment.
 * Throws StaleRevision, PatchError, what `check` throws; null where there is no such take.
 */
export function patchTreatment(
  sequelize: Sequelize,
  takeId: string,
  from: From,
  patch: Patch,
  label: string,
  check: (json: unknown) => Promise<Treatment>,
): Promise<TakeStateView | null> {
  return changed(sequelize, takeId, from, async (take, transaction) => {
    const before = await treatmentOf(take, take.currentState, transaction);
    const began = performance.now();
    const made = patched<unknown>(before, patch);
    await pauseAfter(began);
    await addState(take, await check(made), patch, label, transaction);
  });
}

/** Saves a whole treatment made from a revision. Throws StaleRevision; null where there is no such take. */
export function saveTreatment(
  sequelize: Sequelize,
  takeId: string,
  from: From,
  treatment: Treatment,
  label: string,
): Promise<TakeStateView | null> {
  return changed(sequelize, takeId, from, async (take, transaction) => {
    const before = await treatmentOf(take, take.currentState, transaction);
    const length = await measured(treatment);
    const patch = length > MUCH ? null : patchBetween(before, treatment);
    await addState(take, treatment, patch, label, transaction);
  });
}

/** One step back towards the first state; nothing changes at the first. */
export function undo(sequelize: Sequelize, takeId: string, from: From): Promise<TakeStateView | null> {
  return changed(sequelize, takeId, from, async (take, transaction) => {
    const state = await TakeState.findOne({
      where: { takeId, number: take.currentState },
      attributes: ['parent'],
      transaction,
    });
    if (state!.parent !== null) take.currentState = state!.parent;
  });
}

/** One step towards the tip. */
export function redo(sequelize: Sequelize, takeId: string, from: From): Promise<TakeStateView | null> {
  return changed(sequelize, takeId, from, async (take, transaction) => {
    const [next] = await statesAhead(take, 1, transaction);
    if (next) take.currentState = next.number;
  });
}

/** No such state in a take's history. */
export class NoSuchState extends Error {}

/** To any state of the history; redo leads from there to where it led before, if it lies on the way. */
export function jump(
  sequelize: Sequelize,
  takeId: string,
  from: From,
  state: number,
): Promise<TakeStateView | null> {
  return changed(sequelize, takeId, from, async (take, transaction) => {
    const found = await TakeState.findOne({
      where: { takeId, number: state },
      attributes: ['number'],
      transaction,
    });
    if (!found) throw new NoSuchState();
    take.currentState = state;
    const ahead = await statesAhead(take, 1, transaction);
    if (!ahead.length) take.redoTip = state;
  });
}

/** The states about one of a take: those that lead to it, and those that redo goes on to. */
export async function historyAbout(take: Take, number: number, back: number): Promise<History> {
  const rows = await take.sequelize.query<StateRow>(
    `WITH RECURSIVE way AS (
       SELECT number, parent, label, patch, 0 AS depth FROM take_states WHERE take_id = $1 AND number = $2
       UNION ALL
       SELECT s.number, s.parent, s.label, s.patch, way.depth + 1
         FROM take_states s JOIN way ON s.number = way.parent
        WHERE s.take_id = $1 AND way.depth < $3)
     SELECT number, parent, label, patch FROM way ORDER BY depth DESC`,
    { bind: [take.id, number, back], type: QueryTypes.SELECT },
  );
  const [first, ...rest] = rows;
  if (!first) throw new NoSuchState();
  let treatment = await treatmentOf(take, first.number);
  const base = { state: first.number, label: first.label, treatment };
  const made = [];
  const ahead = number === take.currentState ? await statesAhead(take, back) : [];
  for (const row of [...rest, ...ahead]) {
    // What is kept whole is told as a change like all others.
    const patch = row.patch ?? patchBetween(treatment, await treatmentOf(take, row.number));
    treatment = patched(treatment, patch);
    made.push({ state: row.number, label: row.label, patch: [...patch] });
  }
  return {
    base,
    more: first.parent !== null,
    past: made.slice(0, rest.length),
    future: made.slice(rest.length),
  };
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
  await referToCarried(take.sequelize, { take: take.id }, carriedBy(treatment), transaction);
  await TakeState.create(
    {
      takeId: take.id,
      number: 0,
      parent: null,
      label: '',
      patch: null,
      treatment,
      ...toldOf(treatment),
      bytesSince: 0,
      patchesSince: 0,
    },
    { transaction },
  );
  return take;
}
