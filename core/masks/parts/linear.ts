import { linear as layLinear } from '../../kernels/dabs';
import { position } from '../../settings/fields';
import { definePart } from '../define';

/** A straight gradient: full at `from`, nothing at `to`. */
export const linear = definePart({
  kind: 'linear',
  fields: { from: position(0.5, 0), to: position(0.5, 1) },
  reads: 'place',
  lay: ({ from, to }, { lattice, photograph: { width, height } }) => {
    const values = new Float32Array(lattice.width * lattice.height);
    layLinear(values, lattice, [from[0] * width, from[1] * height], [to[0] * width, to[1] * height]);
    return values;
  },
  handles: settings => [
    { name: 'Full end of the gradient', at: settings.from, move: from => ({ ...settings, from }) },
    { name: 'Empty end of the gradient', at: settings.to, move: to => ({ ...settings, to }) },
  ],
  outline: ({ from, to }) => [{ points: [from, to] }],
});
