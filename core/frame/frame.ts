/** The frame of a treatment: turned, mirrored, keystoned, straightened, cropped, in this order. */
export interface Frame {
  /** Clockwise, 0..3. */
  quarterTurns: number;
  /** Left and right exchanged. */
  mirror: boolean;
  /** Degrees, clockwise, -45..45. */
  angle: number;
  /** -1..1 */
  keystone: { vertical: number; horizontal: number };
  /** Fractions of the turned picture. */
  crop: { x: number; y: number; width: number; height: number };
}

/** The whole photograph, as it was taken. */
export const wholeFrame = (): Frame => ({
  quarterTurns: 0,
  mirror: false,
  angle: 0,
  keystone: { vertical: 0, horizontal: 0 },
  crop: { x: 0, y: 0, width: 1, height: 1 },
});
