import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { aboutWord } from '../../words/told';

/** What a word of the trade means, where the pointer rests on it: elements say it by `data-word`. The help lists all of them. */

const Card = styled.div`
  position: fixed;
  z-index: 40;
  width: max-content;
  max-width: 280px;
  padding: 6px 9px;
  background: var(--paper-high);
  border-radius: var(--r-label);
  box-shadow: var(--shade-float);
  line-height: 1.4;
  pointer-events: none;
  b {
    font-weight: 650;
  }
`;

const REST_MS = 350;
const MOST_WIDE = 288;
const GAP = 6;

interface Asked {
  word: string;
  left: number;
  /** From the top of the window, or from its foot where there is more room above. */
  top?: number;
  bottom?: number;
}

function placed(element: HTMLElement): Asked {
  const { left, top, bottom } = element.getBoundingClientRect();
  const at = {
    word: element.dataset.word!,
    left: Math.max(8, Math.min(left, window.innerWidth - MOST_WIDE)),
  };
  return bottom > window.innerHeight / 2
    ? { ...at, bottom: window.innerHeight - top + GAP }
    : { ...at, top: bottom + GAP };
}

export function WordTold() {
  const [asked, setAsked] = useState<Asked | null>(null);
  useEffect(() => {
    let timer = 0;
    const wordAt = (target: EventTarget | null) =>
      target instanceof Element ? target.closest<HTMLElement>('[data-word]') : null;
    const end = () => {
      clearTimeout(timer);
      setAsked(null);
    };
    const over = (event: PointerEvent) => {
      const element = wordAt(event.target);
      clearTimeout(timer);
      if (!element || event.buttons !== 0) return setAsked(null);
      timer = window.setTimeout(() => setAsked(placed(element)), REST_MS);
    };
    document.addEventListener('pointerover', over);
    document.addEventListener('pointerdown', end, true);
    document.addEventListener('keydown', end, true);
    return () => {
      end();
      document.removeEventListener('pointerover', over);
      document.removeEventListener('pointerdown', end, true);
      document.removeEventListener('keydown', end, true);
    };
  }, []);
  const sentence = asked && aboutWord(asked.word);
  if (!asked || !sentence) return null;
  const { word, ...place } = asked;
  return (
    <Card role="tooltip" data-word-told={word} style={place}>
      <b>{word}.</b> {sentence}
    </Card>
  );
}
