import type { Rectangle } from '../../core/frame/geometry';
import type { KeptTable } from '../../core/engine/kept-tables';
import type { Plan } from '../../core/engine/plan';
import { render8, withMargin, type Kept } from '../../core/engine/render';
import type { Tile } from '../../core/frame/framing';
import type { Surveys } from '../../core/engine/run';
import { Abandoned } from '../../core/engine/abandoned';
import { changedArea } from '../../core/engine/changes';
import { touchedBy } from '../../core/masks/touched';
import { addStroke } from '../../core/treatment/areas';
import type { Stroke } from '../../core/settings/fields';
import { markColoured, markLost } from '../../core/kernels/clipping';
import type { Occupied } from '../../core/kernels/occupied';
import type { Treatment } from '../../core/treatment/treatment';
import { atHand } from './at-hand';
import { common, isEmpty, levelOf, TILE, type Framed, type Level } from './levels';
import { coloursRead, keptPixels, planner, surveyed, surveysOf } from './pixels';
import type { PictureInfo } from './tiles';
import { place, printOf, zoomAt, type Placement, type Size, type View } from './view';

/** The large picture on the Bench, rendered tile by tile for a surface on the page, which draws them. */

/** What the picture on the Bench should show. */
export interface ShowRequest {
  /** Counts the requests: the picture is up to date when the last has been shown. */
  serial: number;
  /** Counts what is to be seen of the picture, wherever it lies: tiles of another are out of date. */
  content: number;
  picture: PictureInfo;
  treatment: Treatment;
  view: View;
  /** Device pixels. */
  viewport: Size;
  margin: number;
  /** The place of the viewport that is looked at, in device pixels: its tiles come first. */
  pointer: { x: number; y: number } | null;
  /** Pixels lost at either end of the scale are painted, or those that have no colour step back. */
  marking: 'lost' | 'coloured' | null;
  /** A first answer is wanted soon; a fine one may follow. */
  draft: boolean;
}

/** Which of the tiles a worker does, where several share them; the piece of work has a number. */
export interface Share {
  which: number;
  of: number;
  work: number;
}

/** After its pieces: a piece of work is done. */
export interface Done {
  done: number;
}

export interface Shown {
  /** Milliseconds that planning and rendering took. */
  took: number;
  /** Those before the first tile was rendered: pixels fetched, tables baked, the picture looked at. */
  planned: number;
  /** Pixels rendered anew. */
  pixels: number;
  /** The picture is within the engine's tolerance; false for some drafts. */
  fine: boolean;
}

/** A rendered tile, or a part of it that has changed, on its way to the page. */
export interface Piece {
  content: number;
  /** Its level and where it lies in it. */
  of: string;
  edge: number;
  /** Of the level's whole framed picture. */
  size: Size;
  part: Rectangle;
  /** What has changed of the part. */
  only: Rectangle;
  /** Outside of what has changed it is right as well. */
  whole: boolean;
  /** Pixels of what has changed, RGBA; null where the page has them. */
  pixels: ArrayBuffer | null;
}

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

/** A surface on the page: its port, what it has of each tile, what was asked for last, and what was painted on last. */
interface Screen {
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
const screens = new Map<number, Screen>();
/** Counts what has been asked for of any. */
let asks = 0;

/** Whether the page has asked for something that has not come in here yet. */
const isAsked = () =>
  [...screens.values()].some(({ newest, latest }) => newest !== null && Atomics.load(newest, 0) !== latest);

/** Whether something else is wanted of a screen by now than what has a serial. */
const staleness = (id: number, screen: Screen, serial: number) => () =>
  screens.get(id) !== screen ||
  screen.latest !== serial ||
  (screen.newest !== null && Atomics.load(screen.newest, 0) !== serial);

export function attach(id: number, port: MessagePort, newest: Int32Array | null, slot: number): void {
  const screen: Screen = { port, slot, newest, sent: new Map(), colours: null, latest: 0, painted: null };
  screens.set(id, screen);
  // The page has let a tile go that it was thought to have.
  port.onmessage = ({ data }: MessageEvent<Piece>) => {
    const name = `${slot} ${data.of} ${data.part.x} ${data.part.y}`;
    screen.sent.delete(name);
    const made = rendered.get(name);
    if (made) post(screen, { content: data.content, marking: null }, data, made, data.part);
  };
}

/** Lets a surface go: what is still under way for it is not sent. */
export function detach(id: number): void {
  screens.get(id)?.port.close();
  screens.delete(id);
}

const nameOf = ({ slot }: Screen, of: Framed, part: Rectangle) => `${slot} ${of.name} ${part.x} ${part.y}`;

/** What of a part is to be rendered for a plan: what has changed since it was rendered last; all of it at first. */
function toRender(screen: Screen, of: Framed, part: Rectangle, plan: Plan, draft: boolean): Rectangle {
  const known = rendered.get(nameOf(screen, of, part));
  if (!known) return part;
  if (known.plan.key === plan.key) return common(part, null);
  // What is not fine stays so for drafts alone.
  if (!known.fine && !draft) return part;
  return common(part, changedArea(known.plan, plan, of.geometry));
}

/** Renders what is to be rendered of a part. */
function renderPart(
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
function post(
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
  screen.port.postMessage({ ...piece, content, only, pixels: pixels.buffer }, [pixels.buffer]);
}

/** Sends a rendered part to the page, or what has changed of it, or only that it is up to date. */
function send(
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
  const piece = { of: of.name, edge: of.edge, size: { width, height }, part, whole: true };
  const isSame = last?.marking === marking;
  if (isSame && last?.version === made.version) {
    screen.port.postMessage({ ...piece, content, only: part, pixels: null } satisfies Piece);
  } else post(screen, request, piece, made, isSame && last?.version === made.version - 1 ? changed : part);
  screen.sent.set(name, { version: made.version, marking });
}

/** A draft is made smaller where it cannot be expected within this many milliseconds. */
const SOON_MS = 22;
/** Below this long edge a draft would show too little. */
const LEAST_EDGE = 360;
/** A larger one is tried again when it can be expected in this share of that time. */
const EASY = 0.6;

/** What rendering has lately cost, in milliseconds a pixel; at first a guess for code that has not run yet. */
let cost = 0.00012;
/** The last draft was of half the size. */
let isHalved = false;

/** Whether a draft of so many pixels is made at half the size: less detail while a control moves is better than a picture that lags behind. */
function shouldHalve(level: Level, pixels: number): boolean {
  if (pixels === 0 || level.of.edge < 2 * LEAST_EDGE) return false;
  isHalved = isHalved ? pixels * cost > SOON_MS * EASY : pixels * cost > SOON_MS;
  return isHalved;
}

/** Lets messages in that have come meanwhile. */
const pause = (() => {
  const { port1, port2 } = new MessageChannel();
  const waiting: (() => void)[] = [];
  port1.onmessage = () => waiting.shift()?.();
  return () =>
    new Promise<void>(done => {
      waiting.push(done);
      port2.postMessage(null);
    });
})();

/** The long edge of the picture that is laid beneath, for what is not rendered yet when the view moves. */
const BENEATH = 480;

/** The rectangle about some as one, where it holds little else; else as they are. */
function joinedWell(areas: readonly Rectangle[]): readonly Rectangle[] {
  if (areas.length < 2) return areas;
  const x = Math.min(...areas.map(a => a.x));
  const y = Math.min(...areas.map(a => a.y));
  const width = Math.max(...areas.map(a => a.x + a.width)) - x;
  const height = Math.max(...areas.map(a => a.y + a.height)) - y;
  const sum = areas.reduce((all, a) => all + a.width * a.height, 0);
  return sum > 0.95 * width * height ? [{ x, y, width, height }] : areas;
}

/** A rectangle at another size of the same picture, widened to whole pixels. */
function atSize(area: Rectangle, from: Size, to: Size): Rectangle {
  const [across, down] = [to.width / from.width, to.height / from.height];
  const x = Math.max(0, Math.floor(area.x * across) - 1);
  const y = Math.max(0, Math.floor(area.y * down) - 1);
  return {
    x,
    y,
    width: Math.min(to.width, Math.ceil((area.x + area.width) * across) + 1) - x,
    height: Math.min(to.height, Math.ceil((area.y + area.height) * down) + 1) - y,
  };
}

/** The tables that a picture needs, for workers that share its tiles: baked by one for all. Null where they are no longer wanted. */
export async function prepare(id: number, request: ShowRequest): Promise<KeptTable[] | null> {
  const { picture, treatment, viewport, view, margin, draft, serial } = request;
  const screen = screens.get(id);
  if (!screen) return null;
  screen.latest = serial;
  asks++;
  await atHand(treatment);
  const at = place(printOf(picture, treatment.frame), viewport, view, margin);
  const { of, parts } = levelOf(picture, treatment.frame, at, viewport, 0);
  if (draft) planner(treatment, { grey: picture.grey, pixels: parts.length * TILE * TILE, draft });
  else if (!(await planned(request, of, parts, staleness(id, screen, serial)))) return null;
  return shareTables(planner.tables());
}

/** Takes tables in that another worker has baked. */
export const learn = (tables: KeptTable[]): void => planner.learn(tables);

/** Tables in memory that workers share, where the page may have such. */
function shareTables(tables: KeptTable[]): KeptTable[] {
  if (!self.crossOriginIsolated) return tables;
  for (const [, { table }] of tables) {
    if (table.kind !== 'grid' && table.kind !== 'ramp') continue;
    const of = table.kind === 'grid' ? table.grid : table.ramp;
    if (of.values.buffer instanceof SharedArrayBuffer) continue;
    const values = new Float32Array(new SharedArrayBuffer(of.values.byteLength));
    values.set(of.values);
    of.values = values;
  }
  return tables;
}

/** The fine plan of a request for some parts, what its passes find, and the parts' pixels; null where it went stale meanwhile. */
async function planned(
  { picture, treatment }: Pick<ShowRequest, 'picture' | 'treatment'>,
  of: Framed,
  parts: readonly Rectangle[],
  isStale: () => boolean,
  /** The size at which the whole picture is looked at: what is found serves at any. */
  looked: Framed = of,
): Promise<{ plan: Plan; surveys: Surveys; tiles: Tile[]; occupied?: Occupied } | null> {
  const { grey } = picture;
  const pixels = parts.length * TILE * TILE;
  // A plan without pixels bakes nothing, but says what it needs.
  const bare = planner(treatment, { grey, pixels: 0 });
  const tiles = await Promise.all(parts.map(part => keptPixels(of, withMargin(bare, part, of.geometry))));
  // Fine tables hold the colours that are there alone.
  const occupied = grey ? undefined : await coloursRead(bare, of, treatment, tiles, looked);
  if (isStale()) return null;
  try {
    const plan = planner(treatment, { grey, pixels, occupied, isAbandoned: isStale });
    return { plan, surveys: await surveysOf(plan, looked, treatment, isStale), tiles, occupied };
  } catch (error) {
    if (error instanceof Abandoned) return null;
    throw error;
  }
}

/** Says on the port when work is done: its answer may else be there before its last pieces. */
async function saying<T>(id: number, { work }: Share, run: () => Promise<T>): Promise<T> {
  try {
    return await run();
  } finally {
    screens.get(id)?.port.postMessage({ done: work } satisfies Done);
  }
}

/** Sends what is asked for; resolves when it is sent, to null where its view has gone or wants something else meanwhile. */
export const show = (id: number, request: ShowRequest, share: Share): Promise<Shown | null> =>
  saying(id, share, () => showTiles(id, request, share));

/**
 * Sends a stroke that is under way: of tiles that show what it is painted on, only what it has touched since.
 * Resolves when it is sent.
 */
export const showStroke = (id: number, request: StrokeRequest, share: Share): Promise<Shown | null> =>
  saying(id, share, () => sendStroke(id, request, share));

async function showTiles(id: number, request: ShowRequest, share: Share): Promise<Shown | null> {
  try {
    return await showWanted(id, request, share);
  } catch (error) {
    if (error instanceof Abandoned) return null;
    throw error;
  }
}

async function showWanted(id: number, request: ShowRequest, share: Share): Promise<Shown | null> {
  const { picture, treatment, view, viewport, margin, draft, pointer } = request;
  const screen = screens.get(id);
  if (!screen) return null;
  screen.latest = request.serial;
  asks++;
  await atHand(treatment);
  const at = place(printOf(picture, treatment.frame), viewport, view, margin);
  const natural = levelOf(picture, treatment.frame, at, viewport, 0, pointer);
  const isMine = isOf(share);
  const isStale = staleness(id, screen, request.serial);
  const { of } = natural;

  if (draft) {
    const { grey } = picture;
    const began = performance.now();
    const occupied = screen.colours?.of === of.name ? screen.colours.occupied : undefined;
    const pixelsSeen = natural.parts.length * TILE * TILE;
    const plan = planner(treatment, { grey, pixels: pixelsSeen, draft: true, occupied });
    const renewed = natural.parts.map(part => toRender(screen, of, part, plan, true));
    const pixels = renewed.reduce((sum, { width, height }) => sum + width * height, 0);
    const halved = shouldHalve(natural, pixels);
    const planning = performance.now() - began;
    const level = halved ? levelOf(picture, treatment.frame, at, viewport, 1, pointer) : natural;
    // A table for the colours of the finer tiles does not serve for the coarser.
    const planHere = halved ? planner(treatment, { grey, pixels: pixelsSeen, draft: true }) : plan;
    const mine = level.parts.filter(isMine);
    const stale = joinedWell(renewed.filter(area => !isEmpty(area)));
    const [surveys, ...tiles] = await Promise.all([
      // What is found in the whole picture serves at any size.
      surveysOf(planHere, of, treatment, isStale),
      ...mine.map(part => keptPixels(level.of, withMargin(planHere, part, level.of.geometry))),
    ]);
    if (screens.get(id) !== screen) return null;
    const resumed = performance.now();
    let count = 0;
    if (halved) {
      // Tiles that have not changed stay as fine as they are.
      natural.parts.forEach((part, i) => {
        if (!isMine(part) || !isEmpty(renewed[i])) return;
        const made = renderPart(
          screen,
          of,
          { ...part, codes: new Uint16Array(0) },
          part,
          plan,
          surveys,
          renewed[i],
        );
        send(screen, request, of, part, made, renewed[i]);
      });
    }
    mine.forEach((part, i) => {
      const only = toRender(screen, level.of, part, planHere, true);
      count += only.width * only.height;
      const made = renderPart(screen, level.of, tiles[i], part, planHere, surveys, only);
      if (!halved) {
        send(screen, request, level.of, part, made, only);
        return;
      }
      // Where the finer tiles are right they are not drawn over.
      for (const [k, area] of stale.entries()) {
        const seen = common(part, atSize(area, of.geometry, level.of.geometry));
        if (isEmpty(seen)) continue;
        const { width, height } = level.of.geometry;
        const patch = { of: `${level.of.name} patch ${k}`, edge: level.of.edge, size: { width, height } };
        post(screen, request, { ...patch, part: seen, whole: false }, made, seen, part);
      }
    });
    if (count) cost += 0.3 * ((performance.now() - resumed) / count - cost);
    const isFine = natural.parts.every(part => rendered.get(nameOf(screen, of, part))?.fine);
    return {
      took: planning + performance.now() - resumed,
      planned: planning,
      pixels: count,
      fine: !halved && isFine,
    };
  }

  const began = performance.now();
  const ahead = await planned(request, of, natural.parts, isStale);
  if (!ahead || isStale()) return null;
  const { plan, surveys, tiles, occupied } = ahead;
  const ready = performance.now() - began;
  screen.colours = occupied ? { of: of.name, occupied } : null;
  let count = 0;
  for (const [i, part] of natural.parts.entries()) {
    if (!isMine(part)) continue;
    if (isStale()) return null;
    const only = toRender(screen, of, part, plan, false);
    count += only.width * only.height;
    send(screen, request, of, part, renderPart(screen, of, tiles[i], part, plan, surveys, only), only);
    if (!isEmpty(only)) await pause();
  }
  const took = performance.now() - began;
  if (isStale()) return null;
  void afterwards(screen, request, at, isStale).catch(() => undefined);
  return { took, planned: ready, pixels: count, fine: true };
}

/** When a picture is there, what it will want next: itself whole and small, for where the view may move, and pixels of drafts. */
async function afterwards(
  screen: Screen,
  request: ShowRequest,
  at: Placement,
  isStale: () => boolean,
): Promise<void> {
  const { picture, treatment, viewport, view } = request;
  const plan = planner(treatment, { grey: picture.grey, pixels: 0 });
  const half = levelOf(picture, treatment.frame, at, viewport, 1);
  await Promise.all(half.parts.map(part => keptPixels(half.of, withMargin(plan, part, half.of.geometry))));
  if (view.mode === 'fit') {
    // A look at the natural size is often next.
    const middle = request.pointer ?? { x: viewport.width / 2, y: viewport.height / 2 };
    const print = printOf(picture, treatment.frame);
    const close = zoomAt(print, viewport, view, request.margin, 1, middle);
    const natural = place(print, viewport, close, request.margin);
    const { of, parts } = levelOf(picture, treatment.frame, natural, viewport, 0, middle);
    for (const part of parts) {
      if (isStale()) return;
      await keptPixels(of, withMargin(plan, part, of.geometry));
    }
    return;
  }
  const small = { ...at, longEdge: Math.min(at.longEdge, BENEATH), x: 0, y: 0 };
  const all = { width: at.width, height: at.height };
  const { of, parts } = levelOf(picture, treatment.frame, small, all, 0);
  const natural = levelOf(picture, treatment.frame, at, viewport, 0);
  const beneath = await planned(request, of, parts, isStale, natural.of);
  if (!beneath) return;
  for (const [i, part] of parts.entries()) {
    await pause();
    if (isStale()) return;
    const only = toRender(screen, of, part, beneath.plan, false);
    const made = renderPart(screen, of, beneath.tiles[i], part, beneath.plan, beneath.surveys, only);
    send(screen, request, of, part, made, only);
  }
}

/**
 * Fetches the pixels that a picture would be shown with first, fitted, and those that its steps look at; then bakes its
 * tables and looks at it, as long as nothing else is wanted.
 */
export async function warm(
  picture: PictureInfo,
  treatment: Treatment,
  viewport: Size,
  margin: number,
  share: Omit<Share, 'work'>,
): Promise<void> {
  const { frame } = treatment;
  const at = place(printOf(picture, frame), viewport, { mode: 'fit' }, margin);
  const { of, parts } = levelOf(picture, frame, at, viewport, 0);
  const plan = planner(treatment, { grey: picture.grey, pixels: 0 });
  const own = parts.filter(isOf(share)).map(part => keptPixels(of, withMargin(plan, part, of.geometry)));
  await Promise.all([...own, plan.surveyed && surveyed(of, treatment)]);
  // Tables are baked by the first worker for all.
  if (share.which !== 0) return;
  const before = asks;
  await atHand(treatment);
  await planned({ picture, treatment }, of, parts, () => asks !== before || isAsked());
}

/** Whether a part is of a share. */
const isOf =
  ({ which, of }: Omit<Share, 'work'>) =>
  ({ x, y }: Rectangle) =>
    ((x + y) / TILE) % of === which;

/** What a stroke is painted on: what was asked for last, and the plan that it then had. */
interface Painted {
  request: ShowRequest;
  /** The points that are drawn already. */
  points: number;
  key: string | null;
}

/** A stroke under way. */
export interface StrokeRequest {
  serial: number;
  content: number;
  /** The picture that it is painted on; null where it is that of the last message. */
  base: ShowRequest | null;
  area: string;
  stroke: Stroke;
}

async function sendStroke(
  id: number,
  { serial, content, base, area, stroke }: StrokeRequest,
  share: Share,
): Promise<Shown | null> {
  const screen = screens.get(id);
  if (!screen) return null;
  screen.latest = serial;
  asks++;
  if (base) screen.painted = { request: base, points: 0, key: null };
  if (!screen.painted) throw new Error('no picture to paint on');
  const now = screen.painted;
  const { picture, view, viewport, margin, marking } = now.request;
  const began = performance.now();
  const treatment = addStroke(now.request.treatment, area, stroke);
  await atHand(treatment);
  const at = place(printOf(picture, treatment.frame), viewport, view, margin);
  const { of, parts } = levelOf(picture, treatment.frame, at, viewport, 0);
  const mine = parts.filter(isOf(share));
  const occupied = screen.colours?.of === of.name ? screen.colours.occupied : undefined;
  const planning = { grey: picture.grey, pixels: parts.length * TILE * TILE, draft: true, occupied };
  now.key ??= planner(now.request.treatment, planning).key;
  const plan = planner(treatment, planning);
  const follows = mine.every(part => rendered.get(nameOf(screen, of, part))?.plan.key === now.key);
  const added = { ...stroke, points: stroke.points.slice(Math.max(0, now.points - 1)) };
  if (!follows || plan.surveyed || marking || plan.margin(of.geometry) > 0) {
    const shown = await showTiles(id, { ...now.request, treatment, serial, content, draft: true }, share);
    // Where that was drawn with fewer pixels, the next movement comes here again.
    now.points = stroke.points.length;
    now.key = plan.key;
    return shown;
  }
  const bleed = Math.max(0, ...treatment.steps.map(s => (s.settings as { bleed?: number }).bleed ?? 0));
  const touched = touchedBy(added, area, treatment.masks, of.geometry, bleed);
  let count = 0;
  for (const part of mine) {
    const tile = await keptPixels(of, withMargin(plan, part, of.geometry));
    if (screens.get(id) !== screen) return null;
    const only = common(part, touched);
    const made = renderPart(screen, of, tile, part, plan, [], only);
    count += only.width * only.height;
    send(screen, { content, marking }, of, part, made, only);
  }
  now.points = stroke.points.length;
  now.key = plan.key;
  return { took: performance.now() - began, planned: 0, pixels: count, fine: plan.fine };
}
