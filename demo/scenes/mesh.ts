/** Triangle meshes for the scenes, and their text for the ray tracer. Lengths are in the units of the scene. */

export type Point = [number, number, number];

export interface Mesh {
  points: Point[];
  faces: [number, number, number][];
  /** One for each point where given. */
  uv?: [number, number][];
}

export const add = (a: Point, b: Point): Point => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const less = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const times = (a: Point, k: number): Point => [a[0] * k, a[1] * k, a[2] * k];
export const cross = (a: Point, b: Point): Point => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
export const unit = (a: Point): Point => times(a, 1 / (Math.hypot(...a) || 1));

/** A surface over a grid: `at` gives the point for u and v from 0 to 1. Round in u when `round`. */
export function surface(
  columns: number,
  rows: number,
  at: (u: number, v: number) => Point,
  round = false,
): Mesh {
  const points: Point[] = [];
  const uv: [number, number][] = [];
  const faces: Mesh['faces'] = [];
  const across = round ? columns : columns + 1;
  for (let row = 0; row <= rows; row++) {
    for (let column = 0; column < across; column++) {
      points.push(at(column / columns, row / rows));
      uv.push([column / columns, row / rows]);
    }
  }
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const next = (column + 1) % across;
      const [a, b] = [row * across + column, row * across + next];
      const [c, d] = [a + across, b + across];
      faces.push([a, b, d], [a, d, c]);
    }
  }
  return { points, faces, uv };
}

/** A smooth line through points (Catmull-Rom); `t` from 0 to 1. */
export function through<P extends readonly number[]>(points: P[], t: number): P {
  const place = Math.min(Math.max(t, 0), 1) * (points.length - 1);
  const first = Math.min(Math.floor(place), points.length - 2);
  const s = place - first;
  const at = (index: number) => points[Math.min(Math.max(index, 0), points.length - 1)]!;
  const [a, b, c, d] = [at(first - 1), at(first), at(first + 1), at(first + 2)];
  // eslint-disable-next-line no-restricted-syntax -- as many axes as the points have
  return b.map(
    (_, axis) =>
      0.5 *
      (2 * b[axis]! +
        (c[axis]! - a[axis]!) * s +
        (2 * a[axis]! - 5 * b[axis]! + 4 * c[axis]! - d[axis]!) * s * s +
        (3 * b[axis]! - a[axis]! - 3 * c[axis]! + d[axis]!) * s * s * s),
  ) as unknown as P;
}

/** A vessel turned about y: the profile gives radius and height from bottom to top; `bend` may move each point. */
export function turned(
  profile: [number, number][],
  sides: number,
  rows: number,
  bend: (point: Point, angle: number, height: number) => Point = point => point,
): Mesh {
  return surface(
    sides,
    rows,
    (u, v) => {
      const [radius, height] = through(profile, v);
      const angle = u * 2 * Math.PI;
      return bend(
        [Math.max(radius, 0) * Math.cos(angle), height, Math.max(radius, 0) * Math.sin(angle)],
        angle,
        v,
      );
    },
    true,
  );
}

/** A round bar along a path; the radius may change on the way. `flat` squeezes it across its second axis. */
export function tube(path: Point[], radius: number | ((t: number) => number), sides = 8, flat = 1): Mesh {
  const points: Point[] = [];
  const faces: Mesh['faces'] = [];
  let side: Point = [0.31, 0.2, 0.93];
  path.forEach((point, index) => {
    const along = unit(less(path[Math.min(index + 1, path.length - 1)]!, path[Math.max(index - 1, 0)]!));
    const out = unit(cross(along, side));
    side = cross(out, along);
    const size = typeof radius === 'number' ? radius : radius(index / (path.length - 1));
    for (let k = 0; k < sides; k++) {
      const angle = (k / sides) * 2 * Math.PI;
      points.push(
        add(point, add(times(out, size * Math.cos(angle)), times(side, size * flat * Math.sin(angle)))),
      );
    }
    if (index === 0) return;
    for (let k = 0; k < sides; k++) {
      const [a, b] = [(index - 1) * sides + k, (index - 1) * sides + ((k + 1) % sides)];
      faces.push([a, b, b + sides], [a, b + sides, a + sides]);
    }
  });
  for (const end of [0, path.length - 1]) {
    points.push(path[end]!);
    const middle = points.length - 1;
    for (let k = 0; k < sides; k++) faces.push([middle, end * sides + k, end * sides + ((k + 1) % sides)]);
  }
  return { points, faces };
}

/** Points of a smooth line through a few given ones. */
export function path(points: Point[], count: number): Point[] {
  return Array.from({ length: count }, (_, index) => through(points, index / (count - 1)));
}

/** One mesh of many. */
export function together(meshes: Mesh[]): Mesh {
  const points: Point[] = [];
  const faces: Mesh['faces'] = [];
  for (const mesh of meshes) {
    const start = points.length;
    for (const point of mesh.points) points.push(point);
    for (const [a, b, c] of mesh.faces) faces.push([a + start, b + start, c + start]);
  }
  return { points, faces };
}

export function moved(mesh: Mesh, move: (point: Point) => Point): Mesh {
  return { ...mesh, points: mesh.points.map(move) };
}

/** Turned by degrees about x, then y, then z. */
export function rotated(mesh: Mesh, x: number, y: number, z: number): Mesh {
  const [a, b, c] = [x, y, z].map(angle => (angle * Math.PI) / 180) as Point;
  return moved(mesh, ([px, py, pz]) => {
    [py, pz] = [py * Math.cos(a) - pz * Math.sin(a), py * Math.sin(a) + pz * Math.cos(a)];
    [px, pz] = [px * Math.cos(b) + pz * Math.sin(b), -px * Math.sin(b) + pz * Math.cos(b)];
    return [px * Math.cos(c) - py * Math.sin(c), px * Math.sin(c) + py * Math.cos(c), pz];
  });
}

/** Set down so that its lowest point is at the height. */
export function standing(mesh: Mesh, height: number, x = 0, z = 0): Mesh {
  const lowest = mesh.points.reduce((low, point) => Math.min(low, point[1]), Infinity);
  return moved(mesh, ([px, py, pz]) => [px + x, py - lowest + height, pz + z]);
}

const text = (values: readonly number[]) => `<${values.map(value => value.toFixed(4)).join(',')}>`;

/** The mesh as a declaration of the scene language, shaded smoothly. */
export function declared(name: string, mesh: Mesh): string {
  const normals: Point[] = mesh.points.map(() => [0, 0, 0]);
  for (const [a, b, c] of mesh.faces) {
    const facing = cross(less(mesh.points[b]!, mesh.points[a]!), less(mesh.points[c]!, mesh.points[a]!));
    for (const corner of [a, b, c]) normals[corner] = add(normals[corner]!, facing);
  }
  const parts = [
    `vertex_vectors{${mesh.points.length},${mesh.points.map(text).join(',')}}`,
    `normal_vectors{${normals.length},${normals
      .map(normal => (Math.hypot(...normal) > 0 ? text(unit(normal)) : '<0,1,0>'))
      .join(',')}}`,
    ...(mesh.uv ? [`uv_vectors{${mesh.uv.length},${mesh.uv.map(text).join(',')}}`] : []),
    `face_indices{${mesh.faces.length},${mesh.faces.map(face => `<${face.join(',')}>`).join(',')}}`,
  ];
  return `#declare ${name}=mesh2{${parts.join('\n')}}\n`;
}
