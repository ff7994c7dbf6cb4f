import { expose } from 'comlink';
import { strFromU8, Unzip, UnzipInflate } from 'fflate';
import { writeGreyPng } from '../../core/formats/grey-png';

/** The unpacking of a file with layers, in a worker: it may be large, and made to become larger than anything. */

/** Bytes that the list of layers may have, and all that is unpacked together. */
const MOST_LIST = 2 * 1024 ** 2;
const MOST_BYTES = 1.5 * 1024 ** 3;
/** Pixels of one layer. */
const MOST_PIXELS = 2e8;
/** What is given to the unpacker at a time: it makes up to a thousand times as much of it at once. */
const SLICE = 64 * 1024;

const isLayer = (name: string) => /^data\/.*\.png$/i.test(name);
const LIST = 'stack.xml';

/** The size that a PNG tells at its beginning. Source: W3C PNG, 11.2.1. */
function sizeOfPng(bytes: Uint8Array): { width: number; height: number } | null {
  if (bytes.length < 33) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  if (view.getUint32(0) !== 0x89504e47 || view.getUint32(12) !== 0x49484452) return null;
  return { width: view.getUint32(16), height: view.getUint32(20) };
}

class Unpacker {
  private readonly layers = new Map<string, Uint8Array<ArrayBuffer>>();

  /**
   * Unpacks a file, and gives its list of layers. Throws an Error that says what is wrong with it.
   * @param onProgress told how much of the file has been unpacked, 0 to 1
   */
  async open(file: Blob, onProgress: (done: number) => void): Promise<string> {
    let sum = 0;
    let list: string | null = null;
    let open = 0;
    // The unpacker gives back as an error of its own whatever is thrown within it.
    let wrong: Error | null = null;
    const stop = (why: string): never => {
      throw (wrong ??= new Error(why));
    };
    const unzip = new Unzip(entry => {
      if (entry.name !== LIST && !isLayer(entry.name)) return;
      const most = entry.name === LIST ? MOST_LIST : MOST_BYTES;
      const parts: Uint8Array<ArrayBuffer>[] = [];
      let length = 0;
      open++;
      entry.ondata = (error, chunk, final) => {
        if (error) stop(`${entry.name} in it is broken`);
        length += chunk.length;
        sum += chunk.length;
        if (length > most) {
          stop(
            entry.name === LIST
              ? 'its list of layers is longer than any should be'
              : `${entry.name} in it becomes too large`,
          );
        }
        if (sum > MOST_BYTES) stop('it becomes too large when it is unpacked');
        parts.push(chunk.slice() as Uint8Array<ArrayBuffer>);
        if (!final) return;
        open--;
        const whole = new Uint8Array(length);
        let at = 0;
        for (const part of parts) {
          whole.set(part, at);
          at += part.length;
        }
        if (entry.name === LIST) list = strFromU8(whole);
        else this.layers.set(entry.name, whole);
      };
      try {
        entry.start();
      } catch {
        stop(`${entry.name} in it is packed in a way that is not read here`);
      }
    });
    unzip.register(UnzipInflate);
    const reader = file.stream().getReader();
    let read = 0;
    for (;;) {
      const { done, value } = await reader.read();
      for (let at = 0; at < (value?.length ?? 0); at += SLICE) unzip.push(value!.subarray(at, at + SLICE));
      read += value?.length ?? 0;
      onProgress(file.size ? read / file.size : 1);
      if (done) break;
    }
    if (open > 0) throw new Error('it ends too early');
    if (list === null) throw new Error('it is no OpenRaster file: there is no list of layers in it');
    return list;
  }

  /**
   * Where a layer covers, laid at its place in a picture of a size, as a grey PNG; null where it covers all or nothing, or is not
   * there. Throws an Error where it cannot be read.
   */
  async cover(
    source: string,
    { width, height }: { width: number; height: number },
    at: { x: number; y: number },
  ): Promise<Uint8Array | null> {
    const png = this.layers.get(source);
    if (!png) return null;
    const size = sizeOfPng(png);
    if (!size) throw new Error(`${source} in it is no PNG`);
    if (size.width * size.height > MOST_PIXELS) throw new Error(`${source} in it is too large`);
    const picture = await createImageBitmap(new Blob([png], { type: 'image/png' })).catch(() => null);
    if (!picture) throw new Error(`${source} in it cannot be read`);
    const canvas = new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d', { willReadFrequently: true })!;
    context.drawImage(picture, at.x, at.y);
    picture.close();
    const { data } = context.getImageData(0, 0, width, height);
    const cover = new Uint8Array(width * height);
    let [least, most] = [255, 0];
    for (let i = 0; i < cover.length; i++) {
      const alpha = data[i * 4 + 3];
      cover[i] = alpha;
      if (alpha < least) least = alpha;
      if (alpha > most) most = alpha;
    }
    return most === 0 || least === 255 ? null : writeGreyPng(cover, width, height);
  }
}

export type { Unpacker };
expose(new Unpacker());
