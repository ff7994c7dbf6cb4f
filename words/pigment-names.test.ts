import { describe, expect, it } from 'vitest';
import { starterBox } from '../core/colour/pigments';
import { atVividness, vividnessOf } from '../core/colour/vividness';
import { nameOfPigment } from './pigment-names';

describe('the name of a pigment', () => {
  it('is its own, for each of the starter box', () => {
    for (const { pigment, name } of starterBox) expect(nameOfPigment(pigment)).toBe(name);
  });

  it('stays when it is made paler or more vivid', () => {
    const vivid = starterBox.filter(({ pigment }) => vividnessOf(pigment) > 0.2);
    expect(vivid.length).toBeGreaterThan(3);
    const wrong = vivid.flatMap(({ pigment, name }) =>
      [0.6, 0.8, 1.2].flatMap(times => {
        const found = nameOfPigment(atVividness(pigment, Math.min(1, vividnessOf(pigment) * times)));
        return found === name ? [] : [`${name} at ${times}: ${found}`];
      }),
    );
    expect(wrong).toEqual([]);
  });

  it('is none of a colour that is another one', () => {
    expect(nameOfPigment({ kind: 'flat', colour: '#00ff7f' })).toBeUndefined();
    expect(nameOfPigment({ kind: 'flat', colour: '#808080' })).toBeUndefined();
  });
});
