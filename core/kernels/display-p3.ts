import { toEncoded, toLinear } from '../colour/transfer';

/**
 * Encoded sRGB to encoded Display P3 (same white and transfer curve), in place.
 * Source: CSS Color 4, conversion matrices: lin_sRGB to XYZ, XYZ to lin_P3.
 */
export function toDisplayP3(rgb: Float32Array): void {
  for (let i = 0; i < rgb.length; i += 3) {
    const r = toLinear(rgb[i]);
    const g = toLinear(rgb[i + 1]);
    const b = toLinear(rgb[i + 2]);
    rgb[i] = toEncoded(0.8224619688 * r + 0.1775380312 * g);
    rgb[i + 1] = toEncoded(0.0331941989 * r + 0.9668058011 * g);
    rgb[i + 2] = toEncoded(0.0170826307 * r + 0.0723974407 * g + 0.9105199286 * b);
  }
}
