import { framedSize } from '../../core/frame/geometry';
import { addArea, addPart } from '../../core/treatment/areas';
import type { Treatment } from '../../core/treatment/treatment';
import { takeIn } from '../engine/carried';
import type { LayerFile } from '../import/layer-file';
import { isSameShape } from '../import/same-shape';

/**
 * A treatment with an area for each layer of a file, where it covers. Throws an Error that says what is wrong: the layers are of
 * another shape, or nothing covers a part only.
 */
export async function layAreas(
  treatment: Treatment,
  { width, height, areas }: LayerFile,
  photograph: { width: number; height: number },
  name: string,
): Promise<{ treatment: Treatment; areas: number }> {
  if (!areas.length) throw new Error('No layer covers a part of the picture alone.');
  const framed = framedSize(photograph, treatment.frame);
  const isWhole = framed.width === photograph.width && framed.height === photograph.height;
  if (!isSameShape({ width, height }, photograph)) {
    throw new Error(
      `Its layers are ${width} by ${height} pixels, of another shape than the photograph. ` +
        (isWhole ? 'They belong to another one.' : 'Areas lie on the whole photograph, without its frame.'),
    );
  }
  let made = treatment;
  // The lowest first, as they would have been painted.
  for (const { name: layer, png } of areas.toReversed()) {
    const reference = await takeIn('picture', png);
    const { treatment: next, area } = addArea(made, layer || name);
    made = addPart(next, area, { kind: 'picture', op: 'add', png: reference });
  }
  return { treatment: made, areas: areas.length };
}
