import type { Reference } from '../../core/settings/fields';
import { framedSize } from '../../core/frame/geometry';
import { addArea, addPart } from '../../core/treatment/areas';
import type { Treatment } from '../../core/treatment/treatment';
import { takeIn } from '../engine/carried';
import type { LayerFile } from '../import/layer-file';
import { isSameShape } from '../import/same-shape';

/**
 * Takes in the layers of a file.
 * @returns what adds to a treatment an area for each, where it covers
 * Throws an Error that says what is wrong: the layers are of another shape, or nothing covers a part only.
 */
export async function areasOfLayers(
  { width, height, areas }: LayerFile,
  photograph: { width: number; height: number },
  { frame }: Treatment,
  name: string,
): Promise<(to: Treatment) => Treatment> {
  if (!areas.length) throw new Error('No layer covers a part of the picture alone.');
  const framed = framedSize(photograph, frame);
  const isWhole = framed.width === photograph.width && framed.height === photograph.height;
  if (!isSameShape({ width, height }, photograph)) {
    throw new Error(
      `Its layers are ${width} by ${height} pixels, of another shape than the photograph. ` +
        (isWhole ? 'They belong to another one.' : 'Areas lie on the whole photograph, without its frame.'),
    );
  }
  const layers: { name: string; png: Reference }[] = [];
  // The lowest first, as they would have been painted.
  for (const { name: layer, png } of areas.toReversed()) {
    layers.push({ name: layer || name, png: await takeIn('picture', png) });
  }
  return to =>
    layers.reduce((made, layer) => {
      const { treatment, area } = addArea(made, layer.name);
      return addPart(treatment, area, { kind: 'picture', op: 'add', png: layer.png });
    }, to);
}
