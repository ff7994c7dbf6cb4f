/** Pixels of a photograph brought into its frame: 16-bit codes, interleaved RGB. */

interface Part {
  x: number;
  y: number;
  width: number;
  height: number;
}

interface Source extends Part {
  /** 16-bit, or 8-bit codes that are widened on the way. */
  codes: Uint16Array | Uint8Array;
}

type Mapping = (x: number, y: number, out: Float64Array) => void;

/** Copies pixel for pixel where the frame moves whole pixels. */
export function pick(source: Source, part: Part, toPhotograph: Mapping, out: Uint16Array): void {
  const { codes } = source;
  const widen = codes instanceof Uint8Array ? 257 : 1;
  const at = new Float64Array(2);
  const next = new Float64Array(2);
  for (let y = 0, o = 0; y < part.height; y++) {
    toPhotograph(part.x + 0.5, part.y + y + 0.5, at);
    toPhotograph(part.x + 1.5, part.y + y + 0.5, next);
    const stepX = Math.round(next[0] - at[0]);
    const stepY = Math.round(next[1] - at[1]);
    const step = (stepY * source.width + stepX) * 3;
    let p = ((Math.floor(at[1]) - source.y) * source.width + Math.floor(at[0]) - source.x) * 3;
    for (let x = 0; x < part.width; x++, p += step) {
      out[o++] = codes[p] * widen;
      out[o++] = codes[p + 1] * widen;
      out[o++] = codes[p + 2] * widen;
    }
  }
}

/** The code of paper white, where the frame reaches beyond the photograph. */
const PAPER = 65535;

/**
 * Resamples by the cubic convolution of R. G. Keys ("Cubic Convolution Interpolation for Digital Image
 * Processing", IEEE ASSP 29, 1981; a = −1/2), edges repeated; paper white outside of the photograph.
 */
export function resample(
  source: Source,
  photograph: { width: number; height: number },
  part: Part,
  toPhotograph: Mapping,
  out: Uint16Array,
): void {
  const { codes, width } = source;
  const widen = codes instanceof Uint8Array ? 257 : 1;
  const at = new Float64Array(2);
  const weights = new Float64Array(8);
  const columns = new Int32Array(4);
  const cubic = (t: number, offset: number) => {
    const t2 = t * t;
    const t3 = t2 * t;
    weights[offset] = -0.5 * t3 + t2 - 0.5 * t;
    weights[offset + 1] = 1.5 * t3 - 2.5 * t2 + 1;
    weights[offset + 2] = -1.5 * t3 + 2 * t2 + 0.5 * t;
    weights[offset + 3] = 0.5 * t3 - 0.5 * t2;
  };
  for (let y = 0, o = 0; y < part.height; y++) {
    for (let x = 0; x < part.width; x++, o += 3) {
      toPhotograph(part.x + x + 0.5, part.y + y + 0.5, at);
      const px = at[0];
      const py = at[1];
      if (!(px >= 0 && py >= 0 && px <= photograph.width && py <= photograph.height) || width === 0) {
        out[o] = PAPER;
        out[o + 1] = PAPER;
        out[o + 2] = PAPER;
        continue;
      }
      const left = Math.floor(px - 0.5);
      const top = Math.floor(py - 0.5);
      cubic(px - 0.5 - left, 0);
      cubic(py - 0.5 - top, 4);
      for (let k = 0; k < 4; k++) {
        let column = left - 1 + k;
        if (column < 0) column = 0;
        else if (column >= photograph.width) column = photograph.width - 1;
        columns[k] = (column - source.x) * 3;
      }
      let r = 0;
      let g = 0;
      let b = 0;
      for (let j = 0; j < 4; j++) {
        let row = top - 1 + j;
        if (row < 0) row = 0;
        else if (row >= photograph.height) row = photograph.height - 1;
        const line = (row - source.y) * width * 3;
        const down = weights[4 + j];
        for (let k = 0; k < 4; k++) {
          const w = down * weights[k];
          const p = line + columns[k];
          r += w * codes[p];
          g += w * codes[p + 1];
          b += w * codes[p + 2];
        }
      }
      r = r * widen + 0.5;
      g = g * widen + 0.5;
      b = b * widen + 0.5;
      out[o] = r < 0 ? 0 : r > 65535 ? 65535 : r;
      out[o + 1] = g < 0 ? 0 : g > 65535 ? 65535 : g;
      out[o + 2] = b < 0 ? 0 : b > 65535 ? 65535 : b;
    }
  }
}
