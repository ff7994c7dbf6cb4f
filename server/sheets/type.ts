import { cutTo, type Face, type Faces } from './faces';
import type { Paper } from './paper';

/** How sheets are written: sizes in points, colours. */

export const INK = '#1c1c1c';
export const GREY = '#616161';
export const TITLE = 24;
export const NOTE = 8;

export interface How {
  face: Face;
  size: number;
  colour: string;
}

/** Writes a line within a width, its baseline at `y`; how wide it became. */
export function writeWithin(
  paper: Paper,
  faces: Faces,
  text: string,
  { x, y, width }: { x: number; y: number; width: number },
  how: How,
): number {
  const shown = cutTo(faces, text, how.face, how.size, width);
  paper.write(shown, { x, y }, how);
  return faces.width(shown, how.face, how.size);
}
