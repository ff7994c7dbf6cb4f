/**
 * Reads a picture in the open Radiance format (RGBE, one byte of exponent for three of mantissa) as linear light.
 * Source of the format: G. Ward, "Real Pixels", Graphics Gems II, 1991.
 */
export interface LinearPicture {
  width: number;
  height: number;
  /** Red, green, blue, row by row; 1 is what the scene calls white. */
  light: Float32Array;
}

/** Throws when the file is not such a picture or ends early. */
export function readRadiance(file: Uint8Array): LinearPicture {
  let at = 0;
  const line = () => {
    let words = '';
    while (at < file.length && file[at] !== 10) words += String.fromCharCode(file[at++]!);
    at++;
    return words;
  };
  if (!line().startsWith('#?')) throw new Error('This is not a Radiance picture.');
  while (line() !== '') if (at >= file.length) throw new Error('The header of the picture has no end.');
  const size = /^-Y (\d+) \+X (\d+)$/.exec(line());
  if (!size) throw new Error('The picture does not say its size.');
  const [height, width] = [Number(size[1]), Number(size[2])];
  const light = new Float32Array(width * height * 3);
  const row = new Uint8Array(width * 4);
  for (let y = 0; y < height; y++) {
    const packed = width >= 8 && width < 32768 && file[at] === 2 && file[at + 1] === 2 && file[at + 2]! < 128;
    if (packed) {
      at += 4;
      for (let channel = 0; channel < 4; channel++) {
        for (let x = 0; x < width;) {
          const count = file[at++]!;
          if (count > 128) row.fill(file[at++]!, channel * width + x, channel * width + x + count - 128);
          else for (let k = 0; k < count; k++) row[channel * width + x + k] = file[at++]!;
          x += count > 128 ? count - 128 : count;
        }
      }
    } else {
      for (let x = 0; x < width; x++)
        for (let channel = 0; channel < 4; channel++) row[channel * width + x] = file[at++]!;
    }
    if (at > file.length) throw new Error('The picture ends before its last row.');
    for (let x = 0; x < width; x++) {
      const exponent = row[3 * width + x]!;
      const scale = exponent === 0 ? 0 : 2 ** (exponent - 136);
      for (let channel = 0; channel < 3; channel++) {
        light[(y * width + x) * 3 + channel] = row[channel * width + x]! * scale;
      }
    }
  }
  return { width, height, light };
}
