import sharp from 'sharp';
import type { ProfileName, SendOutSettings } from '../../contract/send-outs';
import { formatNamed } from './formats';
import { GAMMA, isGreySpace } from '../../core/kernels/output-space';
import type { Encoding } from './formats/define';
import { makeColourProfile, makeGreyProfile } from './icc';

/** What a finished file is like. */
export type FileSettings = Pick<SendOutSettings, 'format'> &
  Encoding &
  Partial<Pick<SendOutSettings, 'border'>>;

let srgb: Promise<Buffer> | undefined;

/** The profile of sRGB that ships with the picture library. */
const shippedSrgb = (): Promise<Buffer> =>
  (srgb ??= sharp({ create: { width: 1, height: 1, channels: 3, background: '#000' } })
    .withIccProfile('srgb')
    .jpeg()
    .toBuffer()
    .then(file => sharp(file).metadata())
    .then(({ icc }) => icc!));

const own = new Map<ProfileName, Buffer>();

/** A profile of our own, made once. */
function ownProfile(name: ProfileName, make: () => Buffer): Buffer {
  const profile = own.get(name) ?? make();
  own.set(name, profile);
  return profile;
}

/** The bytes of the profile that a file carries. */
export async function profileBytes(profile: ProfileName): Promise<Buffer> {
  switch (profile) {
    case 'srgb':
      return shippedSrgb();
    case 'display-p3':
    case 'wide':
      return ownProfile(profile, () => makeColourProfile(profile));
    case 'grey':
      return ownProfile(profile, () => makeGreyProfile(null));
    case 'grey-gamma':
      return ownProfile(profile, () => makeGreyProfile(GAMMA));
  }
}

/** A finished file with the profile of its settings in it. */
export async function withProfile(file: Buffer, { format, profile }: FileSettings): Promise<Buffer> {
  const { embed } = formatNamed(format);
  return embed ? embed(file, await profileBytes(profile)) : file;
}

/**
 * Encodes rendered pixels as a file with its profile embedded.
 * @param codes RGB in the profile's own primaries (in a grey one one for each pixel), 8-bit or 16-bit codes as the
 * settings' bits say
 */
export async function encodePicture(
  codes: Uint8Array | Uint16Array,
  width: number,
  height: number,
  settings: FileSettings,
): Promise<Buffer> {
  const grey = isGreySpace(settings.profile);
  const wide = codes instanceof Uint16Array;
  const picture = sharp(codes, { raw: { width, height, channels: grey ? 1 : 3 } }).toColourspace(
    grey ? (wide ? 'grey16' : 'b-w') : wide ? 'rgb16' : 'srgb',
  );
  const icc = await profileBytes(settings.profile);
  return withProfile(await formatNamed(settings.format).encode(picture, settings, icc), settings);
}
