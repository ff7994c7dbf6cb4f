import { board } from './joinery';
import {
  add,
  declared,
  moved,
  path,
  rotated,
  standing,
  surface,
  through,
  together,
  tube,
  type Mesh,
  type Point,
} from './mesh';
import { noise, randomFrom } from './noise';

/** A rowing boat at its mooring pole, reeds in front, stakes of a fish weir behind. Metres; the boat lies along x. */

const LENGTH = 4.1;

/** A point of the hull: t from transom (0) to stem (1), s from keel (0) to sheer (1), one side. */
function hull(t: number, s: number, out = 0): Point {
  const half = through<[number]>([[0.5], [0.63], [0.7], [0.71], [0.66], [0.52], [0.28], [0.02]], t)[0];
  const sheer = 0.44 + 0.13 * (2 * t - 1) ** 2 + (t > 0.5 ? 0.16 * (2 * t - 1) ** 3 : 0);
  const keel = -0.2 + 0.1 * Math.max(0, t - 0.72) ** 2 * 14 + 0.05 * (1 - t) ** 4;
  const fullness = 0.42 + 0.5 * Math.max(0, t - 0.55) * 1.5;
  const width = half * Math.sin(Math.min(1, s ** fullness * 1.02) * Math.PI * 0.5) + out;
  const x = (t - 0.5) * LENGTH + (t > 0.9 ? (t - 0.9) * 2.2 * s * 0.8 : 0) - (1 - t) ** 8 * 0.1 * s;
  return [x, keel + (sheer - keel) * s, width + 0.004 * noise(t * 9, s * 7)];
}

function strake(index: number, of: number, side: 1 | -1, inside: boolean): Mesh {
  const mesh = surface(90, 8, (t, v) => {
    const s = (index + v * 1.12 - 0.06) / of;
    const lap = 0.017 * (1 - v) + (inside ? -0.016 : 0);
    const [x, y, z] = hull(t, Math.min(Math.max(s, 0.001), 1), lap);
    return [x, y, z * side];
  });
  // The lower edge of a plank has a thickness that casts a line of shadow.
  const edge = surface(90, 2, (t, v) => {
    const s = Math.max((index - 0.06) / of, 0.001);
    const [x, y, z] = hull(t, s, 0.017 - v * 0.02);
    return [x, y - 0.001, z * side];
  });
  return inside ? mesh : together([mesh, edge]);
}

const line = (s: number, side: 1 | -1, out: number, from = 0, to = 1): Point[] =>
  Array.from({ length: 80 }, (_, k) => {
    const [x, y, z] = hull(from + ((to - from) * k) / 79, s, out);
    return [x, y, z * side];
  });

function reed(seed: number): Mesh {
  const next = randomFrom(seed);
  const height = 1.0 + next() * 0.9;
  const lean = (next() - 0.5) * 0.5;
  const away = (next() - 0.5) * 0.4;
  const stem = path(
    [
      [0, -0.3, 0],
      [lean * 0.15, height * 0.5, away * 0.2],
      [lean * 0.6, height * 0.85, away * 0.6],
      [lean, height, away],
    ],
    12,
  );
  const parts = [tube(stem, t => 0.006 * (1 - 0.75 * t), 5)];
  for (let leaf = 0; leaf < 3; leaf++) {
    const at = stem[3 + Math.floor(next() * 6)]!;
    const turn = next() * 2 * Math.PI;
    const long = 0.22 + next() * 0.3;
    const [dx, dz] = [Math.cos(turn) * long, Math.sin(turn) * long];
    parts.push(
      tube(
        path(
          [
            at,
            add(at, [dx * 0.3, long * 0.55, dz * 0.3]),
            add(at, [dx * 0.75, long * 0.5, dz * 0.75]),
            add(at, [dx, long * (0.55 - next() * 0.3), dz]),
          ],
          9,
        ),
        t => 0.0105 * Math.sin(Math.PI * Math.min(1, 0.2 + t * 0.8)) + 0.0006,
        4,
        0.2,
      ),
    );
  }
  return together(parts);
}

export function boat(): string {
  const strakes = 8;
  const sides = [1, -1] as const;
  const paintwork = together(
    sides.flatMap(side => Array.from({ length: strakes - 2 }, (_, k) => strake(k, strakes, side, false))),
  );
  const band = together(
    sides.flatMap(side => [
      strake(strakes - 2, strakes, side, false),
      strake(strakes - 1, strakes, side, false),
    ]),
  );
  const lining = together(
    sides.flatMap(side => Array.from({ length: strakes }, (_, k) => strake(k, strakes, side, true))),
  );
  const transom = surface(20, 20, (u, v) => {
    const [x, y, z] = hull(0.004, Math.max(v, 0.002), 0);
    return [x, y, z * (2 * u - 1)];
  });
  const stem = tube(
    Array.from({ length: 20 }, (_, k) => {
      const [x, y] = hull(1, 0.001 + (k / 19) * 1.06, 0);
      return [x + 0.015, y, 0] as Point;
    }),
    0.034,
    8,
    0.8,
  );
  const wood = together([
    ...sides.map(side => tube(line(1, side, 0.012), 0.026, 8, 0.75)),
    ...sides.map(side => tube(line(0.985, side, -0.045, 0.02, 0.93), 0.016, 6)),
    ...sides.map(side => tube(line(0.74, side, -0.045, 0.05, 0.85), 0.016, 6)),
    stem,
    tube(
      Array.from({ length: 30 }, (_, k) => {
        const [x, y] = hull(k / 29, 0.001, 0);
        return [x, y - 0.015, 0] as Point;
      }),
      0.025,
      6,
    ),
  ]);
  const ribs = together(
    sides.flatMap(side =>
      Array.from({ length: 19 }, (_, k) =>
        tube(
          Array.from({ length: 16 }, (_, i) => {
            const [x, y, z] = hull(0.06 + k * 0.046, 0.02 + (i / 15) * 0.96, -0.028);
            return [x, y, z * side] as Point;
          }),
          0.011,
          5,
        ),
      ),
    ),
  );
  const thwart = (t: number, seed: number) => {
    const [x, y, z] = hull(t, 0.72, -0.03);
    return moved(
      rotated(
        board({ length: z * 2, thickness: 0.028, width: 0.22, seed, wear: 0.004, warp: 0.004 }),
        0,
        90,
        0,
      ),
      ([px, py, pz]) => [px + x, py + y, pz],
    );
  };
  const oar = (side: number, seed: number) =>
    moved(
      together([
        tube(
          path(
            [
              [-1.35, 0, 0],
              [0, 0.01, 0],
              [1.05, 0, 0],
            ],
            30,
          ),
          t => 0.019 + 0.004 * t,
          8,
        ),
        moved(
          board({ length: 0.62, thickness: 0.014, width: 0.13, seed, wear: 0.004, warp: 0.004 }),
          ([x, y, z]) => [x - 1.6, y, z],
        ),
      ]),
      ([x, y, z]) => [x * 0.985 + 0.15, y + 0.36 + 0.03 * side + 0.05 * x, z + 0.12 * side + x * 0.05 * side],
    );
  const turn = (mesh: Mesh) => moved(rotated(mesh, -1.6, 0, 0.4), ([x, y, z]) => [x, y + 0.02, z]);
  const post = tube(
    Array.from(
      { length: 60 },
      (_, k) => [0.014 * noise(k / 14), -1.2 + (k / 59) * 3.0, 0.014 * noise(k / 12, 4)] as Point,
    ),
    t => 0.085 * (1 + 0.06 * noise(t * 9) - 0.05 * t) * (t > 0.985 ? 0.8 : 1),
    28,
  );
  const roughPost = moved(post, ([x, y, z]) => {
    const swell =
      1 + 0.05 * noise(Math.atan2(z, x) * 2.2, y * 0.5) + 0.025 * noise(Math.atan2(z, x) * 9, y * 0.7);
    return [x * swell, y, z * swell];
  });
  const poleAt: Point = [3.15, 0, 0.25];
  const coil: Point[] = Array.from({ length: 90 }, (_, k) => {
    const angle = (k / 30) * 2 * Math.PI;
    return [
      poleAt[0] + 0.102 * Math.cos(angle),
      0.78 + (k / 90) * 0.11 + 0.008 * noise(k / 9),
      poleAt[2] + 0.102 * Math.sin(angle),
    ];
  });
  const bow = hull(1, 1, 0);
  const warp = path(
    [
      [bow[0] - 0.03, bow[1] - 0.02, 0],
      [bow[0] + 0.25, bow[1] - 0.22, 0.06],
      [2.75, 0.42, 0.16],
      [3.0, 0.66, 0.2],
      coil[0]!,
    ],
    70,
  );
  const twist = (rope: Point[], thick: number) =>
    together(
      [0, 1, 2].map(strand =>
        tube(
          rope.flatMap((point, k) => {
            const to = rope[Math.min(k + 1, rope.length - 1)]!;
            return [0, 1, 2, 3].map(i => {
              const f = i / 4;
              const angle = (k + f) * 1.5 + strand * 2.094;
              return [
                point[0] + (to[0] - point[0]) * f + thick * 0.55 * Math.cos(angle),
                point[1] + (to[1] - point[1]) * f + thick * 0.55 * Math.sin(angle),
                point[2] + (to[2] - point[2]) * f + thick * 0.3 * Math.sin(angle + 1),
              ] as Point;
            });
          }),
          thick * 0.62,
          6,
        ),
      ),
    );
  const stake = (seed: number) =>
    tube(
      Array.from(
        { length: 14 },
        (_, k) => [0.05 * noise(seed, k / 5), -0.5 + k * 0.14, 0.04 * noise(seed + 3, k / 6)] as Point,
      ),
      t => 0.035 * (1 - 0.2 * t),
      8,
    );
  return [
    declared('Paintwork', turn(paintwork)),
    declared('Band', turn(band)),
    declared('Lining', turn(lining)),
    declared('Transom', turn(transom)),
    declared('Woodwork', turn(wood)),
    declared('Ribs', turn(ribs)),
    ...[0.22, 0.5, 0.72].map((t, k) => declared(`Thwart${k}`, turn(thwart(t, k + 4)))),
    declared('Oars', turn(together([oar(1, 3), oar(-1, 8)]))),
    declared(
      'Pole',
      moved(rotated(roughPost, 0, 0, 1.5), ([x, y, z]) => [x + poleAt[0], y, z + poleAt[2]]),
    ),
    declared('Warp', together([twist(coil, 0.014), twist(warp, 0.013)])),
    ...[1, 2, 3, 4].map(k => declared(`Stake${k}`, stake(k * 7))),
    ...Array.from({ length: 10 }, (_, k) => declared(`Reed${k}`, standing(reed(k + 21), -0.3))),
  ].join('');
}
