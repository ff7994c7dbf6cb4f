import { describe, expect, it } from 'vitest';
import type { PictureTool } from '../print/tool';
import { chooseTool, type Seen, type Waiting } from './picture-tool';

const tool = (name: string): PictureTool => ({ name, cursor: 'crosshair', press: () => null });
const names = ['framing', 'strip', 'picking', 'tinting', 'region', 'painting', 'pull'] as const;

/** Those that wait; tinting always does. */
const waiting = (...those: readonly (typeof names)[number][]): Waiting => {
  const of = (name: (typeof names)[number]) => (those.includes(name) ? tool(name) : null);
  return {
    framing: of('framing'),
    strip: of('strip'),
    picking: of('picking'),
    tinting: tool('tinting'),
    region: of('region'),
    painting: of('painting'),
    pull: of('pull'),
  };
};
const seen = (side: Seen['side'], more: Partial<Seen> = {}): Seen => ({
  side,
  isTreatedSeen: true,
  isOtherInPlace: false,
  ...more,
});

describe('what a press on the picture does', () => {
  const all = [...names];
  it.each([
    ['the chosen step is painted', ['painting', 'pull'], seen('step'), 'painting'],
    ['a step without an area is pulled', ['pull'], seen('step'), 'pull'],
    ['a step that cannot be pulled moves the picture', [], seen('step'), null],
    ['a region that is asked for comes before painting', ['region', 'painting'], seen('step'), 'region'],
    ['a colour that is asked for comes before a region', ['picking', 'region'], seen('step'), 'picking'],
    ['a test strip comes before all of a step', all, seen('step'), 'strip'],
    ['the bare picture is pulled as well', ['pull'], seen('step', { isTreatedSeen: false }), 'pull'],
    ['another take in its place is not worked on', ['pull'], seen('step', { isOtherInPlace: true }), null],
    ['in the frame only the frame is worked on', all, seen('frame'), 'framing'],
    ['in the frame without a line to draw the picture is moved', ['pull'], seen('frame'), null],
    ['pigments are laid', [], seen('tint'), 'tinting'],
    ['a pigment may be picked', ['picking'], seen('tint'), 'picking'],
    ['on the bare picture no pigment is laid', [], seen('tint', { isTreatedSeen: false }), null],
    ['a page of a method may ask for a colour', ['picking', 'pull'], seen('method'), 'picking'],
    ['the history works on nothing', ['picking', 'painting', 'pull'], seen('history'), null],
    ['what is being added works on nothing', ['painting'], seen('add'), null],
  ] as const)('%s', (_, those, at, expected) => {
    expect(chooseTool(waiting(...those), at)?.name ?? null).toBe(expected);
  });
});
