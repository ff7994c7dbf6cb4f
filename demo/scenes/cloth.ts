import type { Mesh, Point } from './mesh';
import { noise } from './noise';

/** A cloth let fall over the front edge of a table top (y = 0). */
export interface ClothSize {
  width: number;
  length: number;
  /** Threads of the net. */
  across: number;
  along: number;
  /** Where the table ends (z), and how far behind that the cloth begins at its back (z). */
  edge: number;
  back: number;
  left: number;
  /** How far it lies askew, in radians. */
  turn: number;
  seed: number;
}

/**
 * Points with springs, moved by Verlet steps with friction on the wood (T. Jakobsen, "Advanced Character Physics",
 * 2001). It begins a little crumpled and pushed together, so that it keeps soft folds.
 */
export function cloth({ width, length, across, along, edge, back, left, turn, seed }: ClothSize): Mesh {
  const columns = across + 1;
  const count = columns * (along + 1);
  const [stepX, stepZ] = [width / across, length / along];
  const here = new Float64Array(count * 3);
  const uv: [number, number][] = [];
  const faces: Mesh['faces'] = [];
  for (let row = 0; row <= along; row++) {
    for (let column = 0; column <= across; column++) {
      const [u, v] = [column / across, row / along];
      const x = (u - 0.5) * width * 0.9;
      const z = -v * length * 0.93;
      const at = (row * columns + column) * 3;
      here[at] = left + width / 2 + x * Math.cos(turn) - z * Math.sin(turn);
      here[at + 1] = 0.6 + 2.4 * Math.abs(noise(x / 9 + seed, z / 13)) + 0.7 * noise(x / 3, z / 4 + seed);
      here[at + 2] = back + z * Math.cos(turn) + x * Math.sin(turn);
      uv.push([u, v]);
      if (row < along && column < across) {
        const a = row * columns + column;
        faces.push([a, a + 1, a + columns + 1], [a, a + columns + 1, a + columns]);
      }
    }
  }
  const before = here.slice();
  const springs: [number, number, number, number][] = [];
  const tie = (row: number, column: number, down: number, right: number, stiffness: number) => {
    const [other, to] = [row + down, column + right];
    if (other < 0 || other > along || to < 0 || to > across) return;
    springs.push([
      (row * columns + column) * 3,
      (other * columns + to) * 3,
      Math.hypot(down * stepZ, right * stepX),
      stiffness,
    ]);
  };
  for (let row = 0; row <= along; row++) {
    for (let column = 0; column <= across; column++) {
      tie(row, column, 1, 0, 0.5);
      tie(row, column, 0, 1, 0.5);
      tie(row, column, 1, 1, 0.2);
      tie(row, column, 1, -1, 0.2);
      tie(row, column, 3, 0, 0.06);
      tie(row, column, 0, 3, 0.06);
    }
  }
  const skin = 0.28;
  const round = 0.7;
  for (let step = 0; step < 420; step++) {
    for (let at = 0; at < here.length; at += 3) {
      for (let axis = 0; axis < 3; axis++) {
        const now = here[at + axis]!;
        here[at + axis] = now + (now - before[at + axis]!) * 0.965 - (axis === 1 ? 0.011 : 0);
        before[at + axis] = now;
      }
    }
    for (let pass = 0; pass < 7; pass++) {
      for (const [a, b, rest, stiffness] of springs) {
        const [dx, dy, dz] = [here[b]! - here[a]!, here[b + 1]! - here[a + 1]!, here[b + 2]! - here[a + 2]!];
        const pull = ((Math.hypot(dx, dy, dz) - rest) / (Math.hypot(dx, dy, dz) || 1)) * stiffness;
        here[a] += dx * pull;
        here[a + 1] += dy * pull;
        here[a + 2] += dz * pull;
        here[b] -= dx * pull;
        here[b + 1] -= dy * pull;
        here[b + 2] -= dz * pull;
      }
    }
    for (let at = 0; at < here.length; at += 3) {
      const [y, z] = [here[at + 1]!, here[at + 2]!];
      // The front edge is rounded: above it a quarter circle, before it the rail.
      const centre: [number, number] = [-round, edge + round];
      const [dy, dz] = [y - centre[0], z - centre[1]];
      const far = Math.hypot(dy, dz);
      let touches = false;
      if (z >= centre[1] && y < skin && y > -8) {
        here[at + 1] = skin;
        touches = true;
      } else if (y >= centre[0] && z < centre[1] && far < round + skin) {
        here[at + 1] = centre[0] + (dy / far) * (round + skin);
        here[at + 2] = centre[1] + (dz / far) * (round + skin);
        touches = true;
      } else if (y < centre[0] && z > edge - skin && z < edge + 6) {
        here[at + 2] = edge - skin;
        touches = true;
      }
      if (touches)
        for (const axis of [0, 1, 2]) before[at + axis]! += (here[at + axis]! - before[at + axis]!) * 0.6;
    }
  }
  const points: Point[] = [];
  for (let at = 0; at < here.length; at += 3) points.push([here[at]!, here[at + 1]!, here[at + 2]!]);
  return { points, faces, uv };
}
