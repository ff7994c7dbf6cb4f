import sharp from 'sharp';
import { noise, randomFrom, roughness } from './noise';

/** How far the print lies askew on the glass, in radians. */
const TILT = 0.0055;

/** The paper around the picture, in pixels. */
const borderOf = (width: number) => Math.round(width * 0.042);

/** The size of the picture on the scan, as a share of it. */
const scaleOf = (width: number, height: number) =>
  Math.max((width - borderOf(width) * 2.5) / width, (height - borderOf(width) * 2.5) / height);

/** A place of the scan as seen from the middle of the print. */
const askew = (x: number, y: number, width: number, height: number): [number, number] => [
  x - width / 2 + (y - height / 2) * TILT,
  y - height / 2 - (x - width / 2) * TILT,
];

/** A plane that lies over the picture, laid over its scan. */
export function ontoOldPrint(plane: Float32Array, width: number, height: number): Float32Array {
  const scale = scaleOf(width, height);
  return plane.map((_, i) => {
    const [px, py] = askew(i % width, Math.floor(i / width), width, height);
    const x = Math.round(px / scale + width / 2);
    const y = Math.round(py / scale + height / 2);
    return x >= 0 && y >= 0 && x < width && y < height ? plane[y * width + x]! : 0;
  });
}

/**
 * A grey scan of an old print: the picture faded and a little yellowed into grey, on its paper with an uneven edge, laid
 * slightly askew on the glass, with dust, hairs and a scratch.
 */
export function scanOfOldPrint(
  codes: Uint16Array,
  width: number,
  height: number,
  seed: number,
): { codes: Uint16Array; width: number; height: number } {
  const next = randomFrom(seed);
  const border = borderOf(width);
  const out = new Uint16Array(width * height);
  const grey = (x: number, y: number) => {
    const [cx, cy] = [
      Math.min(Math.max(Math.floor(x), 0), width - 2),
      Math.min(Math.max(Math.floor(y), 0), height - 2),
    ];
    const [fx, fy] = [Math.min(Math.max(x - cx, 0), 1), Math.min(Math.max(y - cy, 0), 1)];
    const at = (px: number, py: number) => {
      const index = (py * width + px) * 3;
      // A blue-sensitive plate: red comes out dark.
      return (codes[index]! * 0.12 + codes[index + 1]! * 0.4 + codes[index + 2]! * 0.48) / 65535;
    };
    return (
      (at(cx, cy) * (1 - fx) + at(cx + 1, cy) * fx) * (1 - fy) +
      (at(cx, cy + 1) * (1 - fx) + at(cx + 1, cy + 1) * fx) * fy
    );
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [px, py] = askew(x, y, width, height);
      const [toSideX, toSideY] = [width / 2 - Math.abs(px), height / 2 - Math.abs(py)];
      const deckle = 2.2 * noise(px / 60, py / 60, 3) + 1.2 * noise(px / 9, py / 9, 5);
      const toPaper = Math.min(toSideX, toSideY) - border * 0.34 + deckle;
      const toPicture = Math.min(toSideX, toSideY) - border * 1.25;
      const fibre = 0.012 * roughness(x / 3.1, y / 3.1, 2) + 0.02 * noise(x / 240, y / 240, 7);
      const lid = 0.11 + 0.004 * noise(x / 2, y / 2);
      const paper = 0.86 + fibre - 0.1 * Math.exp(-Math.max(toPaper, 0) / 26);
      const scale = scaleOf(width, height);
      let tone = grey(px / scale + width / 2, py / scale + height / 2);
      // Faded: no deep black is left, and the edges have gone lighter than the middle.
      const faded = 0.12 + 0.06 * Math.exp(-Math.max(toPicture, 0) / 170) + 0.03 * noise(x / 400, y / 330, 1);
      tone = faded + tone * (0.88 - faded) + fibre * 0.8;
      const inPicture = Math.min(Math.max(toPicture / 2.5, 0), 1);
      const onPaper = Math.min(Math.max(toPaper / 2, 0), 1);
      const value = (tone * inPicture + paper * (1 - inPicture)) * onPaper + lid * (1 - onPaper);
      out[y * width + x] = Math.round(Math.min(Math.max(value, 0), 1) * 65535);
    }
  }
  const mark = (x: number, y: number, radius: number, light: number) => {
    for (let dy = -Math.ceil(radius) - 1; dy <= radius + 1; dy++) {
      for (let dx = -Math.ceil(radius) - 1; dx <= radius + 1; dx++) {
        const [px, py] = [Math.round(x) + dx, Math.round(y) + dy];
        if (px < 0 || py < 0 || px >= width || py >= height) continue;
        const share = Math.min(Math.max(radius + 0.5 - Math.hypot(px - x, py - y), 0), 1) * 0.85;
        const at = py * width + px;
        out[at] = Math.round(out[at]! * (1 - share) + light * 65535 * share);
      }
    }
  };
  for (let speck = 0; speck < 260; speck++) {
    mark(next() * width, next() * height, 0.5 + 2.6 * next() ** 4, next() < 0.72 ? 0.9 : 0.16);
  }
  for (let hair = 0; hair < 7; hair++) {
    let [x, y, heading] = [next() * width, next() * height, next() * 6.3];
    const light = next() < 0.6 ? 0.88 : 0.2;
    for (let step = 0; step < 40 + next() * 90; step++) {
      mark(x, y, 0.7, light);
      heading += (next() - 0.5) * 0.22;
      [x, y] = [x + Math.cos(heading) * 1.3, y + Math.sin(heading) * 1.3];
    }
  }
  for (const [x0, drift, from, to] of [
    [0.63, 0.02, 0.05, 0.58],
    [0.655, 0.015, 0.12, 0.3],
  ] as const) {
    for (let y = from * height; y < to * height; y += 0.8) {
      const t = y / height;
      if (noise(y / 40, x0 * 90) > -0.25)
        mark(width * (x0 + drift * t) + 1.5 * noise(y / 130, x0), y, 0.55, 0.84);
    }
  }
  return { codes: out, width, height };
}

/** The scan as a file with one grey channel. */
export async function asGreyJpeg(scan: {
  codes: Uint16Array;
  width: number;
  height: number;
}): Promise<Buffer> {
  const bytes = Uint8Array.from(scan.codes, code => Math.round(code / 257));
  return sharp(bytes, { raw: { width: scan.width, height: scan.height, channels: 1 } })
    .toColourspace('b-w')
    .jpeg({ quality: 84, mozjpeg: true })
    .toBuffer();
}
