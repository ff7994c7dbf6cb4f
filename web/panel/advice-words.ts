import type { Advice } from '../../core/analysis/advice';

const percent = (share: number) => `${Math.max(1, Math.round(share * 100))} %`;

/** An advice in one sentence. */
export function adviceInWords(advice: Advice, step: string): string {
  switch (advice.what) {
    case 'solid-black':
      return `${percent(advice.share)} of the picture is solid black, which takes no tone.`;
    case 'clips-lights':
      return `${step} turns ${percent(advice.share)} of the picture pure white.`;
    case 'does-nothing':
      return `${step} changes nothing in this picture.`;
    case 'weak-black':
      return `The darkest stop is at L* ${advice.lightness}: the picture has no black, and looks flat.`;
    case 'dark-end-lighter':
      return 'The dark end is lighter than the stop after it: the deepest tones turn round.';
  }
}
