import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apart, layLayer, layPicture, writeRgba } from '../kernels/layer-codes';
import { anyTreatment, unit } from '../testing/arbitraries';
import { picture, read, rendered } from '../testing/pictures';
import type { Treatment } from '../treatment/treatment';
import { layersOf, type PictureLayer } from './layers';

/** Layers put together are the picture that the treatment makes. */

const source = picture(40, 28);
const to8 = ({ codes }: { codes: Uint16Array }) => Uint8Array.from(codes, v => Math.round(v / 257));
const render8 = (t: Treatment) => to8(rendered(t, source, { pixels: 100 }));

/** Lays a layer on what is there. */
function lay(on: Uint16Array, { colours, cover, mode, opacity }: PictureLayer): void {
  const count = on.length / 3;
  const rgba = new Uint8Array(count * 4);
  writeRgba(render8(colours), cover && render8(cover), count, rgba);
  layLayer(on, rgba, count, mode, opacity);
}

function putTogether(treatment: Treatment): Uint16Array {
  const { bare, strength, above } = layersOf(treatment);
  const start = (): Uint16Array =>
    new Uint16Array(rendered(bare.colours, source, { pixels: 100 }).codes.length);
  const all = start();
  lay(all, bare);
  // By themselves: what is not covered by any of them stays black, and would be seen.
  const upon = strength < 1 ? start() : all;
  for (const layer of above) {
    if (layer.type === 'picture') lay(upon, layer);
    else {
      const within = start();
      for (const each of layer.layers) lay(within, each);
      layPicture(upon, within, layer.opacity);
    }
  }
  if (upon !== all) layPicture(all, upon, strength);
  return all;
}

/** How far it is off, in 255ths. */
function off(treatment: Treatment) {
  const together = putTogether(treatment);
  const { sum, most } = apart(together, render8(treatment));
  return { mean: sum / together.length, most };
}

const masks = [
  { id: 'm', parts: [{ kind: 'oval', radii: [0.3, 0.2], feather: 0.3 }] },
  { id: 'lights', parts: [{ kind: 'tones', range: [0.4, 0.6, 1, 1] }] },
];
const pigment = { kind: 'flat', colour: '#8c3f2c' };
const base = [{ kind: 'mono' }, { kind: 'split-tone', settings: { shadows: { hue: 220, saturation: 0.6 } } }];
const tinted = [
  ...base,
  { id: 'a', kind: 'wash', mask: 'm', settings: { pigment } },
  { id: 'b', kind: 'wash', mask: 'lights', mix: 'multiply', strength: 0.6, settings: { pigment } },
  { id: 'c', kind: 'wash', mask: 'm', mix: 'soft-light', settings: { pigment, depth: 0.5 } },
];

describe('the layers of a treatment', () => {
  it('are the bare photograph, all that is done to the whole of it, and each wash with its area and its mix', () => {
    const { bare, strength, above } = layersOf(read(tinted, { masks }));
    expect(bare.colours.steps).toEqual([]);
    expect(strength).toBe(1);
    const told = above.map(l =>
      l.type === 'picture' ? [l.steps.length, l.mode, l.opacity, l.cover !== null] : 0,
    );
    expect(told).toEqual([
      [2, 'normal', 1, false],
      [1, 'color', 1, true],
      [1, 'multiply', 0.6, true],
      // A dye is more than a mix: its layer holds what it makes.
      [1, 'normal', 1, true],
    ]);
  });

  it('keep the mix of a wash only where nothing but the mix lays it on', () => {
    const modes = (wash: object) =>
      layersOf(read([{ kind: 'wash', settings: { pigment }, ...wash }])).above.map(
        l => l.type === 'picture' && l.mode,
      );
    expect(modes({ mix: 'luminosity' })).toEqual(['luminosity']);
    expect(modes({ mix: 'difference' })).toEqual(['normal']);
    expect(modes({ mix: 'screen', reach: { own: [0, 0, 1, 1], beneath: [0, 0, 0.5, 0.8] } })).toEqual([
      'normal',
    ]);
  });

  it('finish in one layer, and put a group in part in a group', () => {
    const steps = [
      ...base,
      { kind: 'wash', mask: 'm', group: 'g', settings: { pigment } },
      { kind: 'grain', settings: { amount: 0.4 } },
      { kind: 'vignette', settings: { amount: -0.5 } },
    ];
    const treatment = read(steps, { masks, groups: [{ id: 'g', name: 'Boat', strength: 0.5 }] });
    const { above } = layersOf(treatment);
    expect(above.map(l => [l.type, l.steps.length])).toEqual([
      ['picture', 2],
      ['group', 1],
      ['picture', 2],
    ]);
    expect(off(treatment).mean).toBeLessThan(0.5);
  });

  it('of a bare photograph are that alone', () => {
    expect(layersOf(read([])).above).toEqual([]);
    expect(layersOf(read(tinted, { masks, strength: 0 })).above).toEqual([]);
  });

  it('put together are the picture, at every strength', () => {
    fc.assert(
      fc.property(unit, strength => {
        const { mean, most } = off(read(tinted, { masks, strength }));
        expect(mean).toBeLessThan(0.5);
        expect(most).toBeLessThan(4);
      }),
      { numRuns: 15 },
    );
  });

  it('put together are nearly the picture whatever the treatment', () => {
    fc.assert(
      fc.property(anyTreatment({ most: 6 }), treatment => {
        expect(off({ ...treatment, frame: read([]).frame }).mean).toBeLessThan(4);
      }),
      { numRuns: 150 },
    );
  });
});
