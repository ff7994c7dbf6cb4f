import { withMargin } from '../../../core/engine/render';
import { isEmpty, levelOf } from '../levels';
import { keptPixels, planner } from '../pixels';
import { place, printOf, zoomAt, type Placement } from '../view';
import type { Asked } from './asked';
import type { ShowRequest, Shown } from './messages';
import { planned } from './planned';
import { renderPart, send, statesOf, toRender } from './rendered';
import type { Screen } from './screens';

/** The picture at rest: each of its tiles as fine as it can be, and then what it will want next. */

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

/** Sends what is asked for finely; null where something else is wanted meanwhile. */
export async function showFine({
  screen,
  request,
  at,
  natural,
  isMine,
  isStale,
}: Asked): Promise<Shown | null> {
  const { of } = natural;
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
  const states = statesOf(screen, of, natural.parts.filter(isMine));
  return { took, planned: ready, pixels: count, fine: true, tiles: states };
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
