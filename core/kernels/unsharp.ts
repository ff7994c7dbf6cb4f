/**
 * Adds to each channel the detail (luma less its blur) times an amount; detail smaller than the threshold is
 * eased out.
 */
export function addDetail(
  rgb: Float32Array,
  luma: Float32Array,
  blurred: Float32Array,
  amount: number,
  threshold: number,
  out: Float32Array,
): void {
  for (let i = 0, p = 0; p < out.length; i++, p += 3) {
    const detail = luma[i] - blurred[i];
    const size = detail < 0 ? -detail : detail;
    let weight = amount;
    if (size < threshold) {
      const t = size / threshold;
      weight *= t * t * (3 - 2 * t);
    }
    const change = weight * detail;
    out[p] = rgb[p] + change;
    out[p + 1] = rgb[p + 1] + change;
    out[p + 2] = rgb[p + 2] + change;
  }
}
