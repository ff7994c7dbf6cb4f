import sharp from 'sharp';
import type { ProfileName, SendOutSettings } from '../../contract/send-outs';
import { formatNamed } from './formats';
import { makeGreyProfile } from './icc';

/** What a finished file is like. */
export type FileSettings = Omit<SendOutSettings, 'longEdge'>;

const shipped = new Map<string, Promise<Buffer>>();

/** A profile that ships with the picture library. */
function shippedProfile(name: 'srgb' | 'p3'): Promise<Buffer> {
  let profile = shipped.get(name);
  if (!profile) {
    profile = sharp({ create: { width: 1, height: 1, channels: 3, background: '#000' } })
      .withIccProfile(name)
      .jpeg()
      .toBuffer()
      .then(file => sharp(file).metadata())
      .then(({ icc }) => icc!);
    shipped.set(name, profile);
  }
  return profile;
}

let greyProfile: Buffer | undefined;

/** The bytes of the profile that a file carries. */
export async function profileBytes(profile: ProfileName): Promise<Buffer> {
  if (profile === 'grey') return (greyProfile ??= makeGreyProfile());
  return shippedProfile(profile === 'srgb' ? 'srgb' : 'p3');
}

/** A finished file with the profile of its settings in it. */
export async function withProfile(file: Buffer, { format, profile }: FileSettings): Promise<Buffer> {
  const { embed } = formatNamed(format);
  return embed ? embed(file, await profileBytes(profile)) : file;
}

/**
 * Encodes rendered pixels as a file with its profile embedded.
 * @param codes RGB in the profile's own primaries (in the grey profile one for each pixel), 8-bit or 16-bit codes as the
 * settings' bits say
 */
export async function encodePicture(
  codes: Uint8Array | Uint16Array,
  width: number,
  height: number,
  settings: FileSettings,
): Promise<Buffer> {
  const grey = settings.profile === 'grey';
  const wide = codes instanceof Uint16Array;
  const picture = sharp(codes, { raw: { width, height, channels: grey ? 1 : 3 } }).toColourspace(
    grey ? (wide ? 'grey16' : 'b-w') : wide ? 'rgb16' : 'srgb',
  );
  return withProfile(await formatNamed(settings.format).encode(picture, settings), settings);
}
