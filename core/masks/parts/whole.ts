import { definePart } from '../define';

/** The whole picture. */
export const whole = definePart({
  kind: 'whole',
  fields: {},
  reads: 'place',
  lay: (_settings, { lattice }) => new Float32Array(lattice.width * lattice.height).fill(1),
});
