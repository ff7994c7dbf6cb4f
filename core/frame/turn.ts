import type { Frame } from './frame';

/** A frame turned by a quarter as it is seen: crop, converging lines and mirroring go with the picture. */
export function turned(frame: Frame, to: 'left' | 'right'): Frame {
  const by = to === 'right' ? 1 : -1;
  const { x, y, width, height } = frame.crop;
  const { vertical, horizontal } = frame.keystone;
  return {
    ...frame,
    // The format mirrors after it turns: R M Rⁿ = M Rⁿ⁻¹.
    quarterTurns: (frame.quarterTurns + (frame.mirror ? -by : by) + 4) % 4,
    keystone: { horizontal: 0 - by * vertical, vertical: by * horizontal },
    crop:
      by > 0
        ? { x: Math.max(0, 1 - y - height), y: x, width: height, height: width }
        : { x: y, y: Math.max(0, 1 - x - width), width: height, height: width },
  };
}

/** A frame with left and right exchanged as it is seen. */
export function mirrored(frame: Frame): Frame {
  const { crop, keystone } = frame;
  return {
    ...frame,
    mirror: !frame.mirror,
    angle: 0 - frame.angle,
    keystone: { ...keystone, horizontal: 0 - keystone.horizontal },
    crop: { ...crop, x: Math.max(0, 1 - crop.x - crop.width) },
  };
}
