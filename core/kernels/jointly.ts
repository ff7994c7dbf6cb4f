/**
 * A small plane read at full size, its edges those of the large picture: of the four numbers around a place those count whose colours
 * are like the one there. J. Kopf, M. Cohen, D. Lischinski, M. Uyttendaele, "Joint Bilateral Upsampling", SIGGRAPH 2007.
 */

interface Part {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A difference of colour, encoded, at which little of the weight is left. */
const LIKE = 0.07;
/** What all four have at least, so that where none is like they are read as they lie. */
const LEAST = 1e-4;

/** Four places in a small picture for each pixel of a part of the large one, and their weights. */
export interface Joint {
  places: Int32Array;
  weights: Float32Array;
}

/**
 * @param small encoded RGB as bytes, of the whole picture
 * @param of the size of the large picture
 * @param rgb of the part, encoded
 */
export function jointly(
  small: { width: number; height: number; codes: Uint8Array },
  of: { width: number; height: number },
  part: Part,
  rgb: Float32Array,
): Joint {
  const { width, height, codes } = small;
  const count = part.width * part.height;
  const places = new Int32Array(count * 4);
  const weights = new Float32Array(count * 4);
  const [across, down] = [width / of.width, height / of.height];
  const sharp = 1 / (2 * LIKE * LIKE);
  for (let j = 0, i = 0; j < part.height; j++) {
    const y = Math.min(height - 1, Math.max(0, (part.y + j + 0.5) * down - 0.5));
    const top = Math.min(Math.max(0, height - 2), Math.floor(y));
    const g = y - top;
    const below = height > 1 ? width : 0;
    for (let k = 0; k < part.width; k++, i++) {
      const x = Math.min(width - 1, Math.max(0, (part.x + k + 0.5) * across - 0.5));
      const left = Math.min(Math.max(0, width - 2), Math.floor(x));
      const f = x - left;
      const at = top * width + left;
      const beside = width > 1 ? 1 : 0;
      const p = i * 3;
      let sum = 0;
      for (let n = 0; n < 4; n++) {
        const place = at + (n & 1 ? beside : 0) + (n & 2 ? below : 0);
        const q = place * 3;
        const r = rgb[p] - codes[q] / 255;
        const gr = rgb[p + 1] - codes[q + 1] / 255;
        const b = rgb[p + 2] - codes[q + 2] / 255;
        const near = (n & 1 ? f : 1 - f) * (n & 2 ? g : 1 - g);
        const weight = near * (Math.exp(-(r * r + gr * gr + b * b) * sharp) + LEAST);
        places[i * 4 + n] = place;
        weights[i * 4 + n] = weight;
        sum += weight;
      }
      const share = 1 / sum;
      for (let n = 0; n < 4; n++) weights[i * 4 + n] *= share;
    }
  }
  return { places, weights };
}
