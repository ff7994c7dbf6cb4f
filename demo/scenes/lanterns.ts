import { board } from './joinery';
import {
  declared,
  moved,
  path,
  rotated,
  standing,
  together,
  tube,
  turned,
  type Mesh,
  type Point,
} from './mesh';
import { noise } from './noise';

/** The lantern store: three oil lanterns and a tin on a shelf. Centimetres. */

const ring = (radius: number, height: number, thick: number): Mesh =>
  tube(
    Array.from(
      { length: 73 },
      (_, k) =>
        [
          radius * Math.cos((k / 72) * 2 * Math.PI),
          height,
          radius * Math.sin((k / 72) * 2 * Math.PI),
        ] as Point,
    ),
    thick,
    8,
  );

const dented =
  (seed: number) =>
  ([x, y, z]: Point): Point => {
    const dent = 1 + 0.012 * noise(x / 3 + seed, y / 3, z / 3);
    return [x * dent, y, z * dent];
  };

/** Metal, glass and burner of a lantern; its foot at the origin. */
function lantern(seed: number): { metal: Mesh; glass: Mesh; wick: Mesh; flame: Mesh } {
  const tank = turned(
    [
      [0, 0.1],
      [6.3, 0.1],
      [6.9, 0.5],
      [6.95, 1.3],
      [6.8, 4.0],
      [6.2, 5.0],
      [4.0, 5.9],
      [2.7, 6.3],
      [2.6, 7.2],
      [3.6, 7.4],
      [3.7, 8.0],
      [3.0, 8.1],
    ],
    90,
    90,
    dented(seed),
  );
  const cap = turned(
    [
      [3.5, 18.2],
      [4.3, 18.5],
      [4.5, 19.2],
      [3.4, 20.0],
      [2.9, 20.4],
      [2.9, 22.0],
      [3.9, 22.3],
      [4.0, 22.8],
      [2.6, 23.9],
      [1.0, 24.5],
      [0, 24.6],
    ],
    80,
    90,
    dented(seed + 4),
  );
  const filler = moved(
    turned(
      [
        [1.0, 0],
        [1.15, 0.2],
        [1.15, 0.9],
        [0.9, 1.1],
        [0, 1.15],
      ],
      32,
      20,
    ),
    ([x, y, z]) => [x + 4.7, y + 4.9, z - 2.0],
  );
  const arm = (side: number): Mesh =>
    tube(
      path(
        [
          [6.4 * side, 2.8, 0],
          [8.1 * side, 4.6, 0],
          [8.5 * side, 9, 0],
          [8.2 * side, 14, 0],
          [7.0 * side, 18.2, 0],
          [4.8 * side, 20.6, 0],
          [2.8 * side, 21.2, 0],
        ],
        60,
      ),
      0.75,
      14,
      0.75,
    );
  const guard = [0.6, 2.2, 3.75, 5.35].map(angle =>
    tube(
      path(
        [
          [3.4, 8, 0],
          [5.6, 9.6, 0],
          [6.3, 12.6, 0],
          [5.6, 16.2, 0],
          [3.7, 18.4, 0],
        ].map(([r, h]) => [r! * Math.cos(angle), h!, r! * Math.sin(angle)] as Point),
        30,
      ),
      0.14,
      6,
    ),
  );
  const bail = tube(
    path(
      [
        [-7.6, 17.2, 0],
        [-9.2, 18.2, 1.2],
        [-9.0, 21, 4.4],
        [-5.5, 23.4, 7.6],
        [0, 24.2, 8.8],
        [5.5, 23.4, 7.6],
        [9.0, 21, 4.4],
        [9.2, 18.2, 1.2],
        [7.6, 17.2, 0],
      ],
      80,
    ),
    0.17,
    7,
  );
  const glass = turned(
    [
      [3.0, 8.05],
      [3.9, 8.6],
      [5.0, 10.6],
      [5.25, 12.8],
      [4.7, 15.4],
      [3.6, 17.6],
      [3.3, 18.4],
      [3.12, 18.4],
      [3.42, 17.5],
      [4.52, 15.3],
      [5.05, 12.8],
      [4.8, 10.7],
      [3.75, 8.8],
      [2.85, 8.25],
      [3.0, 8.05],
    ],
    100,
    130,
  );
  return {
    metal: together([
      tank,
      cap,
      filler,
      arm(1),
      arm(-1),
      bail,
      ring(6.9, 0.55, 0.25),
      ring(6.3, 12.6, 0.14),
      ring(3.7, 18.4, 0.2),
      ...guard,
    ]),
    glass,
    wick: turned(
      [
        [2.2, 7.6],
        [2.0, 8.6],
        [1.3, 9.4],
        [0.9, 9.5],
        [0.8, 9.9],
        [0, 9.9],
      ],
      30,
      24,
    ),
    flame: turned(
      [
        [0.0, 9.8],
        [0.75, 10.1],
        [0.8, 10.8],
        [0.45, 11.9],
        [0.12, 13.0],
        [0, 13.3],
      ],
      24,
      24,
      ([x, y, z]) => [x + 0.15 * noise(y), y, z * 0.55],
    ),
  };
}

export function lanterns(): string {
  const shelf = standing(
    board({ length: 170, thickness: 3.2, width: 26, seed: 3, wear: 0.3, warp: 0.25 }),
    -3.3,
    0,
    1,
  );
  const under = standing(
    board({ length: 170, thickness: 3.0, width: 9, seed: 8, wear: 0.25, warp: 0.15 }),
    0,
    0,
    0,
  );
  const wall = Array.from({ length: 4 }, (_, k) =>
    declared(
      `Plank${k}`,
      board({ length: 130, thickness: 2, width: 15.6, seed: 20 + k, wear: 0.22, warp: 0.2 }),
    ),
  );
  const tin = turned(
    [
      [0, 0.05],
      [4.4, 0.05],
      [4.6, 0.3],
      [4.6, 11.4],
      [4.75, 11.6],
      [4.6, 11.8],
      [4.5, 11.8],
      [4.2, 11.3],
      [0, 11.2],
    ],
    80,
    70,
    dented(9),
  );
  const coil = tube(
    Array.from({ length: 700 }, (_, k) => {
      const turn = k / 52;
      const angle = turn * 2 * Math.PI;
      const layer = Math.floor(turn / 4);
      const within = turn - layer * 4;
      const r = 8.2 - within * 1.15 + 0.2 * noise(k / 23);
      return [
        r * Math.cos(angle),
        0.62 + layer * 1.12 + 0.15 * noise(k / 17, 3),
        r * Math.sin(angle) * 0.94,
      ] as Point;
    }),
    0.6,
    8,
  );
  const each = [1, 5, 9].map(lantern);
  return [
    declared('Shelf', shelf),
    declared('Under', rotated(under, 90, 0, 0)),
    ...wall,
    declared('Tin', tin),
    declared('Coil', coil),
    ...each.map(
      ({ metal, glass, wick, flame }, k) =>
        declared(`Metal${k}`, metal) +
        declared(`Glass${k}`, glass) +
        declared(`Wick${k}`, wick) +
        declared(`Flame${k}`, flame),
    ),
  ].join('');
}
