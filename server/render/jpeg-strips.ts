import sharp from 'sharp';
import type { SendOutSettings } from '../../contract/send-outs';
import { subsamplingOf } from '../pictures/formats/define';

/**
 * Joins JPEGs of equal width, coded with the same tables, one below another into one, their data as it is:
 * each strip becomes a restart interval, where decoding starts afresh.
 * Source: ITU-T T.81, B.2 (markers, restart intervals) and E.1.4.
 */

const SOF0 = 0xc0;
const SOS = 0xda;
const EOI = 0xd9;

interface Parts {
  /** Where the frame header's height lies. */
  heightAt: number;
  /** Where the scan header begins. */
  scanAt: number;
  /** Where the coded data begins and ends. */
  dataFrom: number;
  dataTo: number;
  /** Pixels of a coded unit (MCU). */
  unit: { width: number; height: number };
}

function takeApart(jpeg: Buffer): Parts {
  let at = 2;
  let heightAt = 0;
  let unit = { width: 8, height: 8 };
  for (;;) {
    const marker = jpeg[at + 1];
    const length = jpeg.readUInt16BE(at + 2);
    if (marker === SOF0) {
      heightAt = at + 5;
      const components = jpeg[at + 9];
      let across = 1;
      let down = 1;
      for (let i = 0; i < components; i++) {
        const factors = jpeg[at + 11 + i * 3];
        across = Math.max(across, factors >> 4);
        down = Math.max(down, factors & 15);
      }
      unit = components === 1 ? { width: 8, height: 8 } : { width: 8 * across, height: 8 * down };
    }
    if (marker === SOS) {
      const ends = jpeg[jpeg.length - 2] === 0xff && jpeg[jpeg.length - 1] === EOI;
      return { heightAt, scanAt: at, dataFrom: at + 2 + length, dataTo: jpeg.length - (ends ? 2 : 0), unit };
    }
    at += 2 + length;
  }
}

/** Rows that every strip but the last must be a multiple of. */
export const STRIP_STEP = 16;

/** @param rows of every strip but the last */
export function joinStrips(strips: readonly Buffer[], width: number, height: number, rows: number): Buffer {
  const [first] = strips;
  if (strips.length === 1) return first;
  const { heightAt, scanAt, dataFrom, unit } = takeApart(first);
  if (rows % unit.height !== 0) throw new RangeError(`strips must be a multiple of ${unit.height} rows`);
  const units = Math.ceil(width / unit.width) * (rows / unit.height);
  if (units > 65535) throw new RangeError('the strips are too high for a restart interval');
  const head = Buffer.from(first.subarray(0, scanAt));
  head.writeUInt16BE(height, heightAt);
  const interval = Buffer.from([0xff, 0xdd, 0, 4, units >> 8, units & 255]);
  const parts: Buffer[] = [head, interval, first.subarray(scanAt, dataFrom)];
  strips.forEach((strip, i) => {
    const { dataFrom: from, dataTo: to } = takeApart(strip);
    if (i > 0) parts.push(Buffer.from([0xff, 0xd0 + ((i - 1) % 8)]));
    parts.push(strip.subarray(from, to));
  });
  parts.push(Buffer.from([0xff, EOI]));
  return Buffer.concat(parts);
}

/** The most rows that a strip of a width can have: a restart interval counts up to 65535 units. */
export function mostRows(width: number): number {
  const rows = Math.floor(65535 / Math.ceil(width / 8)) * 8;
  return Math.max(STRIP_STEP, rows - (rows % STRIP_STEP));
}

/** How strips are coded. */
export type StripCoding = Pick<SendOutSettings, 'quality' | 'chroma'>;

/** Encodes a strip with the standard tables, so that all strips of a picture have the same. */
export function encodeStrip(
  codes: Uint8Array,
  width: number,
  height: number,
  grey: boolean,
  { quality, chroma }: StripCoding,
): Promise<Buffer> {
  return sharp(codes, { raw: { width, height, channels: grey ? 1 : 3 } })
    .toColourspace(grey ? 'b-w' : 'srgb')
    .jpeg({ quality, chromaSubsampling: subsamplingOf(chroma), optimiseCoding: false })
    .toBuffer();
}
