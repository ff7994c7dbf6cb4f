/** The largest file that is taken in, in bytes. */
export const MOST_BYTES = 1024 ** 3;
/** The largest picture that is taken in, in pixels. */
export const MOST_PIXELS = 200e6;
