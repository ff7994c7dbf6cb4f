import type { Stroke } from '../../core/settings/fields';
import type { Treatment } from '../../core/treatment/treatment';

/** What a pointer on the picture does besides moving it. */

/** A place on the picture in its frame: fractions of its width and height. */
export interface Place {
  x: number;
  y: number;
  /** Of a pen, 0..1; 1 for what has none. */
  pressure?: number;
}

/** Keys held at a press. */
export interface HeldKeys {
  alt: boolean;
  shift: boolean;
}

/** Draws at once, past the interface: what must follow the pointer. What was drawn so must be committed at the end. */
export interface Live {
  /** @param base what the stroke is painted on, the same object for all of a stroke */
  stroke: (base: Treatment, area: string, stroke: Stroke) => void;
}

export interface PictureTool {
  cursor: string;
  /** What it is for, said with the picture to screen readers. */
  name: string;
  /** A press on the picture. What it returns follows the pointer until it is let go. */
  press: (at: Place, keys: HeldKeys, live: Live) => ToolDrag | null;
  /** The pointer moves over the picture without a press; null when it leaves. */
  hover?: (at: Place | null) => void;
  /** The wheel with Shift held, by so many steps: the brush grows and shrinks. */
  turn?: (steps: number) => void;
  /** A press beside the picture counts as well. */
  anywhere?: boolean;
}

export interface ToolDrag {
  /** It draws past the interface, and is led on as often as the pointer tells of a place, not once a frame. */
  live?: boolean;
  /** `right` and `down` are CSS pixels since the press. */
  move?: (at: Place, right: number, down: number) => void;
  end?: () => void;
  /** It is given up: what it has drawn is taken back. */
  cancel?: () => void;
}

/** Where the picture lies on the wall, in CSS pixels. */
export interface OnWall {
  left: number;
  top: number;
  width: number;
  height: number;
}
