import { board } from './joinery';
import { cloth } from './cloth';
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
import { noise, roughness } from './noise';

/** The kitchen table: an enamel jug, three quinces, a cloth over the edge. Centimetres. */

function quince(seed: number, size: number): { fruit: Mesh; stalk: Mesh } {
  const profile: [number, number][] = [
    [0, 0.5],
    [0.7, 0.12],
    [1.7, 0],
    [3.1, 0.75],
    [3.95, 2.6],
    [4.0, 4.2],
    [3.35, 5.9],
    [2.3, 7.1],
    [1.65, 7.9],
    [1.15, 8.35],
    [0.5, 8.25],
    [0, 8.0],
  ];
  const bend = ([x, y, z]: Point, angle: number, v: number): Point => {
    // Soft ribs, strongest at both ends, and a body that no two fruits share.
    const end = Math.abs(v - 0.45) * 2;
    const rib = 1 + 0.035 * end * Math.cos(5 * angle + seed + 0.8 * noise(seed, v * 2));
    const body =
      1 + 0.1 * noise(x / 5 + seed, y / 5, z / 5) + 0.018 * noise(x / 1.4, y / 1.4 + seed, z / 1.4);
    const lean = 0.5 * noise(seed * 3.3) * (y / 8) ** 2;
    return [(x * rib * body + lean) * size, y * size, z * rib * body * size * 0.97];
  };
  const top = 8.05 * size;
  const stalk = tube(
    path(
      [
        [0.25 * noise(seed * 3.3), top - 0.2, 0],
        [0.35, top + 0.55, 0.1],
        [0.75, top + 1.05, 0.05],
        [1.0, top + 1.25, -0.1],
      ],
      14,
    ),
    t => 0.24 - 0.08 * t + (t > 0.85 ? 0.1 : 0),
    10,
  );
  // What is left of the blossom, in the hollow below.
  const leaves = Array.from({ length: 5 }, (_, k) => {
    const angle = (k / 5) * 2 * Math.PI + seed;
    return tube(
      path(
        [
          [0.25 * Math.cos(angle), 0.35, 0.25 * Math.sin(angle)],
          [0.6 * Math.cos(angle), 0.02, 0.6 * Math.sin(angle)],
          [0.9 * Math.cos(angle + 0.4), -0.12, 0.9 * Math.sin(angle + 0.4)],
        ],
        6,
      ),
      t => 0.16 * (1 - t) + 0.03,
      6,
    );
  });
  return { fruit: turned(profile, 120, 110, bend), stalk: together([stalk, ...leaves]) };
}

/** Fruit and stalk turned together and set down on the table. */
function laid(seed: number, size: number, turn: Point, x: number, z: number, height = 0): [Mesh, Mesh] {
  const { fruit, stalk } = quince(seed, size);
  const turnedFruit = rotated(fruit, ...turn);
  const lowest = turnedFruit.points.reduce((low, point) => Math.min(low, point[1]), Infinity);
  const set = (mesh: Mesh) =>
    moved(rotated(mesh, ...turn), ([px, py, pz]) => [px + x, py - lowest - 0.06 + height, pz + z]);
  return [set(fruit), set(stalk)];
}

function jug(): { body: Mesh; rim: Mesh; handle: Mesh } {
  const profile: [number, number][] = [
    [5.4, 0],
    [6.3, 0.1],
    [6.5, 0.5],
    [7.6, 3],
    [8.35, 6.5],
    [8.2, 9.5],
    [7.0, 13.2],
    [5.6, 16.8],
    [5.0, 19.4],
    [5.2, 21.8],
    [5.7, 23.4],
    [6.0, 24.2],
  ];
  const lip = ([x, y, z]: Point, angle: number, v: number): Point => {
    const rise = Math.max(0, (v - 0.66) / 0.34) ** 2;
    const beak = Math.exp(-((Math.atan2(Math.sin(angle), Math.cos(angle)) / 0.42) ** 2));
    const pressed =
      1 -
      0.13 * rise * Math.exp(-(((Math.abs(Math.atan2(Math.sin(angle), Math.cos(angle))) - 0.75) / 0.4) ** 2));
    const dent =
      1 +
      0.006 * noise(x / 4, y / 4, z / 4) -
      0.02 * Math.exp(-(((y - 7) / 2.2) ** 2) - ((angle - 4.4) / 0.28) ** 2);
    return [
      x * dent + 2.6 * rise * beak,
      y + 1.5 * rise * beak - 0.7 * rise * Math.max(0, -Math.cos(angle)),
      z * pressed * dent,
    ];
  };
  const body = turned(profile, 200, 160, lip);
  const ring = Array.from({ length: 201 }, (_, k) => {
    const angle = (k / 200) * 2 * Math.PI;
    return lip([6.0 * Math.cos(angle), 24.2, 6.0 * Math.sin(angle)], angle, 1);
  });
  const handle = tube(
    path(
      [
        [-5.0, 21.6, 0],
        [-7.8, 22.9, 0.1],
        [-10.8, 20.8, 0.15],
        [-11.7, 16.6, 0.1],
        [-10.6, 12.2, 0],
        [-8.5, 9.0, 0],
        [-7.7, 7.4, 0],
      ],
      90,
    ),
    t => 0.62 + 0.25 * (Math.exp(-((t / 0.06) ** 2)) + Math.exp(-(((1 - t) / 0.06) ** 2))),
    18,
    1.55,
  );
  return { body, rim: tube(ring, 0.27, 12), handle };
}

export function quinces(): string {
  const widths = [13.5, 11.8, 14.6, 12.4, 13.1, 14.2];
  let z = -34;
  const boards = widths.map((width, index) => {
    const middle = z + width / 2;
    z += width + 0.22 + 0.12 * noise(index * 3.3);
    return declared(
      `Board${index}`,
      standing(
        board({ length: 190, thickness: 3.4, width, seed: index + 2, wear: 0.22, warp: 0.12 }),
        -3.4 + 0.06 * noise(index * 5.7),
        6 * noise(index * 2.2),
        middle,
      ),
    );
  });
  const rail = declared(
    'Rail',
    moved(board({ length: 190, thickness: 2.6, width: 9, seed: 31, wear: 0.2, warp: 0.1 }), ([x, y, zz]) => [
      x,
      zz - 8.1,
      y - 31,
    ]),
  );
  const pieces: [Mesh, Mesh][] = [
    laid(1.3, 1.0, [12, 40, 7], -24.5, 1.5),
    laid(4.1, 1.06, [82, -118, 10], -12.5, -9.5, 0.25),
    laid(7.7, 0.93, [-101, 28, 6], 26.5, -16.5),
  ];
  const { body, rim, handle } = jug();
  const turn = (mesh: Mesh) => moved(rotated(mesh, 0, 24, 0), ([x, y, zz]) => [x + 11, y + 0.05, zz + 3]);
  return [
    ...boards,
    rail,
    ...pieces.map(
      ([fruit, stalk], index) => declared(`Fruit${index}`, fruit) + declared(`Stalk${index}`, stalk),
    ),
    declared('JugBody', turn(body)),
    declared('JugRim', turn(rim)),
    declared('JugHandle', turn(handle)),
    declared(
      'Cloth',
      cloth({
        width: 30,
        length: 66,
        across: 100,
        along: 220,
        edge: -34,
        back: 3,
        left: -25,
        turn: 0.16,
        seed: 5,
      }),
    ),
    declared(
      'Wall',
      moved(board({ length: 300, thickness: 2, width: 160, seed: 77, warp: 1.2 }), ([x, y, zz]) => [
        x,
        zz + 50,
        y + 62 + 0.4 * roughness(x / 30, zz / 30),
      ]),
    ),
  ].join('');
}
