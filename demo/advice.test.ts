import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { adviceOn, judgedNatural, type Advice, type Seen } from '../core/analysis/advice';
import type { Tile } from '../core/frame/framing';
import { framedSize } from '../core/frame/geometry';
import { read, rendered } from '../core/testing/pictures';
import type { Treatment } from '../core/treatment/treatment';
import { adviceInWords } from '../web/panel/advice-words';
import { advicePage, adviceSamples } from './advice';
import { saltmarshFerry } from './series';

const photograph = async (file: string, longEdge: number | null): Promise<Tile> => {
  const image = sharp(`demo/photographs/${file}`).removeAlpha().toColourspace('srgb');
  const { data, info } = await (longEdge ? image.resize(longEdge) : image)
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { codes: new Uint8Array(data), width: info.width, height: info.height, x: 0, y: 0 };
};

const codesOf = (t: Treatment, tile: Tile, part?: { x: number; y: number; width: number; height: number }) =>
  Uint8Array.from(rendered(t, tile, { part, pixels: 1 }).codes, v => v / 257 + 0.5);

/** What is said of a step of a treatment, looked at as the Bench does. */
function said(treatment: Treatment, at: number, small: Tile, whole?: Tile): Advice[] {
  const upTo = (count: number) => ({ ...treatment, strength: 1, steps: treatment.steps.slice(0, count) });
  const seen = (tile: Tile, part?: { x: number; y: number; width: number; height: number }): Seen => ({
    before: codesOf(upTo(at), tile, part),
    after: codesOf(upTo(at + 1), tile, part),
    stride: 3,
  });
  const natural: Seen[] = [];
  if (whole && judgedNatural(treatment.steps[at])) {
    const size = framedSize(whole, treatment.frame);
    for (const [x, y] of [
      [0.3, 0.3],
      [0.5, 0.5],
      [0.7, 0.7],
    ]) {
      const part = { x: Math.round(x * size.width), y: Math.round(y * size.height), width: 48, height: 48 };
      natural.push(seen(whole, part));
    }
  }
  return adviceOn(treatment, treatment.steps[at].id, seen(small), natural);
}

describe('advice', () => {
  it.each(Object.keys(adviceSamples) as Advice['what'][])('%s speaks on its photograph', async what => {
    const { photograph: file, steps } = adviceSamples[what];
    const treatment = read(steps);
    const found = said(treatment, steps.length - 1, await photograph(file, 320));
    expect(found.map(a => a.what)).toContain(what);
  });

  it('is listed in the docs as it is given', async () => {
    const example: Record<Advice['what'], Advice> = {
      'solid-black': { what: 'solid-black', share: 0.08 },
      'clips-lights': { what: 'clips-lights', share: 0.05 },
      'does-nothing': { what: 'does-nothing' },
      'weak-black': { what: 'weak-black', lightness: 38 },
      'dark-end-lighter': { what: 'dark-end-lighter' },
    };
    const page = advicePage(what => adviceInWords(example[what], 'Light'));
    expect(await readFile('docs/advice.md', 'utf8')).toBe(page);
  });

  const current = saltmarshFerry.pictures.map(p => [p.title, p.file, p.takes.at(-1)!.treatment] as const);
  it.each(current)('%s: nothing false is said of the take that is seen first', async (_, file, treatment) => {
    const small = await photograph(file, 160);
    // At natural size the first screen that anyone sees: the whole photograph is looked at for it.
    const whole = file === saltmarshFerry.pictures[0].file ? await photograph(file, null) : undefined;
    treatment.steps.forEach((step, at) => {
      const what = said(treatment, at, small, whole).map(a => a.what);
      expect([step.kind, ...what]).not.toContain('does-nothing');
      expect([step.kind, ...what]).not.toContain('weak-black');
    });
  });
});
