/** The words of the trade for the names in the treatment format. */
const words: Record<string, string> = {
  light: 'Light',
  mono: 'Mono',
  'split-tone': 'Split tone',
  'profile.srgb': 'sRGB, embedded',
  'profile.display-p3': 'Display P3, embedded',
  'profile.wide': 'Wide RGB (BT.2020), embedded',
  'profile.grey': 'Grey, embedded',
  'profile.grey-gamma': 'Grey, gamma 2.2, embedded',
  jpeg: 'JPEG',
  png: 'PNG',
  tiff: 'TIFF',
  webp: 'WebP',
  avif: 'AVIF',
  layers: 'Layers',
  luminance: 'Luminance',
  response: 'Response by hue',
  'interpolation.srgb': 'Plain',
  'interpolation.linear': 'In light',
  'interpolation.oklab': 'Even to the eye',
  'index.lightness': 'Lightness to the eye',
  'local-contrast': 'Local contrast',
  baths: 'Baths',
  filter: 'Colour filter',
  'colour-table': 'Colour table',
  'keep-colour': 'Kept colour',
  color: 'Colour',
  'color-dodge': 'Colour dodge',
  'color-burn': 'Colour burn',
  'local-light': 'Light in an area',
  'colour-bands': 'Colours by hue',
  'three-way-balance': 'Three-way balance',
  channels: 'Channel weights',
  average: 'Average',
  lightness: 'Lightness',
  luma: 'Luma',
  index: 'Tones by',
  inBlack: 'Black in',
  inWhite: 'White in',
  outBlack: 'Black out',
  outWhite: 'White out',
  spareHighlights: 'Spare lights',
  keepLightness: 'Keep tones',
  'hues.centre': 'Hue',
  'tones.range': 'Tones of the area',
  'oval.feather': 'Softness',
  'oval.outside': 'Outside',
  'oval.angle': 'Turn',
  'hues.colour': 'Least colour',
  c: 'Cyan',
  m: 'Magenta',
  y: 'Yellow',
  k: 'Black',
  'tones.lights': 'Highlights',
  'tones.middles': 'Midtones',
  'tones.darks': 'Shadows',
  'centre.x': 'Across',
  'centre.y': 'Down',
};

/** A setting's or a kind's name as a person reads it: from the list, or the key in plain words. */
export function wordFor(key: string): string {
  if (words[key]) return words[key];
  const plain = key
    .replace(/-/g, ' ')
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase();
  return plain.charAt(0).toUpperCase() + plain.slice(1);
}

/** A value of a choice, or a setting of a group, as a person reads it: some words mean something else elsewhere. */
export const wordWithin = (within: string, key: string): string => words[`${within}.${key}`] ?? wordFor(key);

const small = [
  'No',
  'One',
  'Two',
  'Three',
  'Four',
  'Five',
  'Six',
  'Seven',
  'Eight',
  'Nine',
  'Ten',
  'Eleven',
  'Twelve',
];

/** `two`, `14`. */
export const numberInWords = (n: number): string => (small[n] ?? String(n)).toLowerCase();

/** `Two photographs`, `One photograph`, `14 photographs`. */
export function countOf(n: number, one: string, many = `${one}s`): string {
  return `${small[n] ?? n} ${n === 1 ? one : many}`;
}

/** `Light, mono, split tone`, or `Bare`. */
export function stepsInWords(kinds: readonly string[]): string {
  if (kinds.length === 0) return 'Bare';
  return kinds.map((k, i) => (i ? wordFor(k).toLowerCase() : wordFor(k))).join(', ');
}

/** `Take B, Aged paper`. */
export const takeInWords = ({ letter, name }: { letter: string; name: string }): string =>
  `Take ${letter}${name ? `, ${name}` : ''}`;

const inList = new Intl.ListFormat('en-GB', { type: 'conjunction' });

/** `one`, `one and two`, `one, two and three`. */
export const listed = (all: readonly string[]): string => inList.format(all);

/** A size of a file, for a person. */
export function sizeInWords(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  if (bytes < 999_500) return `${Math.round(bytes / 1000)} kB`;
  return `${(bytes / 1e6).toFixed(bytes < 99.5e6 ? 1 : 0)} MB`;
}

/** `today, 17:20`, `Saturday`, `9 November`. */
export function whenInWords(iso: string, now = new Date()): string {
  const then = new Date(iso);
  const time = then.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  const days = Math.round(
    (new Date(now).setHours(0, 0, 0, 0) - new Date(then).setHours(0, 0, 0, 0)) / 86_400_000,
  );
  if (days <= 0) return `today, ${time}`;
  if (days === 1) return `yesterday, ${time}`;
  if (days < 7) return then.toLocaleDateString('en-GB', { weekday: 'long' });
  return then.toLocaleDateString('en-GB', { day: 'numeric', month: 'long' });
}

/** A camera's clock as a date: `2026-05-03T14:22:01` is `3 May 2026, 14:22`. */
export const dateInWords = (clock: string): string =>
  new Date(clock).toLocaleString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' }) +
  `, ${clock.slice(11, 16)}`;
