import type { TakeState } from '../../contract/takes';
import { patchBetween, type Patch } from '../../core/treatment/patch';
import type { Treatment } from '../../core/treatment/treatment';
import { ApiError, messageOf } from '../app/api';
import type { KeptCommand, Unsaved } from '../app/browser-store';

/**
 * The commands of one take on their way to the server: one after another, each from the revision that the one before it
 * made. A passing failure is tried again with growing pauses; one that will not pass, and a take that was changed
 * elsewhere, stop the queue until somebody chooses. What is not acknowledged lies in this browser meanwhile.
 */

export type Command =
  | { kind: 'edit'; label: string; from: Treatment; to: Treatment }
  | { kind: 'undo' | 'redo'; to: Treatment }
  | { kind: 'jump'; state: number; to: Treatment }
  | { kind: 'rename'; name: string }
  | { kind: 'put-aside' };

/** How what is shown stands to what the server has. */
export type Saving =
  | { state: 'saved' }
  | { state: 'saving' }
  /** It passes: tried again until the server answers. `kept` says whether it lies in this browser. */
  | { state: 'waiting'; reason: string; kept: boolean }
  /** It will not pass by trying again. */
  | { state: 'refused'; reason: string; kept: boolean }
  /** The take was changed elsewhere. */
  | { state: 'stale'; newest: TakeState };

/** What the queue needs of the world about it. */
export interface Door {
  /** Sends a command; the take's state after it, or null where the take is gone by it. Throws an ApiError. */
  send: (command: KeptCommand, revision: number) => Promise<TakeState | null>;
  /** Keeps what is unsaved in this browser (with null, nothing); whether it could. */
  keep: (unsaved: Omit<Unsaved, 'takeId' | 'owner' | 'at'> | null) => Promise<boolean>;
}

/** How long edits must rest before they are sent: quick ones become a single step of undo. */
const SOON_MS = 700;
const PAUSES_MS = [1000, 2000, 4000, 8000, 15_000, 30_000];

/** Answers that another try may change: none at all, too many, too slow, a fault of the server. */
const passes = (error: unknown): boolean =>
  !(error instanceof ApiError) ||
  error.status === 0 ||
  [408, 425, 429].includes(error.status) ||
  error.status >= 500;

interface Entry {
  id: string;
  command: Command;
  /** It stands apart: what follows under the same name does not go on with it. */
  apart: boolean;
  patch?: Patch;
}

/** A command as it is kept and sent; the patch of an edit is made once. */
function written(entry: Entry): KeptCommand {
  const { id, command } = entry;
  switch (command.kind) {
    case 'edit':
      entry.patch ??= patchBetween(command.from, command.to);
      return { kind: 'edit', id, label: command.label, patch: entry.patch };
    case 'jump':
      return { kind: 'jump', id, state: command.state };
    case 'rename':
      return { kind: 'rename', id, name: command.name };
    default:
      return { kind: command.kind, id };
  }
}

export class CommandQueue {
  private entries: Entry[] = [];
  private flying: Entry | null = null;
  private running: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private tries = 0;
  private closed = false;
  /** Counts what is to be kept, and says up to where the browser has kept it. */
  private changes = 0;
  private kept = true;
  private keeping: Promise<void> = Promise.resolve();
  private now: Saving = { state: 'saved' };

  /**
   * @param take where the take stands on the server
   * @param saved its treatment there
   * @param onChange told whenever `saving` or `acknowledged` changes
   */
  constructor(
    private take: TakeState,
    private saved: Treatment,
    private readonly door: Door,
    private readonly onChange: () => void,
  ) {}

  get saving(): Saving {
    return this.now;
  }

  /** Where the take stands on the server, as its last answer told. */
  get acknowledged(): TakeState {
    return this.take;
  }

  get isEmpty(): boolean {
    return this.entries.length === 0;
  }

  /** Whether anything shown would be lost that is not on the server: edits, not steps along the history. */
  get holdsEdits(): boolean {
    return this.entries.some(({ command }) => command.kind === 'edit' || command.kind === 'rename');
  }

  /** The name of the last edit that waits. */
  get lastLabel(): string {
    const edits = this.entries.flatMap(({ command }) => (command.kind === 'edit' ? [command.label] : []));
    return edits.at(-1) ?? '';
  }

  /** Whether an edit under a name goes on with the one that waits last, so that both are one step of undo. */
  goesOn(label: string): boolean {
    const last = this.entries.at(-1);
    return (
      last !== undefined &&
      last !== this.flying &&
      !last.apart &&
      last.command.kind === 'edit' &&
      last.command.label === label
    );
  }

  /** Takes a command in. An edit waits a moment for others of its name, unless it stands apart; all else goes at once. */
  add(command: Command, { apart = false, id = crypto.randomUUID() as string } = {}): void {
    const last = this.entries.at(-1);
    if (command.kind === 'edit' && !apart && this.goesOn(command.label) && last?.command.kind === 'edit') {
      last.command = { ...command, from: last.command.from };
      last.patch = undefined;
    } else this.entries.push({ id, command, apart });
    this.keep();
    if (this.isStopped) return;
    if (this.now.state !== 'waiting') this.set({ state: 'saving' });
    clearTimeout(this.timer);
    // What the browser cannot keep is not made to wait.
    const soon = command.kind === 'edit' && this.kept ? SOON_MS : 0;
    if (this.now.state !== 'waiting') this.timer = setTimeout(() => void this.flush(), soon);
    else this.again();
  }

  private get isStopped(): boolean {
    return this.now.state === 'stale' || this.now.state === 'refused';
  }

  private set(saving: Saving): void {
    this.now = saving;
    this.onChange();
  }

  /** Keeps what waits in this browser; the last state wins. */
  private keep(): void {
    const change = ++this.changes;
    this.keeping = this.keeping.then(async () => {
      if (change !== this.changes) return;
      const { revision, state } = this.take;
      const commands = this.entries.map(written);
      const shown = patchBetween(this.saved, this.shownAfterAll());
      const kept = await this.door.keep(commands.length ? { revision, state, commands, shown } : null);
      if (change !== this.changes || kept === this.kept) return;
      this.kept = kept;
      if (this.now.state === 'waiting' || this.now.state === 'refused') this.set({ ...this.now, kept });
    });
  }

  /** The treatment when all that waits has been done. */
  private shownAfterAll(): Treatment {
    const last = this.entries.findLast(({ command }) => 'to' in command)?.command;
    return last && 'to' in last ? last.to : this.saved;
  }

  /** Sends what waits; resolves when all is acknowledged, or cannot be for now. */
  async flush(): Promise<void> {
    clearTimeout(this.timer);
    this.running ??= this.sendAll().finally(() => (this.running = null));
    await this.running;
  }

  private async sendAll(): Promise<void> {
    while (this.entries.length && !this.isStopped) {
      const [entry] = this.entries;
      this.flying = entry;
      if (this.now.state !== 'saving') this.set({ state: 'saving' });
      const { take } = this;
      try {
        const state = await this.door.send(written(entry), take.revision);
        // Started anew meanwhile: the answer belongs to what is no longer waited for.
        if (this.entries[0] !== entry) return;
        this.entries.shift();
        this.tries = 0;
        if (state) this.take = state;
        if ('to' in entry.command) this.saved = entry.command.to;
        this.keep();
        this.onChange();
      } catch (error) {
        if (this.entries[0] !== entry) return;
        this.fail(error);
        return;
      } finally {
        if (this.flying === entry) this.flying = null;
      }
    }
    if (!this.entries.length) this.set({ state: 'saved' });
  }

  private fail(error: unknown): void {
    const { kept } = this;
    const reason = messageOf(error);
    if (error instanceof ApiError && error.status === 409 && error.body.newest) {
      this.set({ state: 'stale', newest: error.body.newest as TakeState });
    } else if (passes(error)) {
      this.set({ state: 'waiting', reason, kept });
      this.again();
    } else this.set({ state: 'refused', reason, kept });
  }

  private again(): void {
    clearTimeout(this.timer);
    if (this.closed) return;
    const pause = PAUSES_MS[Math.min(this.tries++, PAUSES_MS.length - 1)];
    this.timer = setTimeout(() => void this.flush(), pause);
  }

  /** Stops as a save would that found the take changed elsewhere. */
  stop(newest: TakeState): void {
    clearTimeout(this.timer);
    this.set({ state: 'stale', newest });
  }

  /** Drops all that waits, and goes on from where the take stands now. */
  reset(take: TakeState, treatment: Treatment): void {
    clearTimeout(this.timer);
    this.take = take;
    this.saved = treatment;
    this.entries = [];
    this.tries = 0;
    this.keep();
    this.set({ state: 'saved' });
  }

  /**
   * The window goes away: what waits is sent once more on the way out, and stays kept until it is acknowledged. Resolves
   * when that has been tried.
   */
  async close(): Promise<void> {
    this.closed = true;
    clearTimeout(this.timer);
    if (this.entries.length && !this.isStopped) await this.flush();
    await this.keeping;
  }
}
