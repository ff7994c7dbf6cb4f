/** Figures that server and interface share. */

/** The header in which the server names the build of the interface that it gives out. */
export const BUILD_HEADER = 'lampwash-build';

/** The side of the tiles of pixels that the server hands out. */
export const TILE = 512;
/** The longest side that is taken in or sent out, in pixels. */
export const LONGEST_EDGE = 30_000;
/** Bytes of a JSON body, where a route says nothing else. */
export const MOST_BODY = 4 * 1024 * 1024;
/** Bytes of a treatment as JSON, without what it carries: its steps, its areas with all strokes. */
export const MOST_TREATMENT = 16 * 1024 * 1024;

/** The longest edge of an area that is written as a picture, pixels. */
export const LARGEST_AREA = 4096;

/** What areas have found in a photograph: how much is asked for at once. One treatment needs no more. */
export const MOST_FOUND = 700;
