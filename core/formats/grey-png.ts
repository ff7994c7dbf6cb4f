import { decode, encode } from 'fast-png';
import { boundedPng } from './png-chunks';

/** Grey pictures as PNG of 8 or 16 bits. */

export interface GreyPicture {
  width: number;
  height: number;
  /** Codes, row by row: 0 to `most`. */
  values: Uint8Array | Uint16Array;
  /** The code of white. */
  most: number;
}

const MOST_PIXELS = 150e6;

/** Decodes a grey PNG of 8 or 16 bits. Throws an Error that says what is wrong with it. */
export function readGreyPng(bytes: Uint8Array): GreyPicture {
  const bounded = boundedPng(bytes, MOST_PIXELS);
  let png: ReturnType<typeof decode>;
  try {
    png = decode(bounded, { checkCrc: true });
  } catch {
    throw new Error('not a PNG that can be read');
  }
  const { width, height, data, channels, depth } = png;
  if (channels > 2 || png.palette) throw new Error('the PNG is not grey');
  if (depth !== 8 && depth !== 16) throw new Error(`the PNG has ${depth} bits; 8 or 16 are read`);
  const most = 2 ** depth - 1;
  if (channels === 1) return { width, height, values: data as Uint8Array | Uint16Array, most };
  const values = depth === 8 ? new Uint8Array(width * height) : new Uint16Array(width * height);
  for (let i = 0; i < values.length; i++) values[i] = data[i * channels];
  return { width, height, values, most };
}

/** Writes grey codes of 8 bits, row by row, as a PNG. */
export function writeGreyPng(values: Uint8Array, width: number, height: number): Uint8Array {
  return encode({ width, height, data: values, channels: 1, depth: 8 });
}
