import type { FormatView, ProfileName, SendOutSettings } from '../../../contract/send-outs';
import { avif } from './avif';
import type { Format } from './define';
import { jpeg } from './jpeg';
import { openRaster } from './openraster';
import { png } from './png';
import { tiff } from './tiff';
import { webp } from './webp';

/** Every format that files go out in, in the order in which they are offered. Adding one is a file and a line here. */
export const formats: readonly Format[] = [jpeg, png, tiff, webp, avif, openRaster];

/** The format of a name. Throws a RangeError. */
export function formatNamed(name: string): Format {
  const format = formats.find(f => f.name === name);
  if (!format) throw new RangeError(`no format is called ${name}`);
  return format;
}

/** The format that the ending of a file's name (without a dot, in small letters) stands for. */
export const formatOfEnding = (ending: string): Format | undefined =>
  formats.find(f => f.endings.includes(ending));

/** What a client needs to know of the formats to offer them. */
export const formatViews = (): FormatView[] =>
  formats.map(
    ({ name, ending, mediaType, bits, profiles, quality, chroma, progressive, packings, layers }) => ({
      name,
      ending,
      mediaType,
      bits: [...bits],
      profiles: [...profiles],
      quality,
      chroma,
      progressive,
      packings,
      layers,
    }),
  );

const profileTexts: Record<ProfileName, string> = {
  srgb: 'an sRGB profile',
  'display-p3': 'a Display P3 profile',
  wide: 'a wide RGB profile',
  grey: 'a grey profile',
  'grey-gamma': 'a grey profile',
};

/** Why no file can be like that; null where one can. */
export function impossible({
  format: name,
  bits,
  profile,
}: Pick<SendOutSettings, 'format' | 'bits' | 'profile'>): string | null {
  const format = formats.find(f => f.name === name);
  if (!format) return `no format is called ${JSON.stringify(name)}`;
  const { title } = format;
  if (!format.bits.includes(bits)) return `${title} has ${format.bits.join(' or ')} bits`;
  if (!format.profiles.includes(profile)) return `${title} is not written with ${profileTexts[profile]}`;
  return null;
}
