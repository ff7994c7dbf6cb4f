import type { Frame } from './frame';
import { wholeCrop } from './crop';
import { geometryOf } from './geometry';

/** Frames found from lines that a photographer draws. */

/** Two ends of a line, in pixels of the photograph. */
export type Line = [from: [number, number], to: [number, number]];

interface Size {
  width: number;
  height: number;
}

const clamp = (v: number, most: number) => Math.min(most, Math.max(-most, v));

/** A direction (degrees) as its difference from the nearest level or upright, -45..45. */
function offSquare(dx: number, dy: number): number {
  const degrees = (Math.atan2(dy, dx) * 180) / Math.PI;
  return degrees - Math.round(degrees / 90) * 90;
}

/** A line as the frame shows it: its run and its fall. */
function drawnIn(photograph: Size, frame: Frame, line: Line): { dx: number; dy: number } {
  const { toFramed } = geometryOf(photograph, { ...frame, crop: wholeCrop });
  const [a, b] = line.map(([x, y]) => {
    const out = new Float64Array(2);
    toFramed(x, y, out);
    return out;
  });
  return { dx: b[0] - a[0], dy: b[1] - a[1] };
}

/** The frame turned so that a line becomes level or upright, whichever it is nearer to. */
export function straightened(photograph: Size, frame: Frame, line: Line): Frame {
  const { dx, dy } = drawnIn(photograph, frame, line);
  return { ...frame, angle: clamp(frame.angle - offSquare(dx, dy), 45) };
}

/**
 * The frame whose keystone and angle make two lines parallel and upright (or level, when they are nearer to
 * that), by Newton's method on both. Keystone stays within -1..1: lines that converge more come only nearer.
 */
export function madeParallel(photograph: Size, frame: Frame, lines: readonly [Line, Line]): Frame {
  const first = lines.map(line => drawnIn(photograph, frame, line));
  const upright = first.reduce((sum, { dx, dy }) => sum + Math.abs(dy) - Math.abs(dx), 0) > 0;
  const with2 = (keystone: number, angle: number): Frame => ({
    ...frame,
    angle: clamp(angle, 45),
    keystone: { ...frame.keystone, [upright ? 'vertical' : 'horizontal']: clamp(keystone, 1) },
  });
  const errors = (keystone: number, angle: number) =>
    lines.map(line => {
      const { dx, dy } = drawnIn(photograph, with2(keystone, angle), line);
      return upright ? Math.atan(dx / (dy || 1e-9)) : Math.atan(dy / (dx || 1e-9));
    });
  let keystone = upright ? frame.keystone.vertical : frame.keystone.horizontal;
  let { angle } = frame;
  for (let round = 0; round < 30; round++) {
    const [e1, e2] = errors(keystone, angle);
    if (Math.abs(e1) + Math.abs(e2) < 1e-7) break;
    const step = keystone > 0.5 ? -1e-4 : 1e-4;
    const byKeystone = errors(keystone + step, angle).map((e, i) => (e - [e1, e2][i]) / step);
    const byAngle = errors(keystone, angle + 1e-3).map((e, i) => (e - [e1, e2][i]) / 1e-3);
    const determinant = byKeystone[0] * byAngle[1] - byKeystone[1] * byAngle[0];
    if (Math.abs(determinant) < 1e-12) break;
    keystone -= clamp((e1 * byAngle[1] - e2 * byAngle[0]) / determinant, 0.4);
    angle -= clamp((byKeystone[0] * e2 - byKeystone[1] * e1) / determinant, 10);
    keystone = clamp(keystone, 1);
    angle = clamp(angle, 45);
  }
  return with2(keystone, angle);
}
