import { strokes } from '../../settings/fields';
import { boxAround, definePart, joined, type Extent } from '../define';
import { keptTo, laidWithin, type Kept } from '../keeping';
import { laidStrokes } from '../laid-strokes';
import { strokeName } from '../stroke-name';
import { layStrokes } from '../strokes';

/** Painted by hand. */
export const brush = definePart({
  kind: 'brush',
  byHand: true,
  fields: { strokes: strokes() },
  reads: 'place',
  lay: ({ strokes }, { lattice, photograph, memory }) => {
    if (memory) return laidStrokes(strokes, lattice, photograph, memory);
    const values = new Float32Array(lattice.width * lattice.height);
    layStrokes(values, lattice, strokes, photograph);
    return values;
  },
  extent: ({ strokes }, { photograph, longEdge }) => {
    let extent: Extent = null;
    for (const { points, radius, erase } of strokes) {
      if (erase) continue;
      const reach = radius * longEdge + 2;
      for (const [x, y] of points) {
        extent = joined(extent, boxAround(x * photograph.width, y * photograph.height, reach));
      }
    }
    return extent;
  },
  keeping: {
    asked: ({ strokes }) => strokes.some(stroke => stroke.keepEdges > 0),
    sought: ({ strokes }) => strokes.filter(s => s.keepEdges > 0).map(s => ['within', strokeName(s)]),
    find: ({ strokes }, input, whole, geometry) => keptTo(strokes, input, whole, geometry),
    see: ({ strokes }, { ground }, _, { region, geometry, found }) =>
      laidWithin(strokes, found as Kept, ground, region, geometry),
  },
});
