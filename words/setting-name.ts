import { wordWithin } from './words';

/**
 * The name of a setting by its path, as its control is called: `Shadows hue`.
 * @param within whose words the first of the path are, where it has others there
 */
export function nameOfSetting(path: readonly string[], within = ''): string {
  const word = (i: number) => wordWithin(path[i - 1] ?? within, path[i]);
  return path.map((_, i) => (i ? word(i).toLowerCase() : word(i))).join(' ');
}
