import { QueryTypes, type Transaction } from 'sequelize';
import { MOST_TREATMENT } from '../../contract/limits';
import type { Operation } from '../../core/treatment/patch';
import { parseTreatment } from '../../core/treatment/schema';
import { jsonLength } from '../../core/treatment/size';
import type { Treatment } from '../../core/treatment/treatment';
import { patchedOver } from '../data/history';
import type { Take } from '../data/models';
import { ArchiveError } from './format';

/** The histories that an archive brings: each state is read as any treatment is. */

interface StateRow {
  number: number;
  parent: number | null;
  patch: Operation[] | null;
  treatment: unknown;
}

/** So many states are fetched at a time. */
const SLICE = 100;

/**
 * Reads all states of a take, from the first on: each is made of its parent, which stands before it. What states have in common is
 * held once. Throws an ArchiveError that names the first state that is not valid.
 * @param onState told of each
 */
export async function readStates(
  take: Take,
  transaction: Transaction,
  onState: (number: number, treatment: Treatment) => Promise<void>,
): Promise<void> {
  const made = new Map<number, unknown>();
  const wrong = (number: number, why: string) =>
    new ArchiveError(`State ${number} of take ${take.letter} in the archive is not valid: ${why}`);
  for (let after = -1; ;) {
    const rows: StateRow[] = await take.sequelize.query<StateRow>(
      `SELECT number, parent, patch, treatment FROM take_states
        WHERE take_id = $1 AND number > $2 ORDER BY number LIMIT ${SLICE}`,
      { bind: [take.id, after], type: QueryTypes.SELECT, transaction },
    );
    for (const { number, parent, patch, treatment } of rows) {
      after = number;
      const isFirst = parent === null;
      if (!isFirst && !made.has(parent)) throw wrong(number, 'the state that it was made of is missing.');
      if (treatment === null && (isFirst || patch === null)) throw wrong(number, 'it says nothing.');
      let read: Treatment;
      try {
        const json = treatment ?? patchedOver(made.get(parent!), patch!);
        if (jsonLength(json) > MOST_TREATMENT) throw new Error('it is too large.');
        made.set(number, json);
        read = parseTreatment(json);
      } catch (error) {
        throw wrong(number, (error as Error).message);
      }
      await onState(number, read);
    }
    if (rows.length < SLICE) break;
  }
  if (!made.has(take.currentState) || !made.has(take.redoTip)) {
    throw new ArchiveError(`The history of take ${take.letter} in the archive is not whole.`);
  }
}
