import type { MaskPart } from '../../../core/masks/parts';
import type { Mask } from '../../../core/masks/mask';
import type { Stroke } from '../../../core/settings/fields';

/** Shapes of an area in the room of a tray: what it covers, at a glance. */

export type Shape =
  | { kind: 'line'; points: string; width: number; takes: boolean }
  | {
      kind: 'oval';
      x: number;
      y: number;
      rx: number;
      ry: number;
      angle: number;
      takes: boolean;
      outside: boolean;
    }
  | { kind: 'fade'; from: [number, number]; to: [number, number]; takes: boolean }
  | { kind: 'all'; takes: boolean };

/** More points than this are not seen in so small a room. */
const MOST_POINTS = 40;

function shapeOf(part: MaskPart, room: { width: number; height: number }, ratio: number): Shape[] {
  const takes = part.op === 'subtract';
  const across = room.width;
  // Radii are fractions of the long edge.
  const long = Math.max(across, across / ratio);
  const at = ([x, y]: readonly number[]): [number, number] => [x * room.width, y * room.height];
  const line = (stroke: Stroke): Shape => {
    const each = Math.max(1, Math.ceil(stroke.points.length / MOST_POINTS));
    const kept = stroke.points.filter((_, i) => i % each === 0 || i === stroke.points.length - 1);
    const places = kept.length === 1 ? [kept[0], kept[0]] : kept;
    const points = places
      .map(p =>
        at(p)
          .map(v => v.toFixed(1))
          .join(),
      )
      .join(' ');
    const width = Math.max(1.5, 2 * stroke.radius * long);
    return { kind: 'line', points, width, takes: takes || stroke.erase };
  };
  switch (part.kind) {
    case 'brush':
      return part.strokes.map(line);
    // What was found is seen in the picture; here what it was found by, broadly.
    case 'found':
      return part.strokesIn.map(stroke => line({ ...stroke, radius: 3 * stroke.radius }));
    case 'oval': {
      const [x, y] = at(part.centre);
      const [rx, ry] = part.radii.map(r => r * long);
      return [{ kind: 'oval', x, y, rx, ry, angle: part.angle, takes, outside: part.outside }];
    }
    case 'linear':
      return [{ kind: 'fade', from: at(part.from), to: at(part.to), takes }];
    // What it covers is seen in the picture alone.
    default:
      return [{ kind: 'all', takes }];
  }
}

/**
 * The shapes of an area, those of areas that it is made of in their places.
 * @param ratio width of the photograph to its height
 */
export function outlineOf(
  area: Mask,
  masks: readonly Mask[],
  room: { width: number; height: number },
  ratio: number,
  depth = 0,
): Shape[] {
  return area.parts.flatMap(part => {
    if (part.kind !== 'mask') return shapeOf(part, room, ratio);
    const other = masks.find(m => m.id === part.mask);
    return other && depth < 4 ? outlineOf(other, masks, room, ratio, depth + 1) : [];
  });
}
