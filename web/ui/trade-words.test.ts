import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { stages } from '../../core/steps/define';
import { aboutWord, tradeWords } from '../../words/told';
import { wordFor } from '../../words/words';

/** Every file of the interface. */
const files = readdirSync('web', { recursive: true, encoding: 'utf8' })
  .filter(name => name.endsWith('.tsx'))
  .map(name => readFileSync(join('web', name), 'utf8'));

describe('words of the trade', () => {
  it('each have a sentence that stands by itself', () => {
    for (const [word, sentence] of tradeWords) {
      expect(sentence, word).toMatch(/^[A-Z].{15,}\.$/);
      expect(sentence.length, word).toBeLessThan(130);
    }
  });

  it('are told wherever a screen says that one stands there', () => {
    const named = files.flatMap(text => [...text.matchAll(/data-word="([^"]+)"/g)].map(([, word]) => word));
    expect(named.length).toBeGreaterThan(3);
    for (const word of named) expect(aboutWord(word), word).not.toBeNull();
    for (const stage of stages) expect(aboutWord(wordFor(stage)), stage).not.toBeNull();
    for (const word of ['Zone', 'L*', 'Hue', 'Chroma']) expect(aboutWord(word)).not.toBeNull();
    expect(aboutWord('Nothing of the kind')).toBeNull();
  });
});
