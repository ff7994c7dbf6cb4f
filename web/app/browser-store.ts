import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { CarriedKind } from '../../core/formats/carried';
import type { Patch } from '../../core/treatment/patch';

/** What is kept in this browser until the server has it. */

/** A command as it is kept and sent. */
export type KeptCommand =
  | { kind: 'edit'; id: string; label: string; patch: Patch }
  | { kind: 'undo' | 'redo'; id: string }
  | { kind: 'jump'; id: string; state: number }
  | { kind: 'rename'; id: string; name: string }
  | { kind: 'put-aside'; id: string };

/** What a window has not saved of a take. */
export interface Unsaved {
  takeId: string;
  /** The window that it is of. */
  owner: string;
  /** Where the take stood on the server: the commands follow from there. */
  revision: number;
  state: number;
  commands: KeptCommand[];
  /** What turns that state's treatment into what the window shows. */
  shown: Patch;
  /** When it was last written, in milliseconds. */
  at: number;
}

/** Something that a treatment carries and that has not been sent. */
interface Unsent {
  sha256: string;
  kind: CarriedKind;
  bytes: Uint8Array;
}

interface Stores extends DBSchema {
  unsaved: { key: [takeId: string, owner: string]; value: Unsaved; indexes: { take: string } };
  unsent: { key: string; value: Unsent };
}

let opened: Promise<IDBPDatabase<Stores>> | null = null;

/** The stores of this browser; rejected where it has none, as in some private windows. */
export function browserStore(): Promise<IDBPDatabase<Stores>> {
  opened ??= openDB<Stores>('lampwash', 1, {
    upgrade: database => {
      database.createObjectStore('unsaved', { keyPath: ['takeId', 'owner'] }).createIndex('take', 'takeId');
      database.createObjectStore('unsent', { keyPath: 'sha256' });
    },
  });
  opened.catch(() => (opened = null));
  return opened;
}
