import { decode, encode } from 'fast-png';

/** Grey pictures that masks carry: PNG, base64. */

export interface GreyPicture {
  width: number;
  height: number;
  /** 0..1 */
  values: Float32Array;
}

const known = new Map<string, GreyPicture>();
const KEPT = 8;
const MOST_PIXELS = 150e6;

function bytesOf(base64: string): Uint8Array {
  const text = atob(base64);
  const bytes = new Uint8Array(text.length);
  for (let i = 0; i < text.length; i++) bytes[i] = text.charCodeAt(i);
  return bytes;
}

/** Decodes a grey PNG of 8 or 16 bits. Throws an Error that says what is wrong with it. */
export function readGreyPng(base64: string): GreyPicture {
  const found = known.get(base64);
  if (found) return found;
  const bytes = bytesOf(base64);
  if (bytes.length < 33) throw new Error('not a PNG');
  const header = new DataView(bytes.buffer);
  if (header.getUint32(16) * header.getUint32(20) > MOST_PIXELS) throw new Error('the PNG is too large');
  let png: ReturnType<typeof decode>;
  try {
    png = decode(bytes, { checkCrc: true });
  } catch {
    throw new Error('not a PNG that can be read');
  }
  const { width, height, data, channels, depth } = png;
  if (channels > 2 || png.palette) throw new Error('the PNG is not grey');
  if (depth !== 8 && depth !== 16) throw new Error(`the PNG has ${depth} bits; 8 or 16 are read`);
  const most = 2 ** depth - 1;
  const values = new Float32Array(width * height);
  for (let i = 0; i < values.length; i++) values[i] = data[i * channels] / most;
  const picture = { width, height, values };
  known.set(base64, picture);
  if (known.size > KEPT) known.delete(known.keys().next().value!);
  return picture;
}

/** Writes grey codes of 8 bits, row by row, as a PNG. */
export function writeGreyPng(values: Uint8Array, width: number, height: number): Uint8Array {
  return encode({ width, height, data: values, channels: 1, depth: 8 });
}
