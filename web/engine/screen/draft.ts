import type { Rectangle } from '../../../core/frame/geometry';
import { withMargin } from '../../../core/engine/render';
import { common, isEmpty, levelOf, TILE, type Level } from '../levels';
import { keptPixels, planner, surveysOf } from '../pixels';
import type { Size } from '../view';
import type { Asked } from './asked';
import type { Shown } from './messages';
import { isFine, post, renderPart, send, statesOf, toRender } from './rendered';
import { screens } from './screens';

/** The picture while something moves: soon, and smaller where it cannot be soon at its size. */

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

/** Sends a draft of what is asked for. */
export async function showDraft(asked: Asked): Promise<Shown | null> {
  const { id, screen, request, at, natural, isMine, isStale } = asked;
  const { picture, treatment, viewport, pointer } = request;
  const { of } = natural;
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
      const patch = {
        of: `${level.of.name} patch ${k}`,
        edge: level.of.edge,
        size: { width, height },
        version: 0,
      };
      post(screen, request, { ...patch, part: seen, whole: false }, made, seen, part);
    }
  });
  if (count) cost += 0.3 * ((performance.now() - resumed) / count - cost);
  const areFine = natural.parts.every(part => isFine(screen, of, part));
  return {
    took: planning + performance.now() - resumed,
    planned: planning,
    pixels: count,
    fine: !halved && areFine,
    tiles: statesOf(screen, of, natural.parts.filter(isMine)),
  };
}
