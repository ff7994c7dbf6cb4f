import { png8 } from '../../server/testing/pictures';

/** Photographs to walk among, each another: hills of colour under a sky, from light to dark. */
export const photo = (number: number): Promise<Buffer> =>
  png8(600 + 40 * number, 400, (x, y) => {
    const hill = Math.sin(x / (70 + 20 * number)) * 40 + 220;
    const light = 1 - 0.2 * number;
    return y < hill
      ? [(120 + y / 4) * light, (150 + y / 4) * light, 205 * light]
      : [(60 + 40 * number) * light, (110 - x / 12) * light, 50 * light];
  });
