import { strFromU8, unzip, type Unzipped } from 'fflate';
import { writeGreyPng } from '../../core/formats/grey-png';

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

/** More bytes than this, unpacked, are not read in a browser. */
const MOST_BYTES = 2e9;

const unpacked = (bytes: Uint8Array): Promise<Unzipped> =>
  new Promise((resolve, reject) => {
    let sum = 0;
    unzip(
      bytes,
      {
        filter: ({ name, originalSize }) => {
          if (name !== 'stack.xml' && !/^data\/.*\.png$/i.test(name)) return false;
          sum += originalSize;
          return sum <= MOST_BYTES;
        },
      },
      (error, files) =>
        error ? reject(new Error('it is no OpenRaster file, or a broken one')) : resolve(files),
    );
  });

/** Where a picture covers, laid at its place in a picture of a size; null where it covers all, or nothing. */
async function coverOf(
  png: Uint8Array<ArrayBuffer>,
  size: { width: number; height: number },
  at: { x: number; y: number },
): Promise<Uint8Array | null> {
  const picture = await createImageBitmap(new Blob([png], { type: 'image/png' })).catch(() => null);
  if (!picture) throw new Error('one of its layers cannot be read');
  const canvas = new OffscreenCanvas(size.width, size.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(picture, at.x, at.y);
  picture.close();
  const { data } = context.getImageData(0, 0, size.width, size.height);
  const cover = new Uint8Array(size.width * size.height);
  let least = 255;
  let most = 0;
  for (let i = 0; i < cover.length; i++) {
    const alpha = data[i * 4 + 3];
    cover[i] = alpha;
    if (alpha < least) least = alpha;
    if (alpha > most) most = alpha;
  }
  return most === 0 || least === 255 ? null : cover;
}

/** Reads where the layers of a file cover. Throws an Error that says what is wrong with it. */
export async function readLayers(file: Blob): Promise<LayerFile> {
  const files = await unpacked(new Uint8Array(await file.arrayBuffer()));
  const stack = Object.hasOwn(files, 'stack.xml') ? strFromU8(files['stack.xml']) : '';
  const xml = new DOMParser().parseFromString(stack, 'application/xml');
  const image = xml.querySelector('image');
  const number = (element: Element, name: string) => Number(element.getAttribute(name) ?? 0);
  const [width, height] = image ? [number(image, 'w'), number(image, 'h')] : [0, 0];
  if (!(width > 0 && height > 0 && width * height <= 2e8)) throw new Error('it has no stack of layers');
  const areas: LayerArea[] = [];
  for (const layer of xml.querySelectorAll('layer')) {
    const source = layer.getAttribute('src') ?? '';
    if (!Object.hasOwn(files, source)) continue;
    const at = { x: number(layer, 'x'), y: number(layer, 'y') };
    const cover = await coverOf(new Uint8Array(files[source]), { width, height }, at);
    if (!cover) continue;
    const name = layer.getAttribute('name')?.trim() || `Layer ${areas.length + 1}`;
    areas.push({ name, png: writeGreyPng(cover, width, height) });
  }
  return { width, height, areas };
}
