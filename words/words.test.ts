import { describe, expect, it } from 'vitest';
import { characterInWords } from './character';
import {
  countOf,
  dateInWords,
  numberInWords,
  sizeInWords,
  stepsInWords,
  whenInWords,
  wordFor,
  wordWithin,
} from './words';

describe('words', () => {
  it('name settings and kinds in the words of the trade', () => {
    expect(wordFor('split-tone')).toBe('Split tone');
    expect(wordFor('exposure')).toBe('Exposure');
    expect(wordFor('keepLightness')).toBe('Keep tones');
    expect(wordFor('outBlack')).toBe('Black out');
    expect(wordFor('someThing')).toBe('Some thing');
    expect(wordWithin('interpolation', 'srgb')).toBe('Plain');
    expect(wordWithin('method', 'luma')).toBe('Luma');
    expect(wordWithin('centre', 'y')).toBe('Down');
    expect(wordWithin('lights', 'y')).toBe('Yellow');
  });

  it('count', () => {
    expect(countOf(1, 'photograph')).toBe('One photograph');
    expect(countOf(9, 'photograph')).toBe('Nine photographs');
    expect(countOf(14, 'photograph')).toBe('14 photographs');
    expect(numberInWords(2)).toBe('two');
  });

  it('say what was done to a picture', () => {
    expect(stepsInWords([])).toBe('Bare');
    expect(stepsInWords(['light', 'mono', 'split-tone'])).toBe('Light, mono, split tone');
    expect(characterInWords(['light', 'mono', 'split-tone', 'wash', 'wash', 'grain'])).toBe(
      'Split tone, wash',
    );
    expect(characterInWords(['light', 'mono', 'grain'])).toBe('Light, mono, grain');
    expect(characterInWords([])).toBe('Bare');
  });

  it('say a camera’s clock as it was', () => {
    expect(dateInWords('2026-05-03T04:22:01')).toBe('3 May 2026, 04:22');
  });

  it('say sizes and times', () => {
    expect(sizeInWords(512)).toBe('512 B');
    expect(sizeInWords(44_100)).toBe('44 kB');
    expect(sizeInWords(2_140_000)).toBe('2.1 MB');
    expect(sizeInWords(300e6)).toBe('300 MB');
    const now = new Date('2026-11-24T18:00:00');
    expect(whenInWords(new Date('2026-11-24T17:20:00').toISOString(), now)).toBe('today, 17:20');
    expect(whenInWords(new Date('2026-11-23T08:05:00').toISOString(), now)).toBe('yesterday, 08:05');
    expect(whenInWords(new Date('2026-11-21T08:05:00').toISOString(), now)).toBe('Saturday');
    expect(whenInWords(new Date('2026-10-30T08:05:00').toISOString(), now)).toBe('30 October');
  });
});
