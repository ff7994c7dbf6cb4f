import { board } from './joinery';
import {
  add,
  cross,
  declared,
  path,
  standing,
  times,
  together,
  tube,
  unit,
  type Mesh,
  type Point,
} from './mesh';
import { noise, randomFrom } from './noise';

/** Baskets of dyed wool on a bench. Centimetres. */

/** A ball of wool of radius 4: one strand wound over and over, its plane wandering. */
function ball(seed: number): Mesh {
  const next = randomFrom(seed);
  const strand: Point[] = [];
  let axis = unit([next() - 0.5, next() - 0.5, next() - 0.5]);
  const turns = 150;
  for (let turn = 0; turn < turns; turn++) {
    // Wound in bundles: a few turns lie side by side, then the ball is turned.
    axis =
      turn % 11 === 0
        ? unit([next() - 0.5, next() - 0.5, next() - 0.5])
        : unit(add(axis, times(unit([next() - 0.5, next() - 0.5, next() - 0.5]), 0.085)));
    const side = unit(cross(axis, [0.3, 0.9, 0.31]));
    const other = cross(axis, side);
    const lift = 0.12 * noise(turn * 0.37, seed);
    for (let k = 0; k < 34; k++) {
      const angle = (k / 34) * 2 * Math.PI;
      const away = 3.55 + 0.45 * (turn / turns) + lift + 0.05 * noise(k / 5, turn);
      const tilt = 0.35 * noise(turn * 0.7, seed + 5);
      strand.push(
        add(
          times(add(times(side, Math.cos(angle)), times(other, Math.sin(angle))), away * Math.cos(tilt)),
          times(axis, away * Math.sin(tilt)),
        ),
      );
    }
  }
  return tube(strand, t => 0.165 + 0.03 * noise(t * 1300), 6);
}

/** Fibres that stand off the strand. */
function fuzz(seed: number): Mesh {
  const next = randomFrom(seed);
  const points: Point[] = [];
  const faces: Mesh['faces'] = [];
  for (let hair = 0; hair < 5200; hair++) {
    const out = unit([next() - 0.5, next() - 0.5, next() - 0.5]);
    const along = unit(cross(out, [next() - 0.5, next() - 0.5, next() - 0.5]));
    const across = times(cross(out, along), 0.009);
    let at = times(out, 4.02);
    let heading = unit(add(times(out, 0.5 + next()), along));
    for (let piece = 0; piece < 3; piece++) {
      const start = points.length;
      const to = add(at, times(heading, 0.16));
      points.push(
        add(at, across),
        add(at, times(across, -1)),
        add(to, times(across, 0.6)),
        add(to, times(across, -0.6)),
      );
      faces.push([start, start + 1, start + 2], [start + 1, start + 3, start + 2]);
      at = to;
      heading = unit(
        add(heading, add(times(along, 0.5), times(unit([next() - 0.5, next() - 0.5, next() - 0.5]), 0.5))),
      );
    }
  }
  return { points, faces };
}

/** A basket of split willow: uprights, and rods woven in front of one and behind the next. */
function basket(radius: number, height: number, seed: number): { rods: Mesh; uprights: Mesh } {
  const stakes = 22;
  const rows = Math.round(height / 0.62);
  const widen = (h: number) =>
    radius * (0.8 + 0.2 * Math.sin((h / height) * 1.7)) * (1 + 0.012 * noise(h / 3, seed));
  const rods: Mesh[] = [];
  for (let row = 0; row < rows; row++) {
    const h = 0.3 + (row / rows) * height;
    const rod: Point[] = Array.from({ length: stakes * 8 + 1 }, (_, k) => {
      const turn = k / (stakes * 8);
      const angle = turn * 2 * Math.PI;
      const weave =
        0.34 * Math.sin(turn * stakes * Math.PI + row * Math.PI) * (1 + 0.25 * noise(k / 9, row, seed));
      const away = widen(h) + weave;
      return [
        away * Math.cos(angle),
        h + 0.1 * noise(k / 12, row * 3, seed) + turn * 0,
        away * Math.sin(angle),
      ];
    });
    rods.push(tube(rod, t => 0.29 + 0.06 * noise(t * 7, row, seed), 7, 0.8));
  }
  for (const strand of [0, 1, 2]) {
    const rim: Point[] = Array.from({ length: 221 }, (_, k) => {
      const angle = (k / 220) * 2 * Math.PI;
      const wind = angle * 11 + strand * 2.094;
      return [
        (widen(height) + 0.36 * Math.cos(wind)) * Math.cos(angle),
        height + 0.45 + 0.32 * Math.sin(wind),
        (widen(height) + 0.36 * Math.cos(wind)) * Math.sin(angle),
      ];
    });
    rods.push(tube(rim, 0.3, 7));
  }
  const uprights = Array.from({ length: stakes }, (_, k) => {
    const angle = ((k + 0.02 * noise(k * 3, seed)) / stakes) * 2 * Math.PI;
    return tube(
      path(
        [0, 0.35, 0.7, 1].map(
          v =>
            [widen(v * height) * Math.cos(angle), v * height, widen(v * height) * Math.sin(angle)] as Point,
        ),
        20,
      ),
      0.26,
      7,
    );
  });
  return { rods: together(rods), uprights: together(uprights) };
}

export function yarn(): string {
  const baskets = [basket(14, 11, 1), basket(12, 9.5, 5), basket(13, 8, 9)];
  const widths = [15, 13.5, 16, 14];
  let z = -26;
  const bench = widths.map((width, index) => {
    const middle = z + width / 2;
    z += width + 0.3;
    return declared(
      `Bench${index}`,
      standing(
        board({ length: 210, thickness: 3, width, seed: 40 + index, wear: 0.25, warp: 0.16 }),
        -3.05,
        0,
        middle,
      ),
    );
  });
  const wall = Array.from({ length: 4 }, (_, k) =>
    declared(
      `Plank${k}`,
      board({ length: 130, thickness: 2, width: 17.6, seed: 60 + k, wear: 0.22, warp: 0.2 }),
    ),
  );
  const tail = tube(
    path(
      [
        [-3, 3.6, -18],
        [-6, 0.25, -19.5],
        [-11, 0.2, -17.5],
        [-14, 0.2, -20.5],
        [-19, 0.22, -21.4],
        [-24, 0.2, -18.6],
        [-28, 0.2, -19.8],
      ],
      120,
    ),
    0.17,
    7,
  );
  return [
    ...bench,
    ...wall,
    declared('Tail', tail),
    ...[0, 1, 2].map(k => declared(`Ball${k}`, ball(k + 3))),
    declared('Fuzz', fuzz(9)),
    ...baskets.map(
      ({ rods, uprights }, k) => declared(`Rods${k}`, rods) + declared(`Uprights${k}`, uprights),
    ),
  ].join('');
}
