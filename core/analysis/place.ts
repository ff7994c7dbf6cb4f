/** Where in a picture something lies, for people. */

export interface Place {
  across: 'left' | 'middle' | 'right' | null;
  down: 'upper' | 'middle' | 'lower' | null;
}

/** How much of a thing lies in a half, or between its quarters, before that is said of it. */
const MOST = 0.7;

const partOf = <N extends string>(low: number, middle: number, names: readonly [N, 'middle', N]) =>
  middle > MOST ? names[1] : low > MOST ? names[0] : low < 1 - MOST ? names[2] : null;

/**
 * Where most of something lies; null where it lies everywhere, or nowhere.
 * @param weightAt how much of it a pixel has, by its number in rows
 */
export function placeOf(weightAt: (p: number) => number, width: number, height: number): Place | null {
  let [sum, left, upper, between, amid] = [0, 0, 0, 0, 0];
  for (let y = 0; y < height; y++) {
    const isUpper = y < height / 2;
    const isAmid = y >= height / 4 && y < (3 * height) / 4;
    for (let x = 0; x < width; x++) {
      const weight = weightAt(y * width + x);
      if (weight === 0) continue;
      sum += weight;
      if (isUpper) upper += weight;
      if (isAmid) amid += weight;
      if (x < width / 2) left += weight;
      if (x >= width / 4 && x < (3 * width) / 4) between += weight;
    }
  }
  if (sum === 0) return null;
  const across = partOf(left / sum, between / sum, ['left', 'middle', 'right']);
  const down = partOf(upper / sum, amid / sum, ['upper', 'middle', 'lower']);
  return across === null && down === null ? null : { across, down };
}
