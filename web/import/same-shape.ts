/** Shapes that differ by less than this are one: sizes are whole pixels. */
const NEAR = 0.01;

interface Size {
  width: number;
  height: number;
}

/** Whether pictures are of one shape, whatever their sizes. */
export const isSameShape = (a: Size, b: Size): boolean =>
  Math.abs(Math.log((a.width * b.height) / (a.height * b.width))) < NEAR;
