import type { Geometry, Rectangle } from '../frame/geometry';
import type { Pass } from './pass';
import type { Plan } from './plan';

/** Which pixels one plan may make otherwise than another, so that the rest need not be rendered again. */

/** The smallest rectangle about two. */
function about(a: Rectangle | null, b: Rectangle | null): Rectangle | null {
  if (!a || !b) return a ?? b;
  const x = Math.min(a.x, b.x);
  const y = Math.min(a.y, b.y);
  return {
    x,
    y,
    width: Math.max(a.x + a.width, b.x + b.width) - x,
    height: Math.max(a.y + a.height, b.y + b.height) - y,
  };
}

/** What it finds in the whole picture may change with any part of it. */
const looksAtAll = (pass: Pass) =>
  Boolean(pass.coverage?.survey) || (pass.kind === 'field' && Boolean(pass.field.survey));

/**
 * The rectangle of a framed picture outside of which two plans, both for it, make the same pixels; null where they do so
 * everywhere. Passes that only one of them has count where their masks may cover.
 */
export function changedArea(before: Plan, after: Plan, geometry: Geometry): Rectangle | null {
  const whole = { x: 0, y: 0, width: geometry.width, height: geometry.height };
  const a = before.passes;
  const b = after.passes;
  if (before.strength !== after.strength) return whole;
  const most = Math.min(a.length, b.length);
  let same = 0;
  while (same < most && a[same].does === b[same].does) same++;
  let tail = 0;
  while (tail < most - same && a.at(-1 - tail)!.does === b.at(-1 - tail)!.does) tail++;
  const changed = [...a.slice(same, a.length - tail), ...b.slice(same, b.length - tail)];
  if (!changed.length) return null;
  const rest = b.slice(b.length - tail);
  if (rest.some(looksAtAll)) return whole;
  let area: Rectangle | null = null;
  for (const pass of changed) {
    if (pass.kind === 'ground') continue;
    const laid = pass.kind === 'points' || pass.kind === 'field';
    if (!laid || !pass.coverage) return whole;
    area = about(area, pass.coverage.within(whole, geometry));
  }
  if (!area) return null;
  // What lies beside is drawn in by passes that look at their neighbours.
  const more = rest.reduce(
    (sum, pass) => sum + (pass.kind === 'field' ? (pass.field.margin?.(geometry) ?? 0) : 0),
    0,
  );
  const x = Math.max(0, area.x - more);
  const y = Math.max(0, area.y - more);
  return {
    x,
    y,
    width: Math.min(whole.width, area.x + area.width + more) - x,
    height: Math.min(whole.height, area.y + area.height + more) - y,
  };
}
