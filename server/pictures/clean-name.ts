import { basename } from 'node:path';

/** A file's name for a person to read: no folders, no control characters, nothing that turns the direction of what follows (so that `gpj.exe` looks like a picture), not too long. Never a path. */
export function cleanName(name: string): string {
  const clean = basename(name.replaceAll('\\', '/'))
    .replace(/[\p{Cc}\p{Bidi_Control}]/gu, '')
    .trim();
  // Half of a character may be left where it is cut.
  return clean.slice(-200).replace(/^[\uDC00-\uDFFF]/, '') || 'unnamed';
}
