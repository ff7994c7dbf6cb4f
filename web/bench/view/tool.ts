/** What a pointer on the picture does besides moving it. */

/** A place on the picture in its frame: fractions of its width and height. */
export interface Place {
  x: number;
  y: number;
}

export interface PictureTool {
  cursor: string;
  /** What it is for, said with the picture to screen readers. */
  name: string;
  /** A press on the picture. What it returns follows the pointer until it is let go. */
  press: (at: Place) => ToolDrag | null;
}

export interface ToolDrag {
  /** `right` and `down` are CSS pixels since the press. */
  move?: (at: Place, right: number, down: number) => void;
  end?: () => void;
}

/** Where the picture lies on the wall, in CSS pixels. */
export interface OnWall {
  left: number;
  top: number;
  width: number;
  height: number;
}
