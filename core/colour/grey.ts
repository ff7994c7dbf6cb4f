/** Whether interleaved RGB is grey all through: R = G = B to the last bit. */
export function isGrey(rgb: ArrayLike<number>): boolean {
  for (let i = 0; i < rgb.length; i += 3) {
    if (rgb[i] !== rgb[i + 1] || rgb[i] !== rgb[i + 2]) return false;
  }
  return true;
}
