import { MOST_TREATMENT } from '../../contract/limits';
import type { Patch } from '../../core/treatment/patch';
import { patchedOver } from '../../core/treatment/saved';
import { parseTreatment } from '../../core/treatment/schema';
import { jsonLength } from '../../core/treatment/size';
import type { Treatment } from '../../core/treatment/treatment';
import { ArchiveError } from './format';

/** A take of an archive, whose states are to come. */
interface Expected {
  letter: string;
  /** Numbers of states that it stands at, and that have not come yet. */
  missing: Set<unknown>;
}

/**
 * The histories that an archive brings: each state is read as any treatment is, from the first on, and is made of its parent,
 * which stands before it. States of a take come together; what they have in common is held once, and of one take at a time.
 */
export class Histories {
  private readonly takes = new Map<unknown, Expected>();
  private current: unknown = null;
  private made = new Map<unknown, unknown>();

  /** A take's row: its states come later. */
  expect({ id, letter, current_state: current, redo_tip: tip }: Record<string, unknown>): void {
    this.takes.set(id, { letter: String(letter), missing: new Set([current, tip]) });
  }

  /** The treatment of a state, from its row. Throws an ArchiveError that names the state where it is not valid. */
  read({ take_id: takeId, number, parent, patch, treatment }: Record<string, unknown>): Treatment {
    const take = this.takes.get(takeId);
    if (!take) throw new ArchiveError('A state in the archive is of no take.');
    if (takeId !== this.current) {
      this.current = takeId;
      this.made = new Map();
    }
    const wrong = (why: string) =>
      new ArchiveError(`State ${String(number)} of take ${take.letter} in the archive is not valid: ${why}`);
    const isFirst = parent === null;
    if (!isFirst && !this.made.has(parent)) throw wrong('the state that it was made of is missing.');
    const isWhole = treatment !== null && treatment !== undefined;
    if (!isWhole && (isFirst || !patch)) throw wrong('it says nothing.');
    try {
      const json = isWhole ? treatment : patchedOver(this.made.get(parent), patch as Patch);
      if (jsonLength(json) > MOST_TREATMENT) throw new Error('it is too large.');
      const read = parseTreatment(json);
      this.made.set(number, json);
      take.missing.delete(number);
      return read;
    } catch (error) {
      throw wrong((error as Error).message);
    }
  }

  /** Throws an ArchiveError where a take stands at a state that has not come. */
  end(): void {
    for (const { letter, missing } of this.takes.values()) {
      if (missing.size) throw new ArchiveError(`The history of take ${letter} in the archive is not whole.`);
    }
  }
}
