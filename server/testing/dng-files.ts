import { writeFileSync } from 'node:fs';
import { dng } from './dng';

/** Writes the raw files of `made/` into the folder it is run in (see made/make.sh): slopes of light, and fields of colour on them. */

const at = (x: number, y: number): readonly [number, number, number] => {
  const slope = 0.05 + (0.7 * x) / 96;
  if (x > 20 && x < 44 && y > 16 && y < 44) return [0.5, 0.08, 0.05];
  return [slope, slope * (0.6 + y / 200), slope * 0.5];
};
const size = { width: 96, height: 64, at };
writeFileSync('mosaic.dng', dng(size));
writeFileSync('turned.dng', dng({ ...size, orientation: 6 }));
writeFileSync('linear.dng', dng({ ...size, linear: true }));
