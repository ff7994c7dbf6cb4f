import { zlibSync } from 'fflate';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readGreyPng, writeGreyPng } from './grey-png';
import { boundedPng } from './png-chunks';

/** PNGs that are made to unpack into more than anybody has. */

function crc32(bytes: Uint8Array): number {
  let crc = ~0;
  for (const byte of bytes) {
    crc ^= byte;
    for (let k = 0; k < 8; k++) crc = (crc >>> 1) ^ (crc & 1 ? 0xedb88320 : 0);
  }
  return ~crc >>> 0;
}

function chunk(type: string, data: Uint8Array): Uint8Array {
  const whole = new Uint8Array(12 + data.length);
  const view = new DataView(whole.buffer);
  view.setUint32(0, data.length);
  whole.set(new TextEncoder().encode(type), 4);
  whole.set(data, 8);
  view.setUint32(8 + data.length, crc32(whole.subarray(4, 8 + data.length)));
  return whole;
}

const SIGNATURE = Uint8Array.of(137, 80, 78, 71, 13, 10, 26, 10);
const joined = (...parts: Uint8Array[]) => Uint8Array.from(parts.flatMap(part => [...part]));
const head = (width: number, height: number) => {
  const data = new Uint8Array(13);
  const view = new DataView(data.buffer);
  view.setUint32(0, width);
  view.setUint32(4, height);
  data.set([8, 0, 0, 0, 0], 8);
  return chunk('IHDR', data);
};
const end = chunk('IEND', new Uint8Array());
/** Sixteen megabytes of zeros in sixteen kilobytes. */
const bomb = zlibSync(new Uint8Array(16 * 2 ** 20), { level: 9 });

describe('a PNG', () => {
  it('whose size does not stand first is not unpacked', () => {
    const bytes = joined(SIGNATURE, chunk('IDAT', bomb), head(4, 4), end);
    expect(() => readGreyPng(bytes)).toThrow('its size does not stand first');
  });

  it('that holds more than its picture is refused, before all of it is unpacked', () => {
    const bytes = joined(SIGNATURE, head(4, 4), chunk('IDAT', bomb), end);
    expect(() => readGreyPng(bytes)).toThrow('more than its picture');
  });

  it('with a packed text or profile beside the picture is read without unpacking that', () => {
    const grey = writeGreyPng(Uint8Array.of(1, 2, 3, 4), 2, 2);
    const text = joined(new TextEncoder().encode('a\0\0'), bomb);
    const bytes = joined(grey.subarray(0, 33), chunk('zTXt', text), grey.subarray(33));
    expect([...readGreyPng(bytes).values]).toEqual([1, 2, 3, 4]);
    expect(boundedPng(bytes, 100).length).toBe(grey.length);
  });

  it('of any size within bounds is what it was, and of none beyond', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 90 }),
        fc.integer({ min: 1, max: 90 }),
        fc.nat(),
        (w, h, seed) => {
          const values = Uint8Array.from({ length: w * h }, (_, i) => (seed ? (i * seed) % 256 : 0));
          const bytes = writeGreyPng(values, w, h);
          expect(readGreyPng(bytes).values).toEqual(values);
          expect(() => boundedPng(bytes, w * h - 1)).toThrow('too large');
        },
      ),
    );
  });

  it('that is damaged anywhere is refused in words', () => {
    const whole = writeGreyPng(
      Uint8Array.from({ length: 600 }, (_, i) => i % 251),
      30,
      20,
    );
    fc.assert(
      fc.property(fc.nat(whole.length - 1), fc.integer({ min: 1, max: 255 }), fc.boolean(), (at, by, cut) => {
        const bytes = cut ? whole.slice(0, at) : Uint8Array.from(whole, (v, i) => (i === at ? v ^ by : v));
        try {
          readGreyPng(bytes);
        } catch (error) {
          expect((error as Error).message).toMatch(/PNG/);
        }
      }),
    );
  });
});
