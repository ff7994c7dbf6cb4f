/** Shares of darks, middles and lights in a tone: smooth, and summing to one. */

/** 0 to 1 as t goes from 0 to 1, C1, flat beyond. */
export function smoothstep(t: number): number {
  if (t <= 0) return 0;
  if (t >= 1) return 1;
  return t * t * (3 - 2 * t);
}

/** How much a tone (encoded, 0..1) is dark: 1 at black, 0 from middle grey on. */
export const darkShare = (tone: number): number => 1 - smoothstep(tone * 2);

/** How much a tone is light: 0 up to middle grey, 1 at white. */
export const lightShare = (tone: number): number => smoothstep(tone * 2 - 1);

/** The rest: 1 at middle grey, 0 at both ends. */
export const middleShare = (tone: number): number => 1 - darkShare(tone) - lightShare(tone);
