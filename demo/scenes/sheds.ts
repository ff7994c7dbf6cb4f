import { board } from './joinery';
import { declared, moved, surface, turned, type Point } from './mesh';
import { noise, roughness } from './noise';

/** A row of boat sheds on the shingle. Metres. */
export function sheds(): string {
  const planks = Array.from({ length: 6 }, (_, k) =>
    declared(
      `Plank${k}`,
      board({ length: 4, thickness: 0.028, width: 0.19, seed: k + 3, wear: 0.004, warp: 0.006 }),
    ),
  );
  const narrow = Array.from({ length: 3 }, (_, k) =>
    declared(
      `Batten${k}`,
      board({ length: 3.2, thickness: 0.05, width: 0.11, seed: k + 30, wear: 0.006, warp: 0.005 }),
    ),
  );
  const stones = Array.from({ length: 7 }, (_, k) =>
    declared(
      `Stone${k}`,
      turned(
        [
          [0, -0.5],
          [0.34, -0.46],
          [0.75, -0.22],
          [0.86, 0.05],
          [0.66, 0.34],
          [0.3, 0.48],
          [0, 0.5],
        ],
        18,
        14,
        ([x, y, z]: Point) => {
          const form = 1 + 0.28 * noise(x * 1.3 + k * 4, y * 1.3, z * 1.3);
          return [x * form * (1.1 + 0.3 * noise(k)), y * form * 0.62, z * form * 0.9];
        },
      ),
    ),
  );
  const beach = surface(160, 90, (u, v) => {
    const [x, z] = [(u - 0.5) * 34, -9 + v * 14];
    return [x, 0.06 * roughness(x / 3, z / 2) - 0.05 - Math.max(0, -z - 0.5) * 0.055, z];
  });
  const felt = surface(60, 30, (u, v) => [
    (u - 0.5) * 2,
    0.012 * roughness(u * 14, v * 9) + 0.008 * Math.sin(v * 60),
    v,
  ]);
  const rust = moved(
    board({ length: 0.5, thickness: 0.012, width: 0.055, seed: 50, wear: 0.003, warp: 0.002 }),
    point => point,
  );
  return [
    ...planks,
    ...narrow,
    ...stones,
    declared('Beach', beach),
    declared('Felt', felt),
    declared('Hinge', rust),
  ].join('');
}
