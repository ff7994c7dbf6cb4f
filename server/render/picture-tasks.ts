import { decodePicture } from '../pictures/decode';
import { PictureError } from '../pictures/bounds';
import { inspect, type PictureFacts } from '../pictures/inspect';
import { share, type Shared } from './shared';

/** What a thread does with the picture library: it loads that only when it is asked to. */

/** A file to be decoded whole. */
export interface Decode {
  decode: { path: string; facts: PictureFacts };
}

/** A file of which is to be said what it is. */
export interface Inspect {
  inspect: { path: string; page: number | undefined };
}

/** What a file says of itself, or what is wrong with it: some kinds are read to the end for it. */
export async function inspected({
  inspect: { path, page },
}: Inspect): Promise<{ facts: PictureFacts } | { wrong: string }> {
  try {
    return { facts: await inspect(path, page) };
  } catch (error) {
    if (error instanceof PictureError) return { wrong: error.message };
    throw error;
  }
}

/** A picture out of a file, with what is wrong with its data. */
export interface SharedPicture extends Shared {
  damage: string | null;
}

/** The picture of a file, or what is wrong with the file: an error's class does not come out of a thread. */
export async function decodeWhole({
  decode: { path, facts },
}: Decode): Promise<SharedPicture | { wrong: string }> {
  try {
    const decoded = await decodePicture(path, facts);
    return { ...share(decoded), damage: decoded.damage };
  } catch (error) {
    if (error instanceof PictureError) return { wrong: error.message };
    throw error;
  }
}
