import type { Tile } from '../../../core/frame/framing';
import { changedArea } from '../../../core/engine/changes';
import type { Plan } from '../../../core/engine/plan';
import { render8, type Kept } from '../../../core/engine/render';
import type { Surveys } from '../../../core/engine/run';
import type { Rectangle } from '../../../core/frame/geometry';
import { markColoured, markLost } from '../../../core/kernels/clipping';
import { common, isEmpty, type Framed } from '../levels';
import type { Piece, ShowRequest, TileState } from './messages';
import { nameAt, nameOf, screens, type Screen } from './screens';

/** The tiles that this worker has rendered: each is rendered where it has changed, and sent where the page has another. */

interface Rendered {
  plan: Plan;
  /** Counts how often its image has changed. */
  version: number;
  fine: boolean;
  image: ImageData;
  kept: Kept;
}

/** Rendered tiles kept at most, a quarter of a megabyte each and what they are made from. */
const KEPT = 256;
const rendered = new Map<string, Rendered>();

/** What of a part is to be rendered for a plan: what has changed since it was rendered last; all of it at first. */
export function toRender(screen: Screen, of: Framed, part: Rectangle, plan: Plan, draft: boolean): Rectangle {
  const known = rendered.get(nameOf(screen, of, part));
  if (!known) return part;
  if (known.plan.key === plan.key) return common(part, null);
  // What is not fine stays so for drafts alone.
  if (!known.fine && !draft) return part;
  return common(part, changedArea(known.plan, plan, of.geometry));
}

/** Renders what is to be rendered of a part. */
export function renderPart(
  screen: Screen,
  of: Framed,
  tile: Tile,
  part: Rectangle,
  plan: Plan,
  surveys: Surveys,
  only: Rectangle,
): Rendered {
  const name = nameOf(screen, of, part);
  const known = rendered.get(name);
  const image = known?.image ?? new ImageData(part.width, part.height);
  const kept = known?.kept ?? {};
  const isWhole = only.width === part.width && only.height === part.height;
  if (!isEmpty(only)) {
    const { grey } = of.picture;
    const hint = isWhole ? undefined : only;
    render8(plan, tile, image.data, 4, { grey, geometry: of.geometry, surveys, part, kept, only: hint });
  }
  const fine = isWhole ? plan.fine : (known?.fine ?? true) && (isEmpty(only) || plan.fine);
  const version = (known?.version ?? 0) + (isEmpty(only) ? 0 : 1);
  const made = { plan, version, fine, image, kept };
  rendered.delete(name);
  rendered.set(name, made);
  if (rendered.size > KEPT) rendered.delete(rendered.keys().next().value!);
  return made;
}

/** The pixels of a rectangle of an image, in memory of their own. */
function cutOut(
  { data, width }: ImageData,
  part: Rectangle,
  only: Rectangle,
): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(only.width * only.height * 4);
  for (let row = 0; row < only.height; row++) {
    const from = ((only.y - part.y + row) * width + only.x - part.x) * 4;
    out.set(data.subarray(from, from + only.width * 4), row * only.width * 4);
  }
  return out;
}

/** Posts what has changed of a part. */
export function post(
  screen: Screen,
  { content, marking }: Pick<ShowRequest, 'content' | 'marking'>,
  piece: Omit<Piece, 'content' | 'pixels' | 'only'>,
  { image }: Rendered,
  only: Rectangle,
  part = piece.part,
): void {
  const pixels = cutOut(image, part, only);
  if (marking === 'lost') markLost(pixels);
  else if (marking === 'coloured') markColoured(pixels);
  screen.port.postMessage({ ...piece, content, only, pixels: pixels.buffer } satisfies Piece, [
    pixels.buffer,
  ]);
}

/** Sends a rendered part to the page, or what has changed of it, or only that it is up to date. */
export function send(
  screen: Screen,
  request: Pick<ShowRequest, 'content' | 'marking'>,
  of: Framed,
  part: Rectangle,
  made: Rendered,
  changed: Rectangle,
): void {
  const { marking, content } = request;
  const name = nameOf(screen, of, part);
  const last = screen.sent.get(name);
  const { width, height } = of.geometry;
  const { version } = made;
  const piece = { of: of.name, edge: of.edge, size: { width, height }, version, part, whole: true };
  const isSame = last?.marking === marking;
  if (isSame && last?.version === version) {
    screen.port.postMessage({ ...piece, content, only: part, pixels: null } satisfies Piece);
  } else post(screen, request, piece, made, isSame && last?.version === version - 1 ? changed : part);
  screen.sent.set(name, { version, marking });
}

/** Of which states tiles are, as they were sent last. */
export const statesOf = (screen: Screen, of: Framed, parts: readonly Rectangle[]): TileState[] =>
  parts.flatMap(({ x, y }) => {
    const last = screen.sent.get(nameAt(screen, of.name, { x, y }));
    return last ? [{ of: of.name, x, y, version: last.version }] : [];
  });

/** Lets a tile go, and what was said to have been sent of it. */
export function forget(screen: Screen, tile: TileState): void {
  const name = nameAt(screen, tile.of, tile);
  screen.sent.delete(name);
  rendered.delete(name);
}

/** Whether a tile has been rendered finely. */
export const isFine = (screen: Screen, of: Framed, part: Rectangle): boolean =>
  rendered.get(nameOf(screen, of, part))?.fine ?? false;

/** The plan that a tile was rendered for last. */
export const keyOf = (screen: Screen, of: Framed, part: Rectangle): string | undefined =>
  rendered.get(nameOf(screen, of, part))?.plan.key;

/** A surface on the page draws what comes through its port from now on. */
export function attach(id: number, port: MessagePort, newest: Int32Array | null, slot: number): void {
  const screen: Screen = { port, slot, newest, sent: new Map(), colours: null, latest: 0, painted: null };
  screens.set(id, screen);
  port.onmessage = ({ data }: MessageEvent<Piece>) => {
    // The page has let a tile go that it was thought to have.
    const name = nameAt(screen, data.of, data.part);
    screen.sent.delete(name);
    const made = rendered.get(name);
    if (!made) return;
    const { content, of, edge, size, part, whole } = data;
    const { version } = made;
    post(screen, { content, marking: null }, { of, edge, size, part, whole, version }, made, part);
  };
}
