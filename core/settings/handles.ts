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

/** A number that follows from where something lies, and what is set once it is another: to be read and typed. */
export interface Measure<S> {
  name: string;
  /** A length is a fraction of the long edge of the photograph, a turn in degrees clockwise. */
  unit: 'length' | 'turn';
  value: number;
  min: number;
  max: number;
  set: (value: number) => S;
}
