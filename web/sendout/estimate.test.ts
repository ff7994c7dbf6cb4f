import fc from 'fast-check';
import sharp, { type Sharp } from 'sharp';
import { describe, expect, it } from 'vitest';
import { sendOutSettings, type SendOutSettings } from '../../contract/send-outs';
import { estimated } from './estimate';

const of = (settings: object) => sendOutSettings.parse(settings);

/** As files are coded. */
function coded(picture: Sharp, { format, quality, chroma, packing }: SendOutSettings): Promise<Buffer> {
  const chromaSubsampling = chroma === 'kept' ? '4:4:4' : '4:2:0';
  const predictor = packing === 'none' ? 'none' : 'horizontal';
  if (format === 'jpeg') return picture.jpeg({ quality, chromaSubsampling }).toBuffer();
  if (format === 'webp') return picture.webp({ quality }).toBuffer();
  if (format === 'avif') return picture.avif({ quality, chromaSubsampling, effort: 3 }).toBuffer();
  if (format === 'png') return picture.png({ compressionLevel: 6 }).toBuffer();
  return picture.tiff({ compression: packing, predictor }).toBuffer();
}

describe('the size of a file, told before it is made', () => {
  it.each([
    { format: 'jpeg', quality: 90 },
    { format: 'jpeg', quality: 75, chroma: 'halved' },
    { format: 'png' },
    { format: 'png', bits: 16 },
    { format: 'tiff', packing: 'none' },
    { format: 'tiff', packing: 'lzw' },
    { format: 'tiff', bits: 16, packing: 'deflate' },
    { format: 'webp', quality: 85 },
    { format: 'avif', quality: 80 },
  ])('%j is not off by more than by as much again', async asked => {
    const settings = of(asked);
    const { data, info } = await sharp('demo/photographs/four-sheds.jpg')
      .resize(1200)
      .raw()
      .toBuffer({ resolveWithObject: true });
    // A grain in the lower byte, as photographs of 16 bits have it.
    const codes =
      settings.bits === 16
        ? Uint16Array.from(data, (v, i) => v * 257 - (v ? Math.imul(i ^ (i >>> 7), 0x9e3779b1) >>> 24 : 0))
        : new Uint8Array(data);
    const { width, height } = info;
    const picture = sharp(codes, { raw: { width, height, channels: 3 } });
    const deep = picture.toColourspace(settings.bits === 16 ? 'rgb16' : 'srgb');
    const file = await coded(deep, settings);
    const { bytes, pixels } = estimated(settings, info);
    expect(pixels).toBe(info.width * info.height);
    expect(file.length / bytes).toBeGreaterThan(0.45);
    expect(file.length / bytes).toBeLessThan(2.2);
  });

  it('grows with quality and with size', () => {
    const format = fc.constantFrom('jpeg', 'webp', 'avif');
    const quality = fc.integer({ min: 1, max: 99 });
    const pixels = fc.integer({ min: 16, max: 5000 });
    const full = { width: 6000, height: 4000 };
    fc.assert(
      fc.property(format, quality, pixels, (name, q, p) => {
        const size = { by: 'long-edge', pixels: p };
        const { bytes } = estimated(of({ format: name, quality: q, size }), full);
        expect(estimated(of({ format: name, quality: q + 1, size }), full).bytes).toBeGreaterThan(bytes);
        const larger = { ...size, pixels: p + 100 };
        expect(estimated(of({ format: name, quality: q, size: larger }), full).bytes).toBeGreaterThan(bytes);
      }),
    );
  });
});
