import type { Position } from './fields';

/** A point by which something is held on the picture: its place, and what is set once it is moved elsewhere. */
export interface Handle<S> {
  name: string;
  at: Position;
  move: (to: Position) => S;
  /** It goes to and fro only. */
  alongX?: boolean;
}

/** A line that shows on the picture where something lies. */
export interface Outline {
  points: Position[];
  /** An inner or outer end of something soft. */
  faint?: boolean;
}
