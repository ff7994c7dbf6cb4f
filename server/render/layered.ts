import sharp from 'sharp';
import { layersOf, type Layer, type PictureLayer } from '../../core/engine/layers';
import type { Treatment } from '../../core/treatment/treatment';
import { nameOfStep } from '../../words/step-names';
import { stepsInWords } from '../../words/words';
import { thumbnailOf } from '../pictures/formats/openraster';
import { writeOpenRaster, type StackGroup, type StackPicture } from '../pictures/openraster';
import type { Renderer, RenderJob } from './renderer';

/** A treatment as a file with a layer for each wash and area. */

export interface Layered {
  file: Buffer;
  layers: number;
  /** How far the layers put together are from the picture, in 255ths: in the mean, and at most. */
  mean: number;
  most: number;
}

/** What a layer is called: after its area too, where its step lies on one. */
function nameOf({ steps }: Pick<PictureLayer, 'steps'>, { masks }: Treatment): string {
  if (steps.length !== 1) return steps.length ? stepsInWords(steps.map(s => s.kind)) : 'As it came';
  const [step] = steps;
  const area = masks.find(m => m.id === step.mask)?.name;
  return area ? `${nameOfStep(step)} on ${area}` : nameOfStep(step);
}

/** Renders a treatment as an OpenRaster file. */
export async function renderLayered(
  renderer: Renderer,
  job: Omit<RenderJob, 'bits' | 'profile'>,
  dpi?: number,
): Promise<Layered> {
  const { treatment, signal, onProgress } = job;
  const { bare, strength, above } = layersOf(treatment);
  const pictures = [bare, ...above.flatMap(layer => (layer.type === 'group' ? layer.layers : [layer]))];
  /** Where the uppermost covers all it is the picture: that is not made twice. */
  const isAll = (layer: PictureLayer) =>
    strength === 1 &&
    layer === above.at(-1) &&
    !layer.cover &&
    layer.opacity === 1 &&
    layer.mode === 'normal';
  const renders = 1 + pictures.reduce((n, layer) => n + (isAll(layer) ? 0 : layer.cover ? 2 : 1), 0);
  let done = 0;
  const render = async (of: Treatment) => {
    const { codes, width, height } = await renderer.render({
      ...job,
      treatment: of,
      bits: 8,
      onProgress: part => onProgress?.((done + part) / renders),
    });
    done++;
    return { buffer: codes.buffer as SharedArrayBuffer, width, height };
  };
  const merged = await render(treatment);
  const { width, height } = merged;
  const count = width * height;
  const start = () => new SharedArrayBuffer(count * 6);
  const rgba = new SharedArrayBuffer(count * 4);
  const picture = (codes: SharedArrayBuffer, channels: 3 | 4) =>
    sharp(new Uint8Array(codes), { raw: { width, height, channels } });
  const png = (codes: SharedArrayBuffer, channels: 3 | 4) =>
    picture(codes, channels).png({ compressionLevel: 6 }).toBuffer();
  const all8 = await png(merged.buffer, 3);

  /** A layer's picture; it is laid on what is there. */
  const pictured = async (layer: PictureLayer, on: SharedArrayBuffer): Promise<StackPicture> => {
    const colours = isAll(layer) ? merged : await render(layer.colours);
    const cover = layer.cover && (await render(layer.cover));
    const { mode, opacity } = layer;
    const work = { does: 'layer', colours: colours.buffer, cover: cover && cover.buffer, rgba, on } as const;
    await renderer.onLayers(count, { ...work, mode, opacity }, signal);
    const bytes = cover ? await png(rgba, 4) : isAll(layer) ? all8 : await png(colours.buffer, 3);
    return { type: 'picture', name: nameOf(layer, treatment), mode, opacity, png: bytes };
  };
  const stacked = async (layer: Layer, on: SharedArrayBuffer): Promise<StackPicture | StackGroup> => {
    if (layer.type === 'picture') return pictured(layer, on);
    const within = start();
    const layers: StackPicture[] = [];
    for (const each of layer.layers) layers.push(await pictured(each, within));
    const { opacity } = layer;
    await renderer.onLayers(count, { does: 'picture', over: within, on, share: opacity }, signal);
    const group = treatment.groups.find(g => g.id === layer.steps[0].group);
    return { type: 'group', name: group?.name ?? nameOf(layer, treatment), opacity, layers };
  };

  const all = start();
  const lowest = await pictured(bare, all);
  const upon = strength < 1 ? start() : all;
  const layers: (StackPicture | StackGroup)[] = [];
  for (const layer of above) layers.push(await stacked(layer, upon));
  if (strength < 1) {
    await renderer.onLayers(count, { does: 'picture', over: upon, on: all, share: strength }, signal);
  }
  const parts = await renderer.onLayers(count, { does: 'apart', of: all, from: merged.buffer }, signal);
  const file = await writeOpenRaster({
    width,
    height,
    dpi,
    layers:
      strength < 1
        ? [lowest, { type: 'group', name: 'The whole treatment', opacity: strength, layers }]
        : [lowest, ...layers],
    merged: all8,
    thumbnail: await thumbnailOf(picture(merged.buffer, 3)),
  });
  return {
    file,
    layers: pictures.length,
    mean: parts.reduce((sum, part) => sum + part.sum, 0) / (count * 3),
    most: Math.max(...parts.map(part => part.most)),
  };
}
