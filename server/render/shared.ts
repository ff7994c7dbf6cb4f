import type { Pixels } from '../pictures/decode';

/** Pixels of a whole photograph in memory that threads share: 8-bit or 16-bit codes, interleaved RGB. */
export interface Shared {
  codes: SharedArrayBuffer;
  narrow: boolean;
  width: number;
  height: number;
}

/** Pixels in memory that threads share. */
export function share({ width, height, codes }: Pixels): Shared {
  const narrow = codes instanceof Uint8Array;
  if (codes.buffer instanceof SharedArrayBuffer && codes.byteOffset === 0) {
    return { codes: codes.buffer, narrow, width, height };
  }
  const shared = new SharedArrayBuffer(codes.byteLength);
  if (narrow) new Uint8Array(shared).set(codes);
  else new Uint16Array(shared).set(codes);
  return { codes: shared, narrow, width, height };
}

export const codesOf = ({ codes, narrow }: Shared) =>
  narrow ? new Uint8Array(codes) : new Uint16Array(codes);

/** Pixels out of it. */
export const unshare = (shared: Shared): Pixels => ({
  width: shared.width,
  height: shared.height,
  codes: codesOf(shared),
});
