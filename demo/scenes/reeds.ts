import { add, declared, path, standing, together, tube, type Mesh, type Point } from './mesh';
import { randomFrom } from './noise';

/** Reed beds along a creek under a big sky. Metres. */

function reed(seed: number): { stem: Mesh; plume: Mesh } {
  const next = randomFrom(seed);
  const height = 1.7 + next() * 0.9;
  const lean = 0.25 + next() * 0.5;
  const stem = path(
    [
      [0, -0.3, 0],
      [lean * 0.1, height * 0.5, 0],
      [lean * 0.45, height * 0.85, (next() - 0.5) * 0.2],
      [lean, height, (next() - 0.5) * 0.3],
    ] as Point[],
    10,
  );
  const parts = [tube(stem, t => 0.0065 * (1 - 0.7 * t), 4)];
  for (let leaf = 0; leaf < 5; leaf++) {
    const at = stem[2 + Math.floor(next() * 6)]!;
    const turn = (next() - 0.5) * 2.4;
    const long = 0.3 + next() * 0.4;
    const [dx, dz] = [Math.cos(turn) * long, Math.sin(turn) * long];
    parts.push(
      tube(
        path(
          [
            at,
            add(at, [dx * 0.35, long * 0.5, dz * 0.35]),
            add(at, [dx * 0.8, long * 0.62, dz * 0.8]),
            add(at, [dx * 1.15, long * (0.6 - next() * 0.5), dz]),
          ],
          7,
        ),
        t => 0.012 * Math.sin(Math.PI * Math.min(1, 0.2 + t * 0.8)) + 0.0006,
        4,
        0.2,
      ),
    );
  }
  const plume: Mesh[] = [];
  const top = stem.at(-1)!;
  for (let hair = 0; hair < 46; hair++) {
    const down = next() * 0.26;
    const from: Point = [top[0] - down * 0.35, top[1] - down * 0.8, top[2]];
    const turn = next() * 2 * Math.PI;
    const long = 0.05 + next() * 0.09 + down * 0.15;
    plume.push(
      tube(
        path(
          [
            from,
            add(from, [0.035 + Math.cos(turn) * long * 0.3, long * 0.4, Math.sin(turn) * long * 0.3]),
            add(from, [0.11 + Math.cos(turn) * long * 0.5, -long * 0.2, Math.sin(turn) * long * 0.5]),
          ],
          4,
        ),
        0.0035,
        3,
      ),
    );
  }
  return { stem: together(parts), plume: together(plume) };
}

export function reeds(): string {
  return Array.from({ length: 12 }, (_, k) => {
    const { stem, plume } = reed(k * 3 + 5);
    const [whole] = [together([stem, plume])];
    const lowest = Math.min(...whole.points.map(point => point[1]));
    return declared(`Stem${k}`, standing(stem, lowest)) + declared(`Plume${k}`, plume);
  }).join('');
}
