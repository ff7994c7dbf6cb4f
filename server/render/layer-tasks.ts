import type { LayerMode } from '../../core/engine/layers';
import { apart, layLayer, layPicture, writeRgba } from '../../core/kernels/layer-codes';

/** What threads do with layers, each with some of the pixels. */

export type LayerWork =
  /** Makes a layer of its colours and of how far they cover, and lays it on a picture of 16-bit codes. */
  | {
      does: 'layer';
      colours: SharedArrayBuffer;
      cover: SharedArrayBuffer | null;
      rgba: SharedArrayBuffer;
      on: SharedArrayBuffer;
      mode: LayerMode;
      opacity: number;
    }
  /** Lays a picture on another. */
  | { does: 'picture'; over: SharedArrayBuffer; on: SharedArrayBuffer; share: number }
  /** Says how far a picture is from one of 8-bit codes. */
  | { does: 'apart'; of: SharedArrayBuffer; from: SharedArrayBuffer };

export interface OnLayers {
  onLayers: { work: LayerWork; from: number; count: number };
}

/** In 255ths: the sum over all numbers, and the most. */
export interface Apart {
  sum: number;
  most: number;
}

const NONE: Apart = { sum: 0, most: 0 };

export function onLayers({ onLayers: { work, from, count } }: OnLayers): Apart {
  const of16 = (buffer: SharedArrayBuffer) => new Uint16Array(buffer, from * 6, count * 3);
  const of8 = (buffer: SharedArrayBuffer) => new Uint8Array(buffer, from * 3, count * 3);
  if (work.does === 'apart') return apart(of16(work.of), of8(work.from));
  if (work.does === 'picture') {
    layPicture(of16(work.on), of16(work.over), work.share);
    return NONE;
  }
  const { colours, cover, mode, opacity } = work;
  const rgba = new Uint8Array(work.rgba, from * 4, count * 4);
  writeRgba(of8(colours), cover && of8(cover), count, rgba);
  layLayer(of16(work.on), rgba, count, mode, opacity);
  return NONE;
}
