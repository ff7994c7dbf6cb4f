import { linear as layLinear } from '../../kernels/dabs';
import { fraction, position, type Position } from '../../settings/fields';
import { definePart } from '../define';

interface Ends {
  from: Position;
  to: Position;
}
interface Size {
  width: number;
  height: number;
}

/** A gradient does not close to nothing under the hand. */
const LEAST_LENGTH = 0.004;
const MOST_LENGTH = 2;

/** The middle, the length (a fraction of the long edge) and the direction (degrees) of a gradient. */
function layOf({ from, to }: Ends, { width, height }: Size) {
  const x = (to[0] - from[0]) * width;
  const y = (to[1] - from[1]) * height;
  return {
    middle: [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2] as Position,
    length: Math.hypot(x, y) / Math.max(width, height),
    turn: (Math.atan2(y, x) * 180) / Math.PI,
  };
}

/** The ends of a gradient about its middle. */
function endsOf(middle: Position, length: number, turn: number, { width, height }: Size): Ends {
  const half = (length * Math.max(width, height)) / 2;
  const x = (Math.cos((turn * Math.PI) / 180) * half) / width;
  const y = (Math.sin((turn * Math.PI) / 180) * half) / height;
  return { from: [middle[0] - x, middle[1] - y], to: [middle[0] + x, middle[1] + y] };
}

/** A point beside the middle, square to the gradient, by which it is turned. */
function besideOf(ends: Ends, { width, height }: Size): Position {
  const { middle, length, turn } = layOf(ends, { width, height });
  const away = Math.min(0.2, Math.max(0.06, length / 3)) * Math.max(width, height);
  const angle = ((turn + 90) * Math.PI) / 180;
  return [middle[0] + (Math.cos(angle) * away) / width, middle[1] + (Math.sin(angle) * away) / height];
}

/** A straight gradient: full at `from`, nothing at `to`; less soft, it falls within a share of that, about the middle. */
export const linear = definePart({
  kind: 'linear',
  fields: { from: position(0.5, 0), to: position(0.5, 1), softness: fraction(1) },
  reads: 'place',
  lay: ({ from, to, softness }, { lattice, photograph: { width, height } }) => {
    const values = new Float32Array(lattice.width * lattice.height);
    const ends = [from, to].map(([x, y]) => [x * width, y * height] as [number, number]);
    layLinear(values, lattice, ends[0], ends[1], softness);
    return values;
  },
  handles: (settings, size) => {
    const { from, to } = settings;
    const { middle, length } = layOf(settings, size);
    return [
      { name: 'Full end of the gradient', at: from, move: end => ({ ...settings, from: end }) },
      { name: 'Empty end of the gradient', at: to, move: end => ({ ...settings, to: end }) },
      {
        name: 'Middle of the gradient',
        at: middle,
        move: ([x, y]) => {
          const by = ([u, v]: Position): Position => [u + x - middle[0], v + y - middle[1]];
          return { ...settings, from: by(from), to: by(to) };
        },
      },
      {
        name: 'Turn of the gradient',
        at: besideOf(settings, size),
        move: ([x, y]) => {
          const along = Math.atan2((y - middle[1]) * size.height, (x - middle[0]) * size.width);
          return { ...settings, ...endsOf(middle, length, (along * 180) / Math.PI - 90, size) };
        },
      },
    ];
  },
  measures: (settings, size) => {
    const { middle, length, turn } = layOf(settings, size);
    return [
      {
        name: 'Length',
        unit: 'length',
        value: length,
        min: LEAST_LENGTH,
        max: MOST_LENGTH,
        set: v => ({ ...settings, ...endsOf(middle, v, turn, size) }),
      },
      {
        name: 'Turn',
        unit: 'turn',
        value: turn,
        min: -180,
        max: 180,
        set: v => ({ ...settings, ...endsOf(middle, length, v, size) }),
      },
    ];
  },
  outline: (settings, size) => [
    { points: [settings.from, settings.to] },
    { points: [layOf(settings, size).middle, besideOf(settings, size)], faint: true },
  ],
});
