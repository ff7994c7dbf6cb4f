/** What is said of cells, how it is weighed, and how it is drawn to edges; see `core/kernels/likeness.ts` and `belief.ts`. */

/**
 * How like cells are to what a histogram of 24 bins a feature was made of: the root of what it has of them, as a share of the most.
 * @param last where the last bin but a little ends: beyond it, and below 0, nothing is like
 */
export function likeness(
  f: usize,
  g: usize,
  h: usize,
  count: i32,
  bins: usize,
  down: i32,
  across: i32,
  last: f32,
  lowF: f32,
  lowG: f32,
  lowH: f32,
  scaleF: f32,
  scaleG: f32,
  scaleH: f32,
  most: f32,
  out: usize,
): void {
  const one = (<usize>across) << 2;
  const layer = (<usize>down) << 2;
  for (let i = 0; i < count; i++) {
    const at = (<usize>i) << 2;
    store<f32>(out + at, 0);
    const a = (load<f32>(f + at) - lowF) * scaleF - <f32>0.5;
    if (!(a > 0 && a < last)) continue;
    const b = (load<f32>(g + at) - lowG) * scaleG - <f32>0.5;
    if (!(b > 0 && b < last)) continue;
    const c = (load<f32>(h + at) - lowH) * scaleH - <f32>0.5;
    if (!(c > 0 && c < last)) continue;
    const ia = <i32>a;
    const ib = <i32>b;
    const ic = <i32>c;
    const x = c - <f32>ic;
    const y = b - <f32>ib;
    const p = bins + ((<usize>(ia * down + ib * across + ic)) << 2);
    const p1 = load<f32>(p) + (load<f32>(p, 4) - load<f32>(p)) * x;
    const q = p + one;
    const p2 = load<f32>(q) + (load<f32>(q, 4) - load<f32>(q)) * x;
    const r = p + layer;
    const p3 = load<f32>(r) + (load<f32>(r, 4) - load<f32>(r)) * x;
    const s = r + one;
    const p4 = load<f32>(s) + (load<f32>(s, 4) - load<f32>(s)) * x;
    const near = p1 + (p2 - p1) * y;
    const v = near + (p3 + (p4 - p3) * y - near) * (a - <f32>ia);
    store<f32>(out + at, sqrt<f32>(v / most));
  }
}

/** What is said falls with the way to it, and is not heard beyond the furthest. */
export function heard(evidence: usize, way: usize, count: i32, length: f32, furthest: f32): void {
  for (let i = 0; i < count; i++, evidence += 4, way += 4) {
    const said = load<f32>(evidence);
    if (said === 0) continue;
    const w = load<f32>(way);
    store<f32>(evidence, w > furthest ? 0 : said * Mathf.exp(-w / length));
  }
}

/** The share of what speaks for a cell in all that speaks, into what speaks for it; and how firmly it is held there. */
export function weigh(
  speaks: usize,
  against: usize,
  held: usize,
  count: i32,
  spoken: f32,
  barely: f32,
): void {
  for (let i = 0; i < count; i += 4, speaks += 16, against += 16, held += 16) {
    const its = v128.load(speaks);
    const share = f32x4.div(its, f32x4.add(its, v128.load(against)));
    v128.store(speaks, share);
    const sure = f32x4.abs(f32x4.sub(f32x4.add(share, share), f32x4.splat(1)));
    v128.store(held, f32x4.add(f32x4.mul(f32x4.splat(spoken), sure), f32x4.splat(barely)));
  }
}

/** 3t² - 2t³ between 0 and 1. */
function smooth(v: v128): v128 {
  const t = f32x4.pmin(f32x4.splat(1), f32x4.pmax(f32x4.splat(0), v));
  return f32x4.mul(f32x4.mul(t, t), f32x4.sub(f32x4.splat(3), f32x4.add(t, t)));
}

/** Parts what is more than a half from what is less, so many times as steep. */
export function steepen(values: usize, count: i32, times: f32): void {
  const half = f32x4.splat(0.5);
  for (let i = 0; i < count; i += 4, values += 16) {
    const v = f32x4.add(f32x4.mul(f32x4.splat(times), f32x4.sub(v128.load(values), half)), half);
    v128.store(values, smooth(v));
  }
}

/**
 * Where nothing is fixed, targets as lines through features say, and held there as far as they are sure.
 * @param lines four planes one after another, `bytes` long each: for each feature, and what is added
 * @param fixed a number a cell: more than 0 where it stays as it is
 */
export function drawTo(
  lines: usize,
  bytes: usize,
  f: usize,
  g: usize,
  h: usize,
  fixed: usize,
  targets: usize,
  held: usize,
  count: i32,
  drawn: f32,
  barely: f32,
): void {
  const nothing = f32x4.splat(0);
  for (let at: usize = 0; at < (<usize>count) << 2; at += 16) {
    let v = f32x4.mul(v128.load(lines + at), v128.load(f + at));
    v = f32x4.add(v, f32x4.mul(v128.load(lines + bytes + at), v128.load(g + at)));
    v = f32x4.add(v, f32x4.mul(v128.load(lines + 2 * bytes + at), v128.load(h + at)));
    const target = smooth(f32x4.add(v, v128.load(lines + 3 * bytes + at)));
    const sure = f32x4.sub(f32x4.add(target, target), f32x4.splat(1));
    const firmly = f32x4.add(f32x4.mul(f32x4.splat(drawn), f32x4.mul(sure, sure)), f32x4.splat(barely));
    const stays = f32x4.gt(v128.load(fixed + at), nothing);
    v128.store(targets + at, v128.bitselect(v128.load(targets + at), target, stays));
    v128.store(held + at, v128.bitselect(v128.load(held + at), firmly, stays));
  }
}
