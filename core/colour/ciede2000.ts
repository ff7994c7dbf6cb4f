type Lab = readonly [number, number, number];
const rad = Math.PI / 180;

/**
 * The CIEDE2000 difference of two CIELAB colours.
 * Source: Sharma, Wu, Dalal, "The CIEDE2000 Color-Difference Formula: Implementation Notes, Supplementary
 * Test Data, and Mathematical Observations", 2005.
 */
export function ciede2000([L1, a1, b1]: Lab, [L2, a2, b2]: Lab): number {
  const meanC = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2;
  const G = 0.5 * (1 - Math.sqrt(meanC ** 7 / (meanC ** 7 + 25 ** 7)));
  const A1 = a1 * (1 + G);
  const A2 = a2 * (1 + G);
  const C1 = Math.hypot(A1, b1);
  const C2 = Math.hypot(A2, b2);
  const hue = (b: number, a: number) => (a === 0 && b === 0 ? 0 : (Math.atan2(b, a) / rad + 360) % 360);
  const h1 = hue(b1, A1);
  const h2 = hue(b2, A2);

  let dh = 0;
  if (C1 * C2 !== 0) {
    dh = h2 - h1;
    if (dh > 180) dh -= 360;
    else if (dh < -180) dh += 360;
  }
  const dL = L2 - L1;
  const dC = C2 - C1;
  const dH = 2 * Math.sqrt(C1 * C2) * Math.sin((dh * rad) / 2);

  const L = (L1 + L2) / 2;
  const C = (C1 + C2) / 2;
  let h = h1 + h2;
  if (C1 * C2 !== 0) {
    if (Math.abs(h1 - h2) <= 180) h /= 2;
    else h = h < 360 ? (h + 360) / 2 : (h - 360) / 2;
  }
  const T =
    1 -
    0.17 * Math.cos((h - 30) * rad) +
    0.24 * Math.cos(2 * h * rad) +
    0.32 * Math.cos((3 * h + 6) * rad) -
    0.2 * Math.cos((4 * h - 63) * rad);
  const SL = 1 + (0.015 * (L - 50) ** 2) / Math.sqrt(20 + (L - 50) ** 2);
  const SC = 1 + 0.045 * C;
  const SH = 1 + 0.015 * C * T;
  const RT =
    -Math.sin(60 * Math.exp(-(((h - 275) / 25) ** 2)) * rad) * 2 * Math.sqrt(C ** 7 / (C ** 7 + 25 ** 7));
  return Math.sqrt((dL / SL) ** 2 + (dC / SC) ** 2 + (dH / SH) ** 2 + RT * (dC / SC) * (dH / SH));
}
