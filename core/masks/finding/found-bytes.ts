import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { BELONGING_STEPS } from './find';
import type { Within } from './keep';
import type { Sought } from './memory';

/**
 * What was found in a photograph, as bytes: finding takes a second for a few strokes, reading what was found takes none. Numbers in
 * the steps in which they are found, so that what is read is to the last bit what would be found again.
 */

/** Changes whenever something else is found for the same strokes, so that nothing of an earlier finder is read. */
const FINDER = 2;

/** A name for what is sought, that finders of one version share: 64 hexadecimal digits. */
export const nameOfFound = ([kind, name]: Sought): string =>
  bytesToHex(sha256(utf8ToBytes(`finder ${FINDER}: ${kind} ${name}`)));

/** The rectangle before the values of what a stroke may cover. */
const HEAD = 4;

export function bytesOfFound([kind]: Sought, value: unknown): Uint8Array {
  if (kind === 'belonging') {
    const steps = Uint16Array.from(value as Float32Array, v => v * BELONGING_STEPS);
    return new Uint8Array(steps.buffer);
  }
  const { x, y, width, height, values } = value as Within;
  const bytes = new Uint8Array(HEAD * 4 + values.length);
  new Uint32Array(bytes.buffer, 0, HEAD).set([x, y, width, height]);
  bytes.set(values, HEAD * 4);
  return bytes;
}

/** The size of a photograph's sight in cells, and of the picture that they are made of. */
interface Seen {
  width: number;
  height: number;
  picture: { width: number; height: number };
}

/** What bytes say was found; null where they do not fit the photograph: then it is to be found again. */
export function foundOfBytes([kind]: Sought, bytes: Uint8Array, sight: Seen): unknown {
  if (kind === 'belonging') {
    if (bytes.length !== sight.width * sight.height * 2) return null;
    return Float32Array.from(new Uint16Array(bytes.slice().buffer), v => v / BELONGING_STEPS);
  }
  if (bytes.length < HEAD * 4) return null;
  const [x, y, width, height] = new Uint32Array(bytes.slice(0, HEAD * 4).buffer);
  const { picture } = sight;
  const fits = x + width <= picture.width && y + height <= picture.height;
  if (!fits || bytes.length !== HEAD * 4 + width * height) return null;
  return { x, y, width, height, values: bytes.slice(HEAD * 4) } satisfies Within;
}
