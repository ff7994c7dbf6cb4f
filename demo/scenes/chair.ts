import { board } from './joinery';
import {
  declared,
  moved,
  path,
  rotated,
  standing,
  surface,
  together,
  tube,
  turned,
  type Mesh,
  type Point,
} from './mesh';
import { noise, roughness } from './noise';

/** The keeper's chair by the stove. Centimetres. */

function leg(from: Point, to: Point, thick: number, seed: number): Mesh {
  const points = Array.from(
    { length: 40 },
    (_, k) => from.map((value, axis) => value + (to[axis]! - value) * (k / 39)) as Point,
  );
  return tube(
    points,
    t =>
      thick *
      (0.86 + 0.16 * Math.sin(t * Math.PI) + 0.02 * noise(t * 8, seed)) *
      (t > 0.97 || t < 0.02 ? 0.85 : 1),
    14,
  );
}

/** Twisted rush, from each rail to the middle. */
function seat(width: number, depth: number, height: number): Mesh {
  const strands: Mesh[] = [];
  const many = 17;
  for (let k = 0; k < many; k++) {
    const share = (k + 0.5) / many;
    const sag = -1.6 * share;
    for (const side of [1, -1]) {
      const along = (x0: number, z0: number, x1: number, z1: number) => {
        const bow = Array.from({ length: 26 }, (_, i) => {
          const t = i / 25;
          return [
            x0 + (x1 - x0) * t,
            height +
              sag +
              0.5 * Math.sin(Math.PI * t) * (1 - share) -
              (t < 0.04 || t > 0.96 ? 0.4 : 0) +
              0.18 * noise(i / 4, k, side * 3 + x0),
            z0 + (z1 - z0) * t,
          ] as Point;
        });
        strands.push(tube(bow, t => 0.62 + 0.09 * Math.sin(t * 90 + k) + 0.06 * noise(t * 9, k), 8));
      };
      const [w, d] = [(width / 2) * (1 - share), (depth / 2) * (1 - share)];
      along(-w, side * d, w, side * d);
      along(side * w, -d, side * w, d);
    }
  }
  return together(strands);
}

export function chair(): string {
  const frame = together([
    leg([-19, 0, -17], [-19.5, 47, -17.5], 1.9, 1),
    leg([19, 0, -17], [19.5, 47, -17.5], 1.9, 2),
    leg([-16.5, 0, 17.5], [-17.5, 103, 25], 1.95, 3),
    leg([16.5, 0, 17.5], [17.5, 103, 25], 1.95, 4),
    ...[14, 26].flatMap(h => [
      leg([-19.2, h, -17], [19.2, h, -17], 1.05, h),
      leg([-19.2, h + 3, -17], [-16.8, h + 3, 18.6], 1.05, h + 1),
      leg([19.2, h + 3, -17], [16.8, h + 3, 18.6], 1.05, h + 2),
    ]),
    leg([-16.7, 20, 18.4], [16.7, 20, 18.4], 1.05, 9),
    ...[-1, 1].map(side => leg([19.4 * side, 44.5, -17.5], [17 * side, 44.5, 20.5], 1.5, side + 4)),
    leg([-19.4, 44.5, -17.5], [19.4, 44.5, -17.5], 1.5, 11),
    leg([-17, 44.5, 20.5], [17, 44.5, 20.5], 1.5, 12),
  ]);
  const slats = together(
    [58, 73, 88].map((h, k) => {
      const z = 18.5 + (h / 103) * 6.5;
      return moved(
        rotated(
          board({ length: 34, thickness: 1.2, width: 7.5, seed: k + 3, wear: 0.4, warp: 0.2 }),
          90,
          0,
          0,
        ),
        ([x, y, zz]) => [x, y + h + 0.9 * Math.cos((x / 17) * 1.3), zz + z + 1.6 * (1 - (x / 17) ** 2)],
      );
    }),
  );
  const turn = (mesh: Mesh) => moved(rotated(mesh, 0, 33, 0), ([x, y, z]) => [x - 20, y, z - 2]);
  const pot = turned(
    [
      [0, 0.1],
      [8.2, 0.1],
      [9.2, 0.8],
      [9.8, 4],
      [9.4, 8.5],
      [7.2, 12],
      [4.6, 13.4],
      [4.4, 13.9],
      [2.4, 14.6],
      [0.5, 14.9],
      [0.9, 15.4],
      [0.9, 16.1],
      [0, 16.4],
    ],
    90,
    90,
  );
  const spout = tube(
    path(
      [
        [8.6, 5, 0],
        [11.8, 7.5, 0],
        [13.0, 10.6, 0],
        [15.4, 12.8, 0],
      ],
      30,
    ),
    t => 1.75 - 0.95 * t,
    16,
  );
  const bail = tube(
    path(
      [
        [-7.0, 11.6, 0],
        [-7.6, 17, 0],
        [-4, 21.6, 0],
        [0, 22.6, 0],
        [4, 21.6, 0],
        [7.6, 17, 0],
        [7.0, 11.6, 0],
      ],
      50,
    ),
    0.42,
    10,
  );
  const kettle = moved(rotated(together([pot, spout, bail]), 0, 152, 0), ([x, y, z]) => [
    x + 42,
    y + 74.2,
    z + 6,
  ]);
  const stove = together([
    turned(
      [
        [0, 14],
        [17, 14],
        [19.5, 16],
        [20, 20],
        [19, 24],
        [18, 26],
        [18.2, 60],
        [19, 63],
        [21, 65],
        [21.4, 67],
        [20.4, 68],
        [0, 68.2],
      ].map(([r, h]) => [r!, h!] as [number, number]),
      120,
      140,
      ([x, y, z]) => [x + 0.15 * noise(x / 6, y / 6, z / 6), y, z],
    ),
    turned(
      [
        [0, 68],
        [16, 68.2],
        [17.5, 69.5],
        [18.2, 73],
        [17.6, 74],
        [0, 74.1],
      ],
      90,
      50,
    ),
    ...[30, 39.5, 49, 58].map(h =>
      moved(
        turned(
          [
            [18.0, -0.8],
            [18.9, -0.4],
            [19.1, 0],
            [18.9, 0.4],
            [18.0, 0.8],
          ],
          90,
          10,
        ),
        ([x, y, z]) => [x, y + h, z],
      ),
    ),
    ...[0.5, 2.1, 3.7, 5.3].map(angle =>
      tube(
        path(
          [
            [15 * Math.cos(angle), 17, 15 * Math.sin(angle)],
            [18 * Math.cos(angle), 9, 18 * Math.sin(angle)],
            [17 * Math.cos(angle), 3, 17 * Math.sin(angle)],
            [20 * Math.cos(angle), 0.6, 20 * Math.sin(angle)],
          ],
          20,
        ),
        t => 2.3 - 0.9 * t,
        10,
      ),
    ),
  ]);
  const door = surface(30, 26, (u, v) => {
    const angle = -1.57 - 0.62 + u * 1.0;
    const edge = Math.min(u, 1 - u, v, 1 - v) < 0.02 ? 0 : 1;
    const r = 19.3 + 0.9 * edge + 0.5 * Math.max(0, 1 - Math.hypot(u - 0.5, v - 0.5) * 3.4);
    return [r * Math.cos(angle), 31 + v * 20, r * Math.sin(angle)];
  });
  const pipe = turned(
    [
      [7, 0],
      [7, 40],
      [7.5, 40.3],
      [7.5, 43],
      [7, 43.3],
      [7, 150],
    ],
    60,
    120,
    ([x, y, z]) => [x * (1 + 0.006 * noise(y / 9, x / 4)), y, z],
  );
  const boards = Array.from({ length: 9 }, (_, k) =>
    declared(
      `Floor${k}`,
      standing(
        board({ length: 330, thickness: 3, width: 19.5, seed: k + 60, wear: 0.3, warp: 0.3 }),
        -3.2,
        0,
        0,
      ),
    ),
  );
  const wall = surface(120, 90, (u, v) => [
    (u - 0.5) * 420,
    v * 300,
    60 + 1.1 * roughness(u * 7, v * 5) + 0.35 * noise(u * 60, v * 44),
  ]);
  const folds = surface(90, 40, (u, v) => {
    const x = (u - 0.5) * 34;
    const hang = v * 40;
    return [
      x + 1.2 * noise(u * 5, v * 2),
      -hang + 1.5 * Math.sin(u * 7),
      -1.3 - 1.5 * v + (0.4 + 2.1 * v) * Math.sin(u * 17 + 2 * noise(u * 3, v * 2)) * 0.55,
    ];
  });
  const over = surface(90, 20, (u, v) => [
    (u - 0.5) * 33,
    1.5 * Math.cos((v - 0.5) * Math.PI) + 1.5 * Math.sin(u * 7),
    -1.3 + 4.6 * v,
  ]);
  const log = (seed: number) =>
    tube(
      Array.from(
        { length: 24 },
        (_, k) => [-17 + k * 1.5, 0.5 * noise(k / 6, seed), 0.6 * noise(k / 5, seed + 3)] as Point,
      ),
      t => 4.4 + 0.5 * noise(t * 5, seed),
      18,
    );
  return [
    declared('Frame', turn(frame)),
    declared('Slats', turn(slats)),
    declared('Seat', turn(seat(36, 35, 46.6))),
    declared('Kettle', kettle),
    declared(
      'Stove',
      moved(stove, ([x, y, z]) => [x + 42, y, z + 6]),
    ),
    declared(
      'Door',
      moved(rotated(door, 0, -16, 0), ([x, y, z]) => [x + 42, y, z + 6]),
    ),
    declared(
      'Pipe',
      moved(pipe, ([x, y, z]) => [x + 42, y + 74, z + 22]),
    ),
    ...boards,
    declared('Wall', wall),
    declared(
      'Shawl',
      together(
        [folds, over].map(mesh =>
          moved(
            rotated(
              moved(mesh, ([x, y, z]) => [x + 1, y + 101, z + 22.5]),
              0,
              33,
              0,
            ),
            ([x, y, z]) => [x - 20, y, z - 2],
          ),
        ),
      ),
    ),
    ...[1, 4, 8].map((seed, k) => declared(`Log${k}`, log(seed))),
  ].join('');
}
