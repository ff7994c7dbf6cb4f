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

/** A colour of a profile, from D50 XYZ. */
function xyz(values: readonly number[]): Buffer {
  const data = Buffer.alloc(20);
  data.write('XYZ ', 0, 'latin1');
  values.forEach((v, i) => data.writeInt32BE(Math.round(v * 65536), 8 + i * 4));
  return data;
}

/** The tone curve of sRGB as a formula. Source: ICC.1:2010, 10.16, function type 3. */
function srgbCurve(): Buffer {
  const curve = Buffer.alloc(12 + 5 * 4);
  curve.write('para', 0, 'latin1');
  curve.writeUInt16BE(3, 8);
  [2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045].forEach((v, i) =>
    curve.writeInt32BE(Math.round(v * 65536), 12 + i * 4),
  );
  return curve;
}

/**
 * A grey display profile.
 * @param gamma the power of its curve; null for the tone curve of sRGB, so that a grey file shows the luminance it was made from
 */
export function makeGreyProfile(gamma: number | null): Buffer {
  const STEPS = gamma === null ? 1024 : 1;
  const curve = Buffer.alloc(12 + STEPS * 2);
  curve.write('curv', 0, 'latin1');
  curve.writeUInt32BE(STEPS, 8);
  if (gamma !== null) curve.writeUInt16BE(Math.round(gamma * 256), 12);
  else for (let i = 0; i < STEPS; i++) curve.writeUInt16BE(Math.round(decode(i / 1023) * 65535), 12 + i * 2);
  const name = gamma === null ? 'Grey, sRGB tone curve' : `Grey, gamma ${gamma.toFixed(1)}`;
  return profileOf('GRAY', 'XYZ ', [
    ['desc', multiLocalized(name)],
    ['cprt', multiLocalized('No rights reserved')],
    ['wtpt', xyz(D50)],
    ['kTRC', curve],
  ]);
}

/** Primaries as D50 XYZ, adapted by Bradford's method: red, green, blue. Sources: SMPTE EG 432-1 (P3, white D65); ITU-R BT.2020. */
const PRIMARIES = {
  'display-p3': {
    name: 'Display P3',
    colours: [
      [0.515102, 0.241182, -0.001049],
      [0.291965, 0.692236, 0.041882],
      [0.157153, 0.066582, 0.784378],
    ],
  },
  wide: {
    name: 'Wide RGB, BT.2020 primaries',
    colours: [
      [0.673459, 0.279033, -0.001939],
      [0.165661, 0.675338, 0.029982],
      [0.12508, 0.045629, 0.796857],
    ],
  },
};

/** A display profile with the tone curve of sRGB: of Display P3, or with wider primaries, which hold most colours that a print can have. */
export function makeColourProfile(space: keyof typeof PRIMARIES): Buffer {
  const { name, colours } = PRIMARIES[space];
  const [r, g, b] = colours.map(xyz);
  const curve = srgbCurve();
  return profileOf('RGB ', 'XYZ ', [
    ['desc', multiLocalized(name)],
    ['cprt', multiLocalized('No rights reserved')],
    ['wtpt', xyz(D50)],
    ['rXYZ', r],
    ['gXYZ', g],
    ['bXYZ', b],
    ['rTRC', curve],
    ['gTRC', curve],
    ['bTRC', curve],
  ]);
}
