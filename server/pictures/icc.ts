import { decode } from '../../core/colour/srgb';

/**
 * The little of ICC profiles that is needed beside the colour engine: a profile's name, and a grey profile of
 * our own. Source: ICC.1:2010 (profile version 4.3), sections 7 and 10.
 */

const HEADER = 128;

function tag(icc: Buffer, signature: string): Buffer | undefined {
  if (icc.length < HEADER + 4) return undefined;
  const count = Math.min(icc.readUInt32BE(HEADER), 100);
  for (let i = 0; i < count; i++) {
    const entry = HEADER + 4 + i * 12;
    if (entry + 12 > icc.length) return undefined;
    if (icc.toString('latin1', entry, entry + 4) !== signature) continue;
    const from = icc.readUInt32BE(entry + 4);
    const size = icc.readUInt32BE(entry + 8);
    return from + size <= icc.length && size >= 12 ? icc.subarray(from, from + size) : undefined;
  }
  return undefined;
}

/** The name that a profile carries, for a person to read. */
export function profileName(icc: Buffer): string {
  const text = tag(icc, 'desc');
  if (text) {
    const type = text.toString('latin1', 0, 4);
    if (type === 'desc') {
      const length = Math.min(text.readUInt32BE(8), text.length - 12);
      return text.toString('latin1', 12, 12 + Math.max(0, length - 1)) || 'unnamed profile';
    }
    if (type === 'mluc' && text.length >= 28) {
      const length = text.readUInt32BE(20);
      const from = text.readUInt32BE(24);
      if (from + length <= text.length) {
        return (
          Buffer.from(text.subarray(from, from + length))
            .swap16()
            .toString('utf16le') || 'unnamed profile'
        );
      }
    }
  }
  return 'unnamed profile';
}

/** Text as profiles of version 4 hold it. */
export function multiLocalized(text: string): Buffer {
  const utf16 = Buffer.from(text, 'utf16le').swap16();
  const head = Buffer.alloc(28);
  head.write('mluc', 0, 'latin1');
  head.writeUInt32BE(1, 8);
  head.writeUInt32BE(12, 12);
  head.write('enUS', 16, 'latin1');
  head.writeUInt32BE(utf16.length, 20);
  head.writeUInt32BE(28, 24);
  return Buffer.concat([head, utf16]);
}

const D50 = [0.9642, 1, 0.8249];

/** A display profile of version 4, from its tags. */
export function profileOf(space: string, pcs: 'XYZ ' | 'Lab ', tags: readonly [string, Buffer][]): Buffer {
  const padded = tags.map(([name, data]) => [name, data, Buffer.alloc((4 - (data.length % 4)) % 4)] as const);
  const table = Buffer.alloc(4 + tags.length * 12);
  table.writeUInt32BE(tags.length, 0);
  let at = HEADER + table.length;
  padded.forEach(([name, data, pad], i) => {
    table.write(name, 4 + i * 12, 'latin1');
    table.writeUInt32BE(at, 8 + i * 12);
    table.writeUInt32BE(data.length, 12 + i * 12);
    at += data.length + pad.length;
  });
  const header = Buffer.alloc(HEADER);
  header.writeUInt32BE(at, 0);
  header.writeUInt32BE(0x04300000, 8);
  header.write(`mntr${space}${pcs}`, 12, 'latin1');
  [2026, 11, 24, 0, 0, 0].forEach((v, i) => header.writeUInt16BE(v, 24 + i * 2));
  header.write('acsp', 36, 'latin1');
  D50.forEach((v, i) => header.writeInt32BE(Math.round(v * 65536), 68 + i * 4));
  return Buffer.concat([header, table, ...padded.flatMap(([, data, pad]) => [data, pad])]);
}

/** A grey display profile with the tone curve of sRGB, so that a grey file shows the luminance it was made from. */
export function makeGreyProfile(): Buffer {
  const white = Buffer.alloc(20);
  white.write('XYZ ', 0, 'latin1');
  D50.forEach((v, i) => white.writeInt32BE(Math.round(v * 65536), 8 + i * 4));
  const curve = Buffer.alloc(12 + 1024 * 2);
  curve.write('curv', 0, 'latin1');
  curve.writeUInt32BE(1024, 8);
  for (let i = 0; i < 1024; i++) curve.writeUInt16BE(Math.round(decode(i / 1023) * 65535), 12 + i * 2);
  return profileOf('GRAY', 'XYZ ', [
    ['desc', multiLocalized('Grey, sRGB tone curve')],
    ['cprt', multiLocalized('No rights reserved')],
    ['wtpt', white],
    ['kTRC', curve],
  ]);
}
