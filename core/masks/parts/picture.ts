import { pictureOf } from '../../formats/carried';
import { spread } from '../../kernels/dabs';
import { carriedPicture } from '../../settings/fields';
import { definePart } from '../define';

/** A grey picture, spread over the whole photograph. */
export const picture = definePart({
  kind: 'picture',
  byHand: true,
  fields: { png: carriedPicture() },
  reads: 'place',
  lay: ({ png }, { lattice, photograph }) => {
    const values = new Float32Array(lattice.width * lattice.height);
    spread(values, lattice, pictureOf(png), photograph);
    return values;
  },
});
