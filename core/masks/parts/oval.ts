import { oval as layOval } from '../../kernels/dabs';
import { flag, fraction, position, radii, turn, type Position } from '../../settings/fields';
import { boxAround, definePart } from '../define';

const MOST_RADIUS = 4;
/** An oval does not close to nothing under the hand. */
const LEAST_RADIUS = 0.002;

interface Placed {
  centre: Position;
  radii: [number, number];
  angle: number;
}

/** A point of the oval, at so much of each half axis. */
function pointOf({ centre, radii, angle }: Placed, size: { width: number; height: number }) {
  const longEdge = Math.max(size.width, size.height);
  const radians = (angle * Math.PI) / 180;
  const [c, s] = [Math.cos(radians) * longEdge, Math.sin(radians) * longEdge];
  return (u: number, v: number): Position => [
    centre[0] + (c * u * radii[0] - s * v * radii[1]) / size.width,
    centre[1] + (s * u * radii[0] + c * v * radii[1]) / size.height,
  ];
}

/** Where the handle for turning stands, in half axes: beyond the side. */
const TURN_AT = 1.25;
const OUTLINE_POINTS = 48;

/** An oval, soft inside its edge; outside, all but it. */
export const oval = definePart({
  kind: 'oval',
  fields: {
    centre: position(0.5, 0.5),
    radii: radii(MOST_RADIUS, [0.25, 0.25]),
    angle: turn(),
    feather: fraction(0.5),
    outside: flag(false),
  },
  reads: 'place',
  lay: ({ centre, radii, angle, feather, outside }, { lattice, photograph, longEdge }) => {
    const values = new Float32Array(lattice.width * lattice.height);
    layOval(
      values,
      lattice,
      [centre[0] * photograph.width, centre[1] * photograph.height],
      [radii[0] * longEdge, radii[1] * longEdge],
      (angle * Math.PI) / 180,
      feather,
    );
    if (outside) for (let i = 0; i < values.length; i++) values[i] = 1 - values[i];
    return values;
  },
  extent: ({ centre, radii, outside }, { photograph, longEdge }) =>
    outside
      ? 'everywhere'
      : boxAround(
          centre[0] * photograph.width,
          centre[1] * photograph.height,
          Math.max(...radii) * longEdge + 1,
        ),
  handles: (settings, size) => {
    const { centre, radii } = settings;
    const longEdge = Math.max(size.width, size.height);
    const from = (to: Position): Position => [
      (to[0] - centre[0]) * size.width,
      (to[1] - centre[1]) * size.height,
    ];
    const radius = (to: Position) =>
      Math.min(MOST_RADIUS, Math.max(LEAST_RADIUS, Math.hypot(...from(to)) / longEdge));
    const at = pointOf(settings, size);
    return [
      { name: 'Middle of the oval', at: centre, move: to => ({ ...settings, centre: to }) },
      {
        name: 'Side of the oval',
        at: at(1, 0),
        move: to => {
          const [x, y] = from(to);
          return { ...settings, radii: [radius(to), radii[1]], angle: (Math.atan2(y, x) * 180) / Math.PI };
        },
      },
      {
        name: 'Foot of the oval',
        at: at(0, 1),
        move: to => ({ ...settings, radii: [radii[0], radius(to)] }),
      },
      {
        name: 'Turn of the oval',
        at: at(-TURN_AT, 0),
        move: to => {
          const [x, y] = from(to);
          return { ...settings, angle: (Math.atan2(-y, -x) * 180) / Math.PI };
        },
      },
    ];
  },
  measures: settings =>
    (['Across', 'Down'] as const).map((name, i) => ({
      name,
      unit: 'length',
      value: settings.radii[i] * 2,
      min: LEAST_RADIUS * 2,
      max: 2,
      set: v => ({
        ...settings,
        radii: i === 0 ? [v / 2, settings.radii[1]] : [settings.radii[0], v / 2],
      }),
    })),
  outline: (settings, size) => {
    const at = pointOf(settings, size);
    const points = Array.from({ length: OUTLINE_POINTS + 1 }, (_, i) => {
      const t = (i / OUTLINE_POINTS) * 2 * Math.PI;
      return at(Math.cos(t), Math.sin(t));
    });
    // The stalk of the handle that turns, and the inner end of what is soft.
    const inner = 1 - settings.feather;
    const within = points.map((_, i): Position => {
      const t = (i / OUTLINE_POINTS) * 2 * Math.PI;
      return at(inner * Math.cos(t), inner * Math.sin(t));
    });
    return [
      { points },
      { points: [at(-1, 0), at(-TURN_AT, 0)], faint: true },
      ...(settings.feather > 0.02 && inner > 0.02 ? [{ points: within, faint: true }] : []),
    ];
  },
});
