import { decode } from './srgb';

/**
 * CIELAB (D50) of an encoded sRGB colour, by way of XYZ with the Bradford-adapted sRGB matrix.
 * Sources: CIE 15:2004; matrix of CSS Color 4, lin_sRGB to XYZ D50.
 * @returns [L* 0..100, a*, b*]
 */
export function rgbToLab(red: number, green: number, blue: number): [number, number, number] {
  const r = decode(red);
  const g = decode(green);
  const b = decode(blue);
  const x = (0.4360747 * r + 0.3850649 * g + 0.1430804 * b) / 0.9642212;
  const y = 0.2225045 * r + 0.7168786 * g + 0.0606169 * b;
  const z = (0.0139322 * r + 0.0971045 * g + 0.7141733 * b) / 0.82521;
  const f = (t: number) => (t > 216 / 24389 ? Math.cbrt(t) : ((24389 / 27) * t + 16) / 116);
  const fy = f(y);
  return [116 * fy - 16, 500 * (f(x) - fy), 200 * (fy - f(z))];
}
