/**
 * Small pictures that come close upon one another are drawn several at a time: a page full of them takes longer to be laid
 * on the screen than each of them to be made.
 */

/** Between one drawing and the next; the first after a rest is drawn at once. */
const EVERY_MS = 80;

const waiting: (() => void)[] = [];
let timer: ReturnType<typeof setTimeout> | null = null;
let last = -Infinity;

function drawAll(): void {
  timer = null;
  last = performance.now();
  for (const draw of waiting.splice(0)) draw();
}

export function drawSoon(draw: () => void): void {
  waiting.push(draw);
  timer ??= setTimeout(drawAll, Math.max(0, last + EVERY_MS - performance.now()));
}
