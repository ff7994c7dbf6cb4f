import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { photographs } from './scenes/photographs';
import { saltmarshFerry } from './series';

const folder = join(import.meta.dirname, 'photographs');

describe('the demo series', () => {
  it('has at least twelve photographs from eight scenes, three of them upright', () => {
    const hung = saltmarshFerry.pictures.map(p => p.file.replace('.jpg', ''));
    expect(hung.length).toBeGreaterThanOrEqual(12);
    const made = hung.map(name => photographs[name]);
    expect(new Set(made.map(p => p.scene)).size).toBeGreaterThanOrEqual(8);
    expect(made.filter(p => p.upright).length).toBeGreaterThanOrEqual(3);
  });
  it('leaves one bare, tones one apart, and has several takes for some', () => {
    const current = saltmarshFerry.pictures.map(p => p.takes.at(-1)!);
    expect(current.filter(t => t.treatment.steps.length === 0)).toHaveLength(1);
    expect(current.filter(t => t.name === 'Cold')).toHaveLength(1);
    expect(saltmarshFerry.pictures.filter(p => p.takes.length > 1).length).toBeGreaterThanOrEqual(4);
    expect(saltmarshFerry.pictures.some(p => p.title === saltmarshFerry.cover)).toBe(true);
  });
  it('consists of files of 2400 by 1600 below 1.5 MB, one a grey scan', async () => {
    for (const { file } of saltmarshFerry.pictures) {
      const path = join(folder, file);
      const { width, height, channels } = await sharp(path).metadata();
      expect([width, height].sort(), file).toEqual([1600, 2400]);
      expect(statSync(path).size, file).toBeLessThan(1_500_000);
      expect(channels, file).toBe(file === 'keepers-chair.jpg' ? 1 : 3);
    }
  });
  it('comes with a 16-bit TIFF below 4 MB', async () => {
    const tiffs = readdirSync(folder).filter(name => name.endsWith('.tif'));
    expect(tiffs).toHaveLength(1);
    const { depth, channels, hasProfile } = await sharp(join(folder, tiffs[0])).metadata();
    expect([depth, channels, hasProfile]).toEqual(['ushort', 3, true]);
    expect(statSync(join(folder, tiffs[0])).size).toBeLessThan(4_000_000);
  });
});
