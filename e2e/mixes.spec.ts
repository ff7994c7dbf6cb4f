import { mixer, mixNames, type Mix } from '../core/colour/mixes';
import { expect, test } from './app';

test('mixes are what the browser’s own canvas makes of the same colours', async ({ page, app }) => {
  await page.goto(app.url);
  const modes = mixNames.filter(m => m !== 'average' && m !== 'normal');
  let seed = 5;
  const next = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed >>> 24;
  };
  const pairs = Array.from({ length: 60 }, () => [
    [next(), next(), next()],
    [next(), next(), next()],
  ]);
  const drawn = await page.evaluate(
    ({ modes, pairs }) => {
      const context = new OffscreenCanvas(1, 1).getContext('2d')!;
      const fill = (c: number[]) => {
        context.fillStyle = `rgb(${c.join(' ')})`;
        context.fillRect(0, 0, 1, 1);
      };
      return modes.map(mode =>
        pairs.map(([beneath, own]) => {
          context.globalCompositeOperation = 'source-over';
          fill(beneath);
          context.globalCompositeOperation = mode as GlobalCompositeOperation;
          fill(own);
          return Array.from(context.getImageData(0, 0, 1, 1).data.slice(0, 3));
        }),
      );
    },
    { modes, pairs },
  );
  modes.forEach((mode, m) => {
    const mix = mixer(mode as Mix);
    pairs.forEach(([beneath, own], p) => {
      const result = Float64Array.from(own, v => v / 255);
      mix(
        Float64Array.from(beneath, v => v / 255),
        result,
      );
      for (let k = 0; k < 3; k++) {
        expect(
          Math.abs(result[k] * 255 - drawn[m][p][k]),
          `${mode} of ${own} on ${beneath}`,
        ).toBeLessThanOrEqual(2.01);
      }
    });
  });
});
