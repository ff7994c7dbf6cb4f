import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { isKey, keys, keysTable, type Key } from './keys';

const plain = { ctrlKey: false, metaKey: false, altKey: false, shiftKey: false };

describe('the list of keys', () => {
  it('is what the README shows', () => {
    expect(readFileSync('README.md', 'utf8')).toContain(keysTable());
  });

  it('tells keys by letter without case, and by what is held with them', () => {
    expect(isKey('bare', { ...plain, key: 'b' })).toBe(true);
    expect(isKey('bare', { ...plain, key: 'B', ctrlKey: true })).toBe(false);
    expect(isKey('undo', { ...plain, key: 'z', ctrlKey: true })).toBe(true);
    expect(isKey('undo', { ...plain, key: 'z', metaKey: true })).toBe(true);
    expect(isKey('undo', { ...plain, key: 'Z', ctrlKey: true, shiftKey: true })).toBe(false);
    expect(isKey('redo', { ...plain, key: 'Z', ctrlKey: true, shiftKey: true })).toBe(true);
    expect(isKey('zoomIn', { ...plain, key: '+', shiftKey: true })).toBe(true);
    expect(isKey('help', { ...plain, key: '?', shiftKey: true })).toBe(true);
    expect(isKey('pigment', { ...plain, key: '7' })).toBe(true);
    expect(isKey('pigment', { ...plain, key: '0' })).toBe(false);
  });

  it('gives no press two meanings in one place', () => {
    const taken = new Set<string>();
    for (const { where, press = [] } of Object.values<Key>(keys)) {
      for (const each of press) {
        expect(taken).not.toContain(`${where} ${each}`);
        taken.add(`${where} ${each}`);
      }
    }
  });
});
