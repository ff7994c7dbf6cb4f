import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { describe, expect, it } from 'vitest';
import { stepKind, stepKinds } from '../core/steps';
import { paint, rendered } from '../core/testing/pictures';
import { aboutStep } from '../words/told';
import { sampleOf } from './controls';
import { controlsPage, sampleTreatments } from './controls-page';

describe('the page "What each control does"', () => {
  it('is as the step kinds are now: `npm run controls` makes it anew', async () => {
    expect(await readFile('docs/controls.md', 'utf8')).toBe(controlsPage());
  });

  it.each(stepKinds.map(k => k.kind))(
    '%s has its sentence, its picture and a photograph of the demo',
    kind => {
      expect(aboutStep(kind)).toMatch(/^[A-Z].*\.$/);
      expect(aboutStep(kind).length).toBeLessThan(100);
      expect(existsSync(`docs/pictures/controls/${kind}.webp`)).toBe(true);
      expect(existsSync(`demo/photographs/${sampleOf(kind).photograph}`)).toBe(true);
    },
  );

  // Colours and tones of all kinds, and edges.
  const colours = (width: number, height: number) =>
    paint(width, height, (x, y) => [
      0.15 + 0.7 * x,
      0.2 + 0.6 * (Math.floor(y * 8) % 2 ? y : 1 - y),
      0.1 + 0.8 * Math.abs(Math.sin(7 * x + 3 * y)),
    ]);
  /** What is seen at natural size is smaller than a small picture shows. */
  const long = colours(2400, 24);
  const short = colours(96, 64);
  it.each(stepKinds.map(k => k.kind))(
    '%s: its three pictures differ, the middle one is as it is set out',
    kind => {
      const source = sampleOf(kind).natural ? long : short;
      const [low, usual, high] = sampleTreatments(kind).map(t => rendered(t, source, { pixels: 100 }).codes);
      const apart = (a: Uint16Array, b: Uint16Array) =>
        a.reduce((most, v, i) => Math.max(most, Math.abs(v - b[i])), 0) / 257;
      expect(apart(low, high)).toBeGreaterThan(4);
      expect(Math.max(apart(low, usual), apart(usual, high))).toBeGreaterThan(2);
      const { fields } = stepKind(kind)!;
      for (const settings of sampleOf(kind).settings) {
        for (const name of Object.keys(settings)) expect(fields).toHaveProperty(name);
      }
    },
  );
});
