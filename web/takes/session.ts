import {
  createTake,
  getHistory,
  getTake,
  getTakeState,
  type Take,
  type TakeState,
} from '../../contract/takes';
import { MOST_TREATMENT } from '../../contract/limits';
import { tidyAlternatives } from '../../core/treatment/alternatives';
import { treatmentFile } from '../../core/treatment/carrying';
import { patched } from '../../core/treatment/patch';
import type { Treatment } from '../../core/treatment/treatment';
import { withOwnChanges } from '../../core/treatment/own-changes';
import { noRoomFor } from '../../core/treatment/room';
import { jsonEqual } from '../../core/treatment/json-equal';
import { jsonLength } from '../../core/treatment/size';
import { call, messageOf } from '../app/api';
import type { KeptCommand, Unsaved } from '../app/browser-store';
import { fetchAllCarried, sendCarried, takeUpUnsent } from '../engine/carried';
import { doorOf } from './door';
import { takeEarlier, type EarlierUnsaved } from './earlier';
import { back, lineAt, on, toldBy, withEdit, withEditGoingOn, type Line } from './line';
import { Pacing, type Follows } from './pacing';
import { CommandQueue, type Saving } from './queue';
import { dropUnsaved, findUnsaved } from './unsaved';

export interface SessionState {
  take: TakeState;
  /** What is on the screen: saved, being saved, or being dragged. */
  treatment: Treatment;
  saving: Saving;
  /** Both this window and another have changed the take, and somebody must choose. */
  conflict: boolean;
  /** What undo would take back, and redo bring again; null where there is nothing. */
  undo: string | null;
  redo: string | null;
}

/** With fewer states than this behind the current one, earlier ones are asked for. */
const FEW = 12;

/** A take that is left waits no longer than this for what is still looked for. */
const PATIENCE_MS = 20_000;

/** A take has no room for a change. */
export const noRoom = (what: string) =>
  `A take has no room for ${what}. The change was not taken; all before it is kept. Remove steps, areas or strokes, or go on in a new take.`;
const TOO_LARGE = `more than ${MOST_TREATMENT / 1024 ** 2} MB of steps and strokes`;

/**
 * One take being worked on: what is shown moves at once, along a line of states that this window knows; the queue brings
 * each change to the server.
 */
export class TakeSession {
  private line: Line;
  private readonly queue: CommandQueue;
  private readonly pacing: Pacing<SessionState>;
  /** The name that is on its way. */
  private name: string;
  /** Steps along the history that wait until it has been told. */
  private steps: ('undo' | 'redo')[] = [];
  private telling: Promise<void> | null = null;
  /** Counts the times that the session began anew: what was asked for before is not heard. */
  private epoch = 0;
  private closed = false;
  /** Edits that are still looked for, by their names in the history; of one that was given up nothing comes. */
  private awaited: { label: string; done: Promise<unknown> }[] = [];

  /** @param say tells the person something */
  constructor(
    take: Take,
    private readonly say: (text: string) => void = () => undefined,
  ) {
    const { treatment, ...state } = take;
    this.line = lineAt({ treatment, label: take.undo ?? '' }, take.state);
    this.name = take.name;
    this.queue = new CommandQueue(state, treatment, doorOf(take.id), () => this.follow());
    this.pacing = new Pacing(this.stateOf(treatment));
    void this.tell();
  }

  get subscribe() {
    return this.pacing.subscribe;
  }
  get state() {
    return this.pacing.state;
  }
  get paced() {
    return this.pacing.paced;
  }
  get rested() {
    return this.pacing.rested;
  }
  get settle() {
    return this.pacing.settle;
  }

  /** While the pen is down only the picture follows: nothing else is built between two of its places. */
  pen(down: boolean): void {
    this.pacing.pen(down);
  }

  private stateOf(treatment: Treatment): SessionState {
    const { line, queue } = this;
    const take = queue.acknowledged;
    const next = this.awaited.at(-1);
    return {
      take: { ...take, name: this.name },
      treatment,
      // What was asked for and is not there yet is not saved.
      saving: next && queue.saving.state === 'saved' ? { state: 'saving' } : queue.saving,
      conflict: queue.saving.state === 'stale' && queue.holdsEdits,
      undo:
        next?.label ??
        (line.past.length || line.earlierThan === null ? this.labelOf(line) : (take.undo ?? null)),
      redo: line.told ? (line.future[0]?.label ?? null) : line.past.length ? null : take.redo,
    };
  }

  /** The states that this window knows of, along which undo and redo go. */
  get moments(): Line {
    return this.line;
  }

  /** Asks for states earlier than those that are known. */
  readonly earlier = () => this.tell();

  /**
   * Goes along the states that are known, to one that is shown at once; the server is led there step by step.
   * @param by how many: back where it is negative
   */
  readonly goBy = (by: number): void => {
    const { saving } = this.queue;
    if (saving.state === 'stale' || saving.state === 'refused') return;
    this.steps = [];
    const direction = by < 0 ? 'undo' : 'redo';
    for (let left = Math.abs(by); left > 0; left--) {
      const line = (direction === 'undo' ? back : on)(this.line);
      if (!line) break;
      this.line = line;
      this.queue.add({ kind: direction, to: line.now.treatment });
    }
    this.show(this.line.now.treatment);
    if (this.line.past.length < FEW) void this.tell();
  };

  private labelOf({ past, now }: Line): string | null {
    return past.length ? now.label : null;
  }

  private show(treatment: Treatment, follows: Follows = 'at once'): void {
    this.pacing.set(this.stateOf(treatment), follows);
  }

  /** The queue stands otherwise: what is shown stays. */
  private follow(): void {
    const { saving } = this.queue;
    if (saving.state === 'stale' && !this.queue.holdsEdits) {
      void this.takeNewest('This take was changed in another window, and is shown as it is there.');
      return;
    }
    // While the pen is down, or a control glides, what it shows is not touched.
    this.pacing.set(this.stateOf(this.pacing.state().treatment), 'panel');
  }

  /** Asks for the states about the earliest one known. */
  private async tell(): Promise<void> {
    this.telling ??= this.askForHistory().finally(() => (this.telling = null));
    await this.telling;
  }

  private async askForHistory(): Promise<void> {
    const { epoch } = this;
    const { earlierThan } = this.line;
    if (earlierThan === null) return;
    try {
      const history = await call(getHistory, {
        params: { id: this.queue.acknowledged.id },
        query: { state: earlierThan },
      });
      // Told by another answer meanwhile, or of what is no longer shown.
      if (epoch !== this.epoch || this.closed || this.line.earlierThan !== earlierThan) return;
      this.line = toldBy(this.line, history);
      this.pacing.set(this.stateOf(this.pacing.state().treatment), 'panel');
    } catch {
      // Undo asks again when it is wanted.
    }
  }

  /** Shows a treatment while a control moves; nothing is saved yet. */
  preview(treatment: Treatment): void {
    this.show(treatment, 'panel');
  }

  /** The same for a control that shows its movement by itself. */
  glide(treatment: Treatment): void {
    this.show(treatment, 'paced');
  }

  /**
   * Makes an edit. Quick edits under the same label (key after key) become one, unless this one stands `apart`: a
   * stroke of the brush is undone alone, and the next may follow at once. An edit for which the take has no room is
   * said, and not taken.
   */
  commit(given: Treatment, label: string, { apart = false } = {}): void {
    const { now } = this.line;
    // Nothing is changed by it: there is nothing to undo, or to save.
    if (jsonEqual(given, now.treatment)) {
      this.show(now.treatment);
      return;
    }
    const treatment = withOwnChanges(now.treatment, tidyAlternatives(given));
    const over = noRoomFor(treatment) ?? (jsonLength(treatment) > MOST_TREATMENT ? TOO_LARGE : null);
    if (over) {
      this.show(now.treatment);
      this.say(noRoom(over));
      return;
    }
    if (this.steps.length) {
      this.steps = [];
      this.say('The step back was left out, since you went on before it could be shown.');
    }
    const goesOn = !apart && this.queue.goesOn(label);
    this.line = (goesOn ? withEditGoingOn : withEdit)(this.line, { treatment, label });
    this.queue.add({ kind: 'edit', label, from: now.treatment, to: treatment }, { apart });
    this.show(treatment, apart ? 'at rest' : 'at once');
  }

  /**
   * Makes an edit that must be looked for first: a colour beneath the pointer, settings from the picture. Until it is found the take is not
   * called saved, undo gives it up, and leaving the take waits for it.
   * @param label its name in the history
   * @param act makes the edit of what was found, on the treatment as it is by then
   * Throws what `find` or `act` throws, unless it was given up.
   */
  async editWhenFound<T>(label: string, find: Promise<T>, act: (found: T) => void): Promise<void> {
    const mine = { label, done: find.catch(() => undefined) };
    this.awaited.push(mine);
    const told = () => this.pacing.set(this.stateOf(this.pacing.state().treatment), 'panel');
    told();
    const isWanted = () => this.awaited.includes(mine);
    try {
      const found = await find;
      if (isWanted()) act(found);
    } catch (error) {
      if (isWanted()) throw error;
    } finally {
      this.awaited = this.awaited.filter(each => each !== mine);
      told();
    }
  }

  /** Brings what is not saved to the server; resolves when it is there, or cannot be for now. */
  flush(): Promise<void> {
    return this.queue.flush();
  }

  readonly undo = () => this.step('undo');
  readonly redo = () => this.step('redo');

  /** Goes a step along the history: at once where it is known, else as soon as it has been told. */
  private async step(direction: 'undo' | 'redo'): Promise<void> {
    const { saving } = this.queue;
    if (saving.state === 'stale' || saving.state === 'refused') return;
    if (direction === 'undo' && this.awaited.length) {
      // The last that was done is not there yet: it does not come.
      this.awaited = this.awaited.slice(0, -1);
      this.show(this.line.now.treatment);
      return;
    }
    if (this.steps.length || !this.move(direction)) {
      this.steps.push(direction);
      await this.tell();
      // Those that were asked for meanwhile, in their order.
      for (let next = this.steps.shift(); next; next = this.steps.shift()) {
        if (!this.move(next)) this.say('The history of this take could not be loaded. Try again.');
      }
    }
    if (this.line.past.length < FEW) void this.tell();
  }

  /** One step along what is known; false where that ends and the server may know more. */
  private move(direction: 'undo' | 'redo', id?: string): boolean {
    const line = (direction === 'undo' ? back : on)(this.line);
    if (!line) return this.line.told && (direction === 'redo' || this.line.earlierThan === null);
    this.line = line;
    const { treatment } = line.now;
    this.queue.add({ kind: direction, to: treatment }, id ? { id } : {});
    this.show(treatment);
    return true;
  }

  /** Names the take. */
  rename(name: string): void {
    this.name = name;
    this.queue.add({ kind: 'rename', name });
    this.show(this.pacing.state().treatment, 'panel');
  }

  /** Puts the take aside, after all that is not yet saved; resolves when that is done. Throws where it is refused. */
  async putAside(): Promise<void> {
    this.queue.add({ kind: 'put-aside' });
    await this.queue.flush();
    const { saving } = this.queue;
    if (saving.state === 'waiting' || saving.state === 'refused') throw new Error(saving.reason);
  }

  /** Begins anew from where the take stands on the server. */
  private begin(take: Take): void {
    const { treatment, ...state } = take;
    this.epoch++;
    this.telling = null;
    this.steps = [];
    this.name = take.name;
    this.line = lineAt({ treatment, label: take.undo ?? '' }, take.state);
    this.queue.reset(state, treatment);
    this.show(treatment);
    void this.tell();
  }

  private async takeNewest(text: string): Promise<void> {
    const { epoch } = this;
    try {
      const newest = await call(getTake, { params: { id: this.queue.acknowledged.id } });
      if (epoch !== this.epoch) return;
      this.begin(newest);
      this.say(text);
    } catch (error) {
      this.say(messageOf(error));
    }
  }

  /** After a change elsewhere: saves ours on top of theirs; theirs is one undo away. */
  async keepMine(): Promise<void> {
    const mine = this.line.now.treatment;
    const label = this.queue.lastLabel;
    const theirs = await call(getTake, { params: { id: this.queue.acknowledged.id } });
    // In one go: theirs is not called saved and shown before mine stands on it.
    this.begin(theirs);
    this.commit(mine, label, { apart: true });
    await this.queue.flush();
  }

  /** After a change elsewhere: theirs; ours is one redo away. */
  async takeTheirs(): Promise<void> {
    await this.keepMine();
    await this.undo();
    await this.queue.flush();
  }

  /** Ours becomes a take of its own; this session then shows what the server has. Throws an ApiError. */
  async keepAsNewTake(): Promise<Take> {
    const mine = this.line.now.treatment;
    await sendCarried(mine);
    const { id, photographId } = this.queue.acknowledged;
    const made = await call(createTake, { params: { id: photographId }, body: { treatment: mine } });
    // The take may be gone: then there is nothing to show of it.
    const saved = await call(getTake, { params: { id } }).catch(() => null);
    if (saved) this.begin(saved);
    else this.queue.reset(this.queue.acknowledged, this.line.now.treatment);
    return made;
  }

  /** After a refusal: the state that the server has last acknowledged. Throws an ApiError. */
  async backToSaved(): Promise<void> {
    this.begin(await call(getTake, { params: { id: this.queue.acknowledged.id } }));
  }

  /** What is shown as the text of a treatment file. */
  async asFile(): Promise<string> {
    const { treatment } = this.line.now;
    await fetchAllCarried(treatment);
    return `${JSON.stringify(treatmentFile(treatment), null, 2)}\n`;
  }

  /** There is something that the server has not acknowledged. */
  get hasUnsaved(): boolean {
    return !this.queue.isEmpty || this.awaited.length > 0;
  }

  /** Takes up what an earlier window could not save. */
  async takeUp(unsaved: Unsaved): Promise<void> {
    const take = this.queue.acknowledged;
    await takeUpUnsent();
    const done = unsaved.commands.findIndex(({ id }) => id === take.command);
    if (take.revision === unsaved.revision || done >= 0) {
      await this.tell();
      for (const command of unsaved.commands.slice(done + 1)) this.again(command);
      this.show(this.line.now.treatment);
    } else {
      const from = await call(getTakeState, { params: { id: take.id, state: unsaved.state } });
      const mine = patched(from, unsaved.shown);
      const edit = unsaved.commands.findLast(({ kind }) => kind === 'edit') as { label: string } | undefined;
      if (edit) {
        this.commit(mine, edit.label, { apart: true });
        this.queue.stop(take);
      }
    }
    await dropUnsaved(unsaved);
  }

  /** Takes up an edit that the version before this kept, as a whole treatment. */
  takeUpEarlier({ treatment, label, revision }: EarlierUnsaved, take: Take): void {
    this.commit(treatment, label, { apart: true });
    if (revision !== take.revision) this.queue.stop(this.queue.acknowledged);
  }

  /** A command that an earlier window gave, given again under its own name. */
  private again(command: KeptCommand): void {
    const { id } = command;
    const { now } = this.line;
    switch (command.kind) {
      case 'edit': {
        const treatment = patched(now.treatment, command.patch);
        this.line = withEdit(this.line, { treatment, label: command.label });
        this.queue.add(
          { kind: 'edit', label: command.label, from: now.treatment, to: treatment },
          { apart: true, id },
        );
        break;
      }
      case 'undo':
      case 'redo':
        this.move(command.kind, id);
        break;
      case 'rename':
        this.name = command.name;
        this.queue.add({ kind: 'rename', name: command.name }, { id });
        break;
      // A take is put aside, and a state gone to, only when somebody wants it now.
      case 'jump':
      case 'put-aside':
    }
  }

  /** Resolves when nothing is looked for any more, or not soon enough. */
  private async allFound(): Promise<void> {
    const all = Promise.all(this.awaited.map(({ done }) => done));
    await Promise.race([all, new Promise(done => setTimeout(done, PATIENCE_MS))]);
    // Those who waited for it as well have made their edits by now.
    await new Promise(done => setTimeout(done));
  }

  /** The window goes away. */
  close(): void {
    this.closed = true;
    this.pacing.close();
    const { id } = this.queue.acknowledged;
    // A page that goes away has no time: what is there is sent at once, also where something is still looked for.
    if (this.awaited.length) void this.queue.flush();
    const closed = (
      this.awaited.length ? this.allFound().then(() => this.queue.close()) : this.queue.close()
    ).finally(() => {
      if (closing.get(id) === closed) closing.delete(id);
    });
    closing.set(id, closed);
  }
}

/** Sessions that have been left and still send what they have, by their takes. */
const closing = new Map<string, Promise<void>>();

/** Opens a take: as it is on the server, with what an earlier window could not save. Throws an ApiError. */
export async function openSession(takeId: string, say: (text: string) => void): Promise<TakeSession> {
  // The same take left a moment ago: what it still sends is not to be taken for somebody else's.
  await closing.get(takeId);
  const [take, unsaved, earlier] = await Promise.all([
    call(getTake, { params: { id: takeId } }),
    findUnsaved(takeId),
    takeEarlier(takeId),
  ]);
  const session = new TakeSession(take, say);
  if (earlier) session.takeUpEarlier(earlier, take);
  if (unsaved) await session.takeUp(unsaved).catch(error => say(messageOf(error)));
  return session;
}
