/** A baked 1D table from a grey to a colour, read by linear interpolation, held at its ends. */
export interface Ramp {
  /** The grey of the first entry. */
  from: number;
  /** Entries a unit of grey. */
  density: number;
  /** Number of entries. */
  length: number;
  /** RGB of entry i at 3i. */
  values: Float32Array;
}

/** Reads the ramp for a run of greys: `out` gets three numbers a pixel. */
export function readRamp(ramp: Ramp, greys: Float32Array, count: number, out: Float32Array): void {
  const { from, density, values } = ramp;
  const last = ramp.length - 2;
  for (let i = 0, o = 0; i < count; i++, o += 3) {
    const at = (greys[i] - from) * density;
    let j = at | 0;
    if (j < 0) j = 0;
    else if (j > last) j = last;
    let f = at - j;
    if (f < 0) f = 0;
    else if (f > 1) f = 1;
    const e = j * 3;
    out[o] = values[e] + (values[e + 3] - values[e]) * f;
    out[o + 1] = values[e + 1] + (values[e + 4] - values[e + 1]) * f;
    out[o + 2] = values[e + 2] + (values[e + 5] - values[e + 2]) * f;
  }
}
