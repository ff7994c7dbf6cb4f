import sharp from 'sharp';

/** A photograph of any size for measurements: smooth tones, edges and fine grain, the same every time. */
export async function benchJpeg(width, height) {
  const codes = Buffer.alloc(width * height * 3);
  let seed = 3;
  for (let i = 0; i < width * height; i++) {
    const x = (i % width) / width;
    const y = Math.floor(i / width) / height;
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    const grain = (seed / 2 ** 32 - 0.5) * 16;
    codes[i * 3] = Math.max(0, Math.min(255, 255 * x + grain));
    codes[i * 3 + 1] = Math.max(0, Math.min(255, 255 * y + grain));
    codes[i * 3 + 2] = Math.max(0, Math.min(255, 128 + 100 * Math.sin(9 * x * y) + grain));
  }
  return sharp(codes, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 92 })
    .toBuffer();
}
