import type { Treatment } from '../../core/treatment/schema';
import { ApiError, ask, messageOf, type Take } from '../app/api';
import { keepUnsaved, type Unsaved } from './unsaved';

/** How the working state stands to what the server has. */
export type Saving =
  | { state: 'saved' }
  | { state: 'saving' }
  /** Kept in this browser; tried again until the server answers. */
  | { state: 'waiting'; reason: string }
  | { state: 'conflict'; newest: Take };

export interface SessionState {
  take: Take;
  /** What is on the screen: saved, being saved, or being dragged. */
  treatment: Treatment;
  saving: Saving;
}

interface Edit {
  treatment: Treatment;
  label: string;
}

/** How long edits must rest before they are saved: quick ones become a single step of undo. */
const SOON_MS = 700;
const RETRY_MS = [1000, 2000, 4000, 8000];
/** How long a control that moves must rest before what follows it slowly is told. */
const REST_MS = 150;
/** While a slider glides, the panel about it follows this often; the picture follows each movement. */
const PACE_MS = 100;

/**
 * One take being worked on. Every edit is saved by itself, in order, each from the revision before it. Until
 * the server has acknowledged it, an edit also lies in this browser, so that neither a closed window nor a
 * dead server loses it. A save refused as stale keeps both sides until the person chooses.
 */
export class TakeSession {
  private current: SessionState;
  /** The state that the panel shows. */
  private shown: SessionState;
  private shownAt = 0;
  /** The state without what is still moving. */
  private atRest: SessionState;
  private penIsDown = false;
  private resting: ReturnType<typeof setTimeout> | undefined;
  private readonly listeners = new Set<() => void>();
  private edits: Edit[] = [];
  private running: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private tries = 0;
  private closed = false;

  /** @param unsaved an edit that an earlier window could not save */
  constructor(take: Take, unsaved: Unsaved | null = null) {
    this.current = { take, treatment: take.treatment, saving: { state: 'saved' } };
    this.shown = this.current;
    this.atRest = this.current;
    if (!unsaved) return;
    if (unsaved.revision === take.revision) this.commit(unsaved.treatment, unsaved.label);
    else {
      this.edits = [unsaved];
      this.current = {
        ...this.current,
        treatment: unsaved.treatment,
        saving: { state: 'conflict', newest: take },
      };
      this.shown = this.current;
      this.atRest = this.current;
      this.keep();
    }
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** What the picture shows, moment by moment. */
  readonly state = () => this.current;

  /** The same, a little later while a slider glides or the brush paints: for the panel. */
  readonly paced = () => this.shown;

  /** The same, but while a control moves only when it rests: for what need not follow each movement. */
  readonly rested = () => this.atRest;

  /** Takes a change. All that shows it is told; what follows slowly finds it when nothing has come for a moment. */
  private set(
    change: Partial<SessionState>,
    follows: 'at once' | 'panel' | 'paced' | 'at rest' = 'at once',
  ): void {
    this.current = { ...this.current, ...change };
    if (!this.penIsDown) {
      clearTimeout(this.resting);
      const due = follows === 'paced' && Date.now() - this.shownAt >= PACE_MS;
      if (follows === 'at once' || follows === 'panel' || due) {
        this.shown = this.current;
        this.shownAt = Date.now();
      }
      if (follows === 'at once') this.atRest = this.current;
      else this.resting = setTimeout(this.settle, REST_MS);
    }
    this.tell();
  }

  /** Shows everywhere what is still on its way: before something acts on what is shown. */
  readonly settle = (): void => {
    if (!this.penIsDown && this.atRest !== this.current) this.set({});
  };

  /** While the pen is down only the picture follows: nothing else is built between two of its places. */
  pen(down: boolean): void {
    this.penIsDown = down;
    clearTimeout(this.resting);
    if (!down) this.resting = setTimeout(this.settle, REST_MS);
  }

  private tell(): void {
    for (const listener of this.listeners) listener();
  }

  /** Shows a treatment while a control moves; nothing is saved yet. */
  preview(treatment: Treatment): void {
    this.set({ treatment }, 'panel');
  }

  /** The same for a control that shows its movement by itself. */
  glide(treatment: Treatment): void {
    this.set({ treatment }, 'paced');
  }

  /**
   * Makes an edit. Quick edits under the same label (key after key) become one, unless this one stands `apart`: a
   * stroke of the brush is undone alone, and the next may follow at once.
   */
  commit(treatment: Treatment, label: string, { apart = false } = {}): void {
    const last = this.edits.at(-1);
    const mergeable = !apart && last && last.label === label && (this.edits.length > 1 || !this.running);
    if (mergeable) this.edits[this.edits.length - 1] = { treatment, label };
    else this.edits.push({ treatment, label });
    const { saving } = this.current;
    const change = saving.state === 'saved' ? { saving: { state: 'saving' as const } } : {};
    this.set({ treatment, ...change }, apart ? 'at rest' : 'at once');
    const kept = this.keep();
    if (saving.state === 'conflict') return;
    clearTimeout(this.timer);
    // What lies nowhere else is not made to wait.
    this.timer = setTimeout(() => void this.flush(), kept ? SOON_MS : 0);
  }

  /** Keeps in this browser what is not saved; false where there is no room for it. */
  private keep(): boolean {
    const { take } = this.current;
    const last = this.edits.at(-1);
    return keepUnsaved(take.id, last ? { ...last, revision: take.revision } : null);
  }

  /** Saves what is not saved; resolves when it is, or cannot be for now. */
  async flush(): Promise<void> {
    clearTimeout(this.timer);
    this.running ??= this.saveAll().finally(() => (this.running = null));
    await this.running;
  }

  private async saveAll(): Promise<void> {
    while (this.edits.length && this.current.saving.state !== 'conflict') {
      const [edit] = this.edits;
      const { take } = this.current;
      this.set({ saving: { state: 'saving' } });
      try {
        const saved = await ask<Take>('PUT', `/api/takes/${take.id}/treatment`, {
          ...edit,
          revision: take.revision,
        });
        this.edits.shift();
        this.tries = 0;
        this.set({ take: saved });
        this.keep();
      } catch (error) {
        this.fail(error);
        return;
      }
    }
    if (!this.edits.length) this.set({ saving: { state: 'saved' } });
  }

  private fail(error: unknown): void {
    if (error instanceof ApiError && error.status === 409) {
      this.set({ saving: { state: 'conflict', newest: error.body.newest as Take } });
      return;
    }
    this.set({ saving: { state: 'waiting', reason: messageOf(error) } });
    if (this.closed) return;
    const delay = RETRY_MS[Math.min(this.tries++, RETRY_MS.length - 1)];
    this.timer = setTimeout(() => void this.flush(), delay);
  }

  private async step(direction: 'undo' | 'redo'): Promise<void> {
    await this.flush();
    if (this.edits.length) return;
    const { take } = this.current;
    if (take[direction] === null) return;
    try {
      const moved = await ask<Take>('POST', `/api/takes/${take.id}/${direction}`, {
        revision: take.revision,
      });
      this.set({ take: moved, treatment: moved.treatment });
    } catch (error) {
      if (error instanceof ApiError && error.status === 409) {
        // Nothing of ours is unsaved, so the newer state can be shown; its own undo leads back.
        const newest = error.body.newest as Take;
        this.set({ take: newest, treatment: newest.treatment });
      } else throw error;
    }
  }

  readonly undo = () => this.step('undo');
  readonly redo = () => this.step('redo');

  /** After a conflict: saves ours on top of theirs; theirs is one undo away. */
  async keepMine(): Promise<void> {
    const { saving } = this.current;
    if (saving.state !== 'conflict') return;
    this.edits = this.edits.slice(-1);
    this.set({ take: saving.newest, saving: { state: 'saving' } });
    this.keep();
    await this.flush();
  }

  /** After a conflict: theirs; ours is one redo away. */
  async takeTheirs(): Promise<void> {
    await this.keepMine();
    await this.step('undo');
  }

  /** After a conflict: ours becomes a take of its own. Resolves to it; this session then shows theirs. */
  async keepBoth(): Promise<Take | null> {
    const { saving, take } = this.current;
    const mine = this.edits.at(-1);
    if (saving.state !== 'conflict' || !mine) return null;
    const made = await ask<Take>('POST', `/api/photographs/${take.photographId}/takes`, {
      treatment: mine.treatment,
    });
    this.edits = [];
    this.set({ take: saving.newest, treatment: saving.newest.treatment, saving: { state: 'saved' } });
    this.keep();
    return made;
  }

  /** The window goes away: what is not saved is sent once more on the way out. */
  close(): void {
    this.closed = true;
    clearTimeout(this.timer);
    clearTimeout(this.resting);
    const last = this.edits.at(-1);
    if (!last || this.running || this.current.saving.state === 'conflict') return;
    const { take } = this.current;
    void ask<Take>(
      'PUT',
      `/api/takes/${take.id}/treatment`,
      { ...last, revision: take.revision },
      { keepalive: true },
    )
      .then(() => keepUnsaved(take.id, null))
      .catch(() => undefined);
  }
}
