import { open, readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { embedded } from '../exiftool';
import { reader } from './define';

interface Frame {
  width: number;
  height: number;
  bitsPerSample: number;
  isSigned: boolean;
  componentCount: number;
}
interface Decoder {
  getEncodedBuffer: (length: number) => Uint8Array;
  decode: () => void;
  getDecodedBuffer: () => ArrayBufferView;
  getFrameInfo: () => Frame;
  delete: () => void;
}

const require = createRequire(import.meta.url);

/** A decoder of its own for each file: what one has needed of memory is given back with it. */
async function decoderOf(path: string): Promise<Decoder> {
  const glue = require.resolve('@cornerstonejs/codec-openjpeg/decodewasmjs');
  const make = require(glue) as (options: object) => Promise<{ J2KDecoder: new () => Decoder }>;
  const { J2KDecoder } = await make({
    locateFile: (name: string) => join(dirname(glue), name),
    print: () => undefined,
    printErr: () => undefined,
  });
  const bytes = await readFile(path);
  const decoder = new J2KDecoder();
  decoder.getEncodedBuffer(bytes.length).set(bytes);
  return decoder;
}

/** Boxes that are gone through at most until the code stream. */
const MOST_BOXES = 1000;

/** Where the code stream begins: at once, or in its box. Source: ITU-T T.800, I.4. */
async function streamAt(read: (at: number, length: number) => Promise<Buffer>): Promise<number> {
  if ((await read(0, 4)).equals(STREAM)) return 0;
  for (let at = 0, n = 0; n < MOST_BOXES; n++) {
    const box = await read(at, 16);
    if (box.length < 16) break;
    const [length, isLong] = [box.readUInt32BE(0), box.readUInt32BE(0) === 1];
    const head = isLong ? 16 : 8;
    if (box.toString('latin1', 4, 8) === 'jp2c') return at + head;
    const whole = isLong ? Number(box.readBigUInt64BE(8)) : length;
    // The last one goes on to the end.
    if (whole < head || !Number.isSafeInteger(at + whole)) break;
    at += whole;
  }
  throw new Error('there is no picture in it');
}

/** What the head of the code stream says. Source: ITU-T T.800, A.5.1. */
async function frameOf(path: string): Promise<Frame> {
  const handle = await open(path, 'r');
  try {
    const read = async (at: number, length: number) => {
      const { buffer, bytesRead } = await handle.read(Buffer.alloc(length), 0, length, at);
      return buffer.subarray(0, bytesRead);
    };
    const head = await read(await streamAt(read), 44);
    if (head.length < 44 || !head.subarray(0, 4).equals(STREAM)) throw new Error('there is no picture in it');
    const depth = head[42];
    return {
      width: head.readUInt32BE(8) - head.readUInt32BE(16),
      height: head.readUInt32BE(12) - head.readUInt32BE(20),
      componentCount: head.readUInt16BE(40),
      bitsPerSample: (depth & 0x7f) + 1,
      isSigned: (depth & 0x80) !== 0,
    };
  } finally {
    await handle.close();
  }
}

/** Checks what a picture is made of, and gives its channels. */
function channelsOf({ componentCount, bitsPerSample, isSigned }: Frame): 1 | 3 {
  if (isSigned) throw new Error('its numbers are signed');
  if (bitsPerSample > 16) throw new Error(`it has ${bitsPerSample} bits a channel`);
  // What the codec gives of more channels cannot be relied on.
  if (componentCount === 1 || componentCount === 3) return componentCount;
  throw new Error(`it has ${componentCount} channels, and those of grey or colour alone are read`);
}

const BOX = Buffer.from([0, 0, 0, 12, 0x6a, 0x50, 0x20, 0x20]);
const STREAM = Buffer.from([0xff, 0x4f, 0xff, 0x51]);
const MOST_PROFILE = 16 * 1024 ** 2;

/** Libraries and archives keep scans so. */
export const jpeg2000 = reader({
  name: 'JPEG 2000',
  mediaType: 'image/jp2',
  is: first => first.subarray(0, 8).equals(BOX) || first.subarray(0, 4).equals(STREAM),
  head: async path => {
    const frame = await frameOf(path);
    const channels = channelsOf(frame);
    const icc = await embedded(path, 'ICC_Profile', MOST_PROFILE);
    const { width, height, bitsPerSample } = frame;
    return { width, height, bits: bitsPerSample > 8 ? 16 : 8, channels, icc, part: null };
  },
  read: async path => {
    const decoder = await decoderOf(path);
    decoder.decode();
    const frame = decoder.getFrameInfo();
    const said = await frameOf(path);
    if (frame.width !== said.width || frame.height !== said.height)
      throw new Error('its size is told in two ways');
    const channels = channelsOf(frame);
    const { width, height, bitsPerSample } = frame;
    // A view of the codec's own memory, of another kind of array.
    const { buffer, byteOffset, byteLength } = decoder.getDecodedBuffer();
    const bytes = new Uint8Array(buffer, byteOffset, byteLength).slice();
    const wide = bitsPerSample > 8;
    const codes = wide ? new Uint16Array(bytes.buffer) : bytes;
    const scale = (wide ? 65535 : 255) / (2 ** bitsPerSample - 1);
    if (scale !== 1) for (let i = 0; i < codes.length; i++) codes[i] = Math.round(codes[i] * scale);
    return { width, height, channels, codes };
  },
});
