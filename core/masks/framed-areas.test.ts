import { describe, expect, it } from 'vitest';
import { paint, read, rendered } from '../testing/pictures';
import { cropOfRatio, fullCrop, wholeCrop } from '../frame/crop';
import { wholeFrame, type Frame } from '../frame/frame';

/** An area lies on an object: a dark disc; after any frame what is tinted is what was the disc. */

const WIDTH = 360;
const HEIGHT = 240;
const RADIUS = 0.1;
const MIDDLE = [0.62, 0.4] as const;

const discAt = (width: number, height: number) =>
  paint(width, height, (x, y) => {
    const away = Math.hypot((x - MIDDLE[0]) * WIDTH, (y - MIDDLE[1]) * HEIGHT) / WIDTH;
    return away < RADIUS ? [0.2, 0.2, 0.2] : [0.8, 0.8, 0.8];
  });

const wash = {
  kind: 'wash',
  mix: 'normal',
  mask: 'disc',
  settings: { pigment: { kind: 'flat', colour: '#ff0000' } },
};
const masks = [
  { id: 'disc', parts: [{ kind: 'oval', centre: MIDDLE, radii: [RADIUS, RADIUS], feather: 0 }] },
];

/** How much of what is either disc or tint is both. */
function agreement(frame: Frame, width = WIDTH, height = HEIGHT): number {
  const source = discAt(width, height);
  const bare = rendered(read([], { frame }), source).codes;
  const tinted = rendered(read([wash], { frame, masks }), source).codes;
  let both = 0;
  let either = 0;
  for (let p = 0; p < bare.length; p += 3) {
    const isDisc = bare[p] < 32768;
    const isTint = tinted[p] > 32768 && tinted[p + 1] < 32768;
    if (isDisc && isTint) both++;
    if (isDisc || isTint) either++;
  }
  expect(either).toBeGreaterThan(200);
  return both / either;
}

const plain = wholeFrame();
const photograph = { width: WIDTH, height: HEIGHT };
const upright = { ...plain, keystone: { vertical: 0.5, horizontal: -0.2 } };
const frames: Record<string, Frame> = {
  'as photographed': plain,
  cropped: { ...plain, crop: { x: 0.35, y: 0.1, width: 0.5, height: 0.6 } },
  'turned once': { ...plain, quarterTurns: 1 },
  'turned twice and mirrored': { ...plain, quarterTurns: 2, mirror: true },
  'turned thrice': { ...plain, quarterTurns: 3 },
  mirrored: { ...plain, mirror: true },
  straightened: fullCrop(photograph, { ...plain, angle: 7 }),
  'made upright': fullCrop(photograph, upright),
  'all together': (() => {
    const turned: Frame = fullCrop(photograph, { ...upright, quarterTurns: 1, mirror: true, angle: -4 });
    return { ...turned, crop: cropOfRatio(photograph, { ...turned, crop: wholeCrop }, 0.9) };
  })(),
};

describe('an area through the frame', () => {
  for (const [name, frame] of Object.entries(frames)) {
    it(`stays on its object: ${name}`, () => expect(agreement(frame)).toBeGreaterThan(0.96));
  }

  it('stays on its object at every size', () => {
    for (const size of [1, 0.5, 2]) {
      expect(agreement(frames['all together'], WIDTH * size, HEIGHT * size)).toBeGreaterThan(0.95);
    }
  });
});
