import { readLattice, relattice } from '../../kernels/dabs';
import { steepen } from '../../kernels/evidence';
import { strokes } from '../../settings/fields';
import { definePart } from '../define';
import { fitEdges, onEdges, type Fit } from '../edges';
import { belonging, soughtBy } from '../finding/find';

/** What belongs more than not is covered, over so much of the way from 0 to 1. */
const STEEP = 2.5;
/** The window in which the edge is fitted, a fraction of the long edge. */
const EDGE = 0.005;

/** A thing that rough strokes mean: found in the photograph itself, whatever steps and frame do to it; its edge is fitted at full size. */
export const found = definePart({
  kind: 'found',
  byHand: true,
  fields: { strokesIn: strokes(), strokesOut: strokes() },
  reads: 'ground',
  sought: asked => (asked.strokesIn.length || asked.strokesOut.length ? [soughtBy(asked)] : []),
  find: (asked, { sight, ground, beneath }, whole, geometry): Fit | null => {
    if (!asked.strokesIn.length && !asked.strokesOut.length) return null;
    if (!sight) throw new RangeError('an area is to be found, but there is no photograph to find it in');
    const values = belonging(asked, sight);
    const { width, height } = sight;
    const lattice = { x: 0, y: 0, width, height, cell: geometry.photograph.width / width };
    let read: Float32Array;
    if (geometry.untouched) read = relattice(values, lattice, { ...whole, cell: 1 });
    else {
      read = new Float32Array(whole.width * whole.height);
      readLattice(values, lattice, whole, geometry.toPhotograph, read);
    }
    steepen(read, STEEP);
    return fitEdges(
      { width: whole.width, height: whole.height, values: read },
      ground,
      geometry.longEdge,
      ground !== beneath,
      EDGE,
    );
  },
  see: (_, { ground }, count, { region, geometry, found }) =>
    found ? onEdges(found as Fit, ground, region, geometry) : new Float32Array(count),
});
