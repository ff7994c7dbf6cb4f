import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync, strToU8, zipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { inspect } from './inspect';

/** What is no picture here is refused by a word of its own, and by the way out. */

const folder = mkdtempSync(join(tmpdir(), 'refused-'));
afterAll(() => rmSync(folder, { recursive: true }));

const box = (kind: string) =>
  Buffer.concat([Buffer.from([0, 0, 0, 24]), Buffer.from(`ftyp${kind}`), Buffer.alloc(300)]);
const after = (mark: string) => Buffer.concat([Buffer.from(mark, 'latin1'), Buffer.alloc(300, 1)]);

const refused: Record<string, { bytes: () => Uint8Array | Promise<Uint8Array>; says: RegExp }> = {
  'an empty file': { bytes: () => new Uint8Array(), says: /is empty: copy it again/ },
  'a text': { bytes: () => strToU8('Saltmarsh Ferry\n'), says: /is a text, not a picture/ },
  'a drawing': {
    bytes: () => strToU8('<?xml version="1.0"?>\n<svg xmlns="http://www.w3.org/2000/svg"/>'),
    says: /drawing \(SVG\); save it as a PNG/,
  },
  'a PDF': { bytes: () => after('%PDF-1.7'), says: /is a PDF; save its pictures/ },
  PostScript: { bytes: () => after('%!PS\n%%'), says: /PostScript.*save it as a TIFF/ },
  'a layered file': { bytes: () => after('8BPS\0\x01'), says: /layered file; save it as a flat TIFF/ },
  'another layered file': {
    bytes: () => after('.....xcf file'),
    says: /layered file; save it as a flat TIFF/,
  },
  'a film': { bytes: () => box('isom'), says: /film; take a still/ },
  'another film': { bytes: () => box('qt  '), says: /film; take a still/ },
  OpenEXR: { bytes: () => after('v/1\x01'), says: /OpenEXR.*TIFF/ },
  Radiance: { bytes: () => after('#?RADIANCE\n'), says: /Radiance.*TIFF/ },
  Netpbm: { bytes: () => strToU8('P6 2 2 255\n123456789012'), says: /Netpbm.*save it as PNG or TIFF/ },
  'what is packed': { bytes: () => gzipSync(strToU8('x'.repeat(500))), says: /packed; unpack it/ },
  'a zip': { bytes: () => zipSync({ a: strToU8('a'.repeat(300)) }), says: /as a zip, and what is in it/ },
  'bytes of no kind': {
    bytes: () => Uint8Array.from({ length: 500 }, (_, i) => (i * 37) % 256),
    says: /not a picture that can be read.*save a TIFF/,
  },
  'a broken HEIC': { bytes: () => box('heic'), says: /HEIC file that cannot be read.*Save it as a TIFF/ },
  'a broken JPEG XL': {
    bytes: () => Uint8Array.from([0xff, 0x0a, ...Array(300).fill(7)]),
    says: /JPEG XL file that cannot be read.*Save it as a TIFF/,
  },
  'a broken JPEG 2000': {
    bytes: () => Uint8Array.from([0, 0, 0, 12, 0x6a, 0x50, 0x20, 0x20, ...Array(300).fill(7)]),
    says: /JPEG 2000 file that cannot be read.*Save it as a TIFF/,
  },
  'a broken raw': {
    bytes: () => after('FUJIFILMCCD-RAW '),
    says: /raw file that cannot be read.*Save it as a TIFF/,
  },
  'more pixels than are taken': {
    bytes: () =>
      sharp({
        create: { width: 15000, height: 14000, channels: 3, background: '#777' },
        limitInputPixels: false,
      })
        .png({ compressionLevel: 1 })
        .toBuffer(),
    says: /more than 200 megapixels: bring in a smaller one/,
  },
};

describe('what is no picture', () => {
  it.each(Object.entries(refused))('%s has its word and its way out', async (name, { bytes, says }) => {
    const path = join(folder, name.replaceAll(' ', '-'));
    writeFileSync(path, await bytes());
    await expect(inspect(path)).rejects.toThrow(says);
  });
});
