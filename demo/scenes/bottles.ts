import { board } from './joinery';
import { declared, moved, path, standing, turned, tube, type Mesh, type Point } from './mesh';
import { noise, roughness } from './noise';

/** Old bottles on the sill, the window behind them. Centimetres. */

/** Blown glass: outside up, inside down again, as one closed skin; walls never even. */
function bottle(outside: [number, number][], wall: number, seed: number): Mesh {
  const inside = outside
    .slice(1)
    .map(([r, h], k): [number, number] => [
      Math.max(r - wall * (1 + 0.25 * noise(k, seed)), 0.12),
      Math.max(h, 0.9 + 0.2 * noise(seed)),
    ])
    .reverse();
  inside[0] = [inside[0]![0], outside.at(-1)![1] - 0.05];
  return turned([...outside, ...inside, [0, 1.3]], 110, 220, ([x, y, z]) => {
    const wave = 1 + 0.012 * noise(x / 3 + seed, y / 4, z / 3) + 0.004 * noise(x, y + seed, z);
    return [x * wave + 0.1 * noise(y / 7, seed), y, z * wave];
  });
}

export function bottles(): string {
  const shapes: [number, number][][] = [
    // Tall with long neck; squat; square-shouldered; flask; small.
    [
      [0, 0.5],
      [2.2, 0.1],
      [3.7, 0.1],
      [4.0, 0.7],
      [4.05, 6],
      [4.0, 13.5],
      [3.3, 16.2],
      [1.8, 18.4],
      [1.45, 21],
      [1.4, 24.2],
      [1.75, 24.5],
      [1.8, 25.3],
      [1.5, 25.6],
    ],
    [
      [0, 0.6],
      [2.8, 0.1],
      [5.4, 0.1],
      [6.0, 0.9],
      [6.2, 4.5],
      [5.7, 8.2],
      [3.5, 10.6],
      [1.9, 11.8],
      [1.6, 13.6],
      [2.1, 14.0],
      [2.1, 14.7],
      [1.7, 14.9],
    ],
    [
      [0, 0.5],
      [2.0, 0.1],
      [3.2, 0.1],
      [3.5, 0.6],
      [3.5, 9],
      [3.45, 12.6],
      [2.9, 13.8],
      [1.5, 14.6],
      [1.25, 15.4],
      [1.25, 17.4],
      [1.7, 17.7],
      [1.7, 18.5],
      [1.3, 18.7],
    ],
    [
      [0, 0.6],
      [2.4, 0.1],
      [4.2, 0.15],
      [4.7, 0.9],
      [5.0, 5.5],
      [4.6, 10.5],
      [3.3, 14.8],
      [2.0, 18.0],
      [1.6, 21.0],
      [2.0, 21.4],
      [2.0, 22.2],
      [1.6, 22.4],
    ],
    [
      [0, 0.4],
      [1.5, 0.1],
      [2.3, 0.1],
      [2.5, 0.5],
      [2.5, 5.0],
      [2.3, 6.4],
      [1.2, 7.4],
      [1.0, 8.8],
      [1.4, 9.0],
      [1.4, 9.6],
      [1.1, 9.7],
    ],
  ];
  const sill = standing(
    board({ length: 160, thickness: 4, width: 24, seed: 5, wear: 0.35, warp: 0.2 }),
    -4.05,
    0,
    2,
  );
  const bar = (seed: number, width = 4.2) =>
    board({ length: 120, thickness: 4.2, width, seed, wear: 0.3, warp: 0.1 });
  const twig = tube(
    path(
      [
        [0, 2, 0],
        [1.2, 18, 0.4],
        [3.4, 26, 0.8],
        [7.5, 33, 0.2],
        [12, 37, -0.6],
      ] as Point[],
      60,
    ),
    t => 0.24 - 0.16 * t,
    8,
  );
  const leaf = (place: number, side: number): Mesh => {
    const at: Point = [place * 1.1 - 26, place * 2.1 - 30, 0];
    return {
      ...moved(
        turned(
          [
            [0, 0],
            [0.9, 1.4],
            [1.0, 2.6],
            [0.6, 4],
            [0, 5],
          ],
          14,
          14,
          ([x, y, z]) => [x, y + 0.4 * Math.abs(x), z * 0.05 + 0.18 * roughness(x, y, place)],
        ),
        ([x, y, z]) => [at[0] + x * side + y * 0.5 * side, at[1] + y * 0.75, z],
      ),
    };
  };
  return [
    declared('Sill', sill),
    declared('BarA', bar(11)),
    declared('BarB', bar(12)),
    declared('BarC', bar(13, 7)),
    declared('Twig', twig),
    declared('Leaf', leaf(26, 1)),
    ...shapes.map((shape, k) => declared(`Bottle${k}`, bottle(shape, 0.34, k * 5 + 2))),
  ].join('');
}
