import type { Rectangle } from '../../../core/frame/geometry';
import type { Occupied } from '../../../core/kernels/occupied';
import { TILE, type Framed } from '../levels';
import type { Share, ShowRequest } from './messages';

/** The surfaces on the page that this worker draws for, and whether what they asked for is still wanted. */

/** What a stroke is painted on: what was asked for last, and the plan that it then had. */
export interface Painted {
  request: ShowRequest;
  /** The points that are drawn already. */
  points: number;
  key: string | null;
}

/** A surface on the page: its port, what it has of each tile, what was asked for last, and what was painted on last. */
export interface Screen {
  port: MessagePort;
  /** Two surfaces that show the same picture otherwise have tiles of their own. */
  slot: number;
  /** Holds the serial of what the page asked for last, where memory can be shared: to be seen while this is busy. */
  newest: Int32Array | null;
  /** By tile: what was sent last of it. */
  sent: Map<string, { version: number; marking: ShowRequest['marking'] }>;
  /** The colours of what was last rendered finely, and of which level that was. */
  colours: { of: string; occupied: Occupied } | null;
  latest: number;
  painted: Painted | null;
}
/** The surfaces of the page by the numbers of their views. To one that is gone nothing is sent any more. */
export const screens = new Map<number, Screen>();
/** Counts what has been asked for of any. */
let asks = 0;

/** Something has been asked for of a screen, under a serial. */
export function asked(screen: Screen, serial: number): void {
  screen.latest = serial;
  asks++;
}

/** Tells whether anything has been asked for since. */
export function sinceNow(): () => boolean {
  const before = asks;
  return () => asks !== before || isAsked();
}

/** Whether the page has asked for something that has not come in here yet. */
const isAsked = () =>
  [...screens.values()].some(({ newest, latest }) => newest !== null && Atomics.load(newest, 0) !== latest);

/** Whether something else is wanted of a screen by now than what has a serial. */
export const staleness = (id: number, screen: Screen, serial: number) => () =>
  screens.get(id) !== screen ||
  screen.latest !== serial ||
  (screen.newest !== null && Atomics.load(screen.newest, 0) !== serial);

/** A tile by its name: two surfaces that show the same picture otherwise have tiles of their own. */
export const nameAt = ({ slot }: Screen, of: string, { x, y }: { x: number; y: number }) =>
  `${slot} ${of} ${x} ${y}`;
export const nameOf = (screen: Screen, of: Framed, part: Rectangle) => nameAt(screen, of.name, part);

/** Whether a part is of a share. */
export const isOf =
  ({ which, of }: Omit<Share, 'work'>) =>
  ({ x, y }: Rectangle) =>
    ((x + y) / TILE) % of === which;

/** Lets a surface go: what is still under way for it is not sent. */
export function detach(id: number): void {
  screens.get(id)?.port.close();
  screens.delete(id);
}
