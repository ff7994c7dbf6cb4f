/** How long a control that moves must rest before what follows it slowly is told. */
const REST_MS = 150;
/** While a slider glides, the panel about it follows this often; the picture follows each movement. */
const PACE_MS = 100;

/** Who follows a change at once: everything, all but what rests, or only the picture and what is due. */
export type Follows = 'at once' | 'panel' | 'paced' | 'at rest';

/**
 * A value that moves, and how closely what shows it follows: the picture each movement, the panel ten times a second,
 * all else when it rests. While the pen is down only the picture follows.
 */
export class Pacing<T> {
  private current: T;
  private shown: T;
  private shownAt = 0;
  private atRest: T;
  private penIsDown = false;
  private resting: ReturnType<typeof setTimeout> | undefined;
  private readonly listeners = new Set<() => void>();

  constructor(value: T) {
    this.current = value;
    this.shown = value;
    this.atRest = value;
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

  set(value: T, follows: Follows = 'at once'): void {
    this.current = value;
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
    for (const listener of this.listeners) listener();
  }

  /** Shows everywhere what is still on its way: before something acts on what is shown. */
  readonly settle = (): void => {
    if (!this.penIsDown && this.atRest !== this.current) this.set(this.current);
  };

  pen(down: boolean): void {
    this.penIsDown = down;
    clearTimeout(this.resting);
    if (!down) this.resting = setTimeout(this.settle, REST_MS);
  }

  close(): void {
    clearTimeout(this.resting);
  }
}
