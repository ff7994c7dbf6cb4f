/** A place on one of two panes, in its device pixels. */
export interface PointerAt {
  x: number;
  y: number;
  pane: 0 | 1;
}

/** Where the pointer is on the wall: read when something happens there, and nothing is built anew as it moves. */
export class PointerPlace {
  private place: PointerAt | null = null;

  /** Null where it is elsewhere. */
  readonly now = (): PointerAt | null => this.place;

  readonly put = (place: PointerAt | null): void => {
    this.place = place;
  };
}
