import { PICTURE_KINDS } from '../../contract/picture-files';

/** Files that are brought in by mistake, or cannot be read here: what each is, and the way out. */

interface NotRead {
  at: number;
  mark: string;
  says: string;
}

const known: readonly NotRead[] = [
  {
    at: 0,
    mark: '8BPS',
    says: 'is a painting program’s layered file; save it as a flat TIFF and bring that in',
  },
  {
    at: 5,
    mark: 'xcf ',
    says: 'is a painting program’s layered file; save it as a flat TIFF and bring that in',
  },
  { at: 0, mark: '%PDF', says: 'is a PDF; save its pictures as TIFF or JPEG and bring those in' },
  { at: 0, mark: '%!PS', says: 'is PostScript, drawn by lines; save it as a TIFF and bring that in' },
  {
    at: 0,
    mark: 'v/1\x01',
    says: 'is an OpenEXR picture; save it as a 32-bit or 16-bit TIFF and bring that in',
  },
  { at: 0, mark: '#?', says: 'is a Radiance picture; save it as a 32-bit or 16-bit TIFF and bring that in' },
  { at: 4, mark: 'ftypqt', says: 'is a film; take a still out of it and bring that in' },
  { at: 4, mark: 'ftypisom', says: 'is a film; take a still out of it and bring that in' },
  { at: 4, mark: 'ftypmp4', says: 'is a film; take a still out of it and bring that in' },
  { at: 8, mark: 'AVI ', says: 'is a film; take a still out of it and bring that in' },
  { at: 0, mark: '\x1aE\xdf\xa3', says: 'is a film; take a still out of it and bring that in' },
  { at: 0, mark: 'Rar!', says: 'is packed; unpack it, or pack it as a zip' },
  { at: 0, mark: '7z\xbc\xaf', says: 'is packed; unpack it, or pack it as a zip' },
  { at: 0, mark: '\x1f\x8b', says: 'is packed; unpack it, or pack it as a zip' },
  {
    at: 0,
    mark: 'PK\x03\x04',
    says: 'is packed; drop it on the window as a zip, and what is in it is brought in',
  },
];

/** How a drawing begins, behind what may stand before it. */
const isDrawing = (text: string) => /<svg[\s>]/i.test(text);
const isText = (first: Buffer) => first.every(b => b === 0 || b === 9 || b === 10 || b === 13 || b >= 32);
const netpbm = /^P[1-7][\s#]/;

/**
 * Why a file that is no picture here is not read, in words that name the way out.
 * @param first its first bytes, zeros where it is shorter
 * @param bytes how long it is
 */
export function whyNotRead(first: Buffer, bytes: number): string {
  if (bytes === 0) return 'is empty: copy it again from where it came from';
  const text = first.toString('latin1');
  if (netpbm.test(text)) return 'is a Netpbm picture; save it as PNG or TIFF and bring that in';
  const found = known.find(({ at, mark }) => text.startsWith(mark, at));
  if (found) return found.says;
  if (isDrawing(text)) return 'is a drawing (SVG); save it as a PNG and bring that in';
  if (isText(first)) return 'is a text, not a picture';
  return `is not a picture that can be read. ${READ}`;
}

/** What can be brought in. */
const READ = `${PICTURE_KINDS} can be; of others, save a TIFF and bring that in`;
