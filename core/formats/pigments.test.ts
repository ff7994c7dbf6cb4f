import { parse } from 'culori';
import { describe, expect, it } from 'vitest';
import { luma, parseHex } from '../colour/srgb';
import { starterBox } from '../colour/pigments';
import { PigmentsError, readPigments, writeCss, writePigments } from './pigments';

describe('pigment boxes as files', () => {
  it('come back from JSON as they were', () => {
    expect(readPigments(writePigments(starterBox))).toEqual(starterBox);
  });
  it('are CSS custom properties that a browser reads, and come back', () => {
    const css = writeCss(starterBox);
    expect(css).toMatch(/^:root \{\n/);
    expect(css).toContain('--pigment-oxide: #8c3f2c;');
    expect(css).toMatch(
      /--pigment-skin-fair: linear-gradient\(90deg in oklab, #5c2f2a 8%, #c28b74 50%, #f3dccb 92%\);/,
    );
    for (const [colour] of css.matchAll(/#[0-9a-f]{6}/g)) expect(parse(colour)).toBeTruthy();
    const back = readPigments(css);
    expect(back.map(p => [p.pigment, p.depth])).toEqual(starterBox.map(p => [p.pigment, p.depth]));
    expect(back[4].name).toBe('Lips');
  });
  it('keep names apart that would be one property', () => {
    const css = writeCss([
      { name: 'Sea, deep', pigment: { kind: 'flat', colour: '#102030' }, depth: 0.5 },
      { name: 'sea deep', pigment: { kind: 'flat', colour: '#203040' }, depth: 0 },
      { name: '}', pigment: { kind: 'flat', colour: '#304050' }, depth: -1 },
    ]);
    expect(css).toContain('--pigment-sea-deep: #102030;');
    expect(css).toContain('--pigment-sea-deep-2: #203040;');
    expect(css).toContain('--pigment-pigment: #304050;');
    expect(css).toContain('--pigment-sea-deep-depth: 0.5;');
    expect(readPigments(css).map(p => p.depth)).toEqual([0.5, 0, -1]);
  });
  it('from other hands are read where they hold colours, and refused by what is wrong', () => {
    expect(readPigments(':root{--Tar:#222;--space: 4px; --x: rgb(1 2 3)}')).toEqual([
      { name: 'Tar', pigment: { kind: 'flat', colour: '#222222' }, depth: 0 },
    ]);
    expect(() => readPigments('{"format":"other"}')).toThrow(PigmentsError);
    expect(() => readPigments('{')).toThrow(/broken/);
    expect(() => readPigments('')).toThrow(/no pigment/);
    const bad = writePigments(starterBox).replace('#8c3f2c', 'rust');
    expect(() => readPigments(bad)).toThrow(/pigments\.\d+\.pigment/);
  });
});

describe('the starter box', () => {
  it('has ramps that rise with the tones, and names of its own', () => {
    expect(new Set(starterBox.map(p => p.name)).size).toBe(starterBox.length);
    for (const { pigment } of starterBox) {
      if (pigment.kind === 'flat') continue;
      const tones = pigment.stops.map(s => luma(...parseHex(s.colour)));
      expect(tones).toEqual([...tones].sort((a, b) => a - b));
    }
  });
});

it('never hangs on text that was made to be hard to read', () => {
  for (const text of ['-'.repeat(100_000), '--a:'.repeat(20_000), `--a${' '.repeat(100_000)}`])
    expect(() => readPigments(text)).toThrow(PigmentsError);
});
