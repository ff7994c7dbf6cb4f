import { proxy, wrap } from 'comlink';
import type { Unpacker } from './unpacker';

/** Layers of an OpenRaster file as areas: where each covers. Source: OpenRaster 0.0.5. */

export interface LayerArea {
  name: string;
  /** A grey PNG, white where the layer covers. */
  png: Uint8Array;
}

export interface LayerFile {
  width: number;
  height: number;
  /** Those that do not cover all, from the uppermost. */
  areas: LayerArea[];
}

/** Pixels of a picture of which areas are made in a browser. */
const MOST_PIXELS = 2e8;
/** Layers of one file. */
const MOST_LAYERS = 200;

interface Listed {
  width: number;
  height: number;
  layers: { source: string; name: string; at: { x: number; y: number } }[];
}

/** What a file's list of layers says. Throws an Error where it says nothing. */
function listed(text: string): Listed {
  const xml = new DOMParser().parseFromString(text, 'application/xml');
  const image = xml.querySelector('image');
  const number = (element: Element, name: string) => Number(element.getAttribute(name) ?? 0);
  const [width, height] = image ? [number(image, 'w'), number(image, 'h')] : [0, 0];
  if (!image || xml.querySelector('parsererror')) throw new Error('its list of layers cannot be read');
  if (!(width > 0 && height > 0)) throw new Error('its list of layers does not say how large it is');
  if (width * height > MOST_PIXELS) throw new Error(`it has more than ${MOST_PIXELS / 1e6} megapixels`);
  const layers = [...xml.querySelectorAll('layer')];
  if (layers.length > MOST_LAYERS) throw new Error(`it has more than ${MOST_LAYERS} layers`);
  return {
    width,
    height,
    layers: layers.map(layer => ({
      source: layer.getAttribute('src') ?? '',
      name: (layer.getAttribute('name') ?? '').trim().slice(0, 80),
      at: { x: number(layer, 'x'), y: number(layer, 'y') },
    })),
  };
}

/**
 * Reads where the layers of a file cover. Throws an Error that says what is wrong with it.
 * @param onProgress told how far it is, 0 to 1
 */
export async function readLayers(
  file: Blob,
  onProgress: (done: number) => void = () => undefined,
): Promise<LayerFile> {
  const worker = new Worker(new URL('./unpacker.ts', import.meta.url), { type: 'module' });
  const died = new Promise<never>((_, reject) => {
    worker.addEventListener('error', () => reject(new Error('it needs more memory than there is')));
  });
  try {
    const unpacker = wrap<Unpacker>(worker);
    const half = (from: number) => (done: number) => onProgress(from + done / 2);
    const list = await Promise.race([unpacker.open(file, proxy(half(0))), died]);
    const { width, height, layers } = listed(list);
    const areas: LayerArea[] = [];
    for (const [i, { source, name, at }] of layers.entries()) {
      const png = await Promise.race([unpacker.cover(source, { width, height }, at), died]);
      half(0.5)((i + 1) / layers.length);
      if (png) areas.push({ name: name || `Layer ${areas.length + 1}`, png });
    }
    return { width, height, areas };
  } finally {
    worker.terminate();
  }
}
