import type { Advice } from '../core/analysis/advice';

/** Every advice that the Bench gives, with a photograph of the demo and a treatment on whose last step it speaks. */
export interface AdviceSample {
  when: string;
  photograph: string;
  steps: object[];
}

const mono = { kind: 'mono' };

export const adviceSamples: Record<Advice['what'], AdviceSample> = {
  'solid-black': {
    when: 'A toner stands on a picture of which 4 % or more is solid black. It offers to lift the black.',
    photograph: 'lantern-store.jpg',
    steps: [
      mono,
      { kind: 'levels', settings: { inBlack: 0.2 } },
      { kind: 'split-tone', settings: { shadows: { hue: 20, saturation: 0.4 } } },
    ],
  },
  'clips-lights': {
    when: 'A step takes 1.5 % or more of the picture to pure white that was not.',
    photograph: 'weather-from-the-west.jpg',
    steps: [{ kind: 'light', settings: { exposure: 2 } }],
  },
  'does-nothing': {
    when: 'A step is set, and no pixel changes by more than one code: judged small, or at natural size on five places for what is seen there only.',
    photograph: 'four-sheds.jpg',
    steps: [mono, { kind: 'saturation', stage: 'tone', settings: { amount: 0.6 } }],
  },
  'weak-black': {
    when: 'The darkest stop of a gradient map is lighter than L* 22, in a mix that does not keep tones.',
    photograph: 'quinces-and-enamel-jug.jpg',
    steps: [
      {
        kind: 'gradient-map',
        settings: {
          stops: [
            { at: 0, colour: '#6a5846' },
            { at: 1, colour: '#f4ead6' },
          ],
        },
      },
    ],
  },
  'dark-end-lighter': {
    when: 'The dark end of a gradient is lighter than the stop after it, and the gradient is no negative.',
    photograph: 'quinces-and-enamel-jug.jpg',
    steps: [
      {
        kind: 'gradient-map',
        settings: {
          stops: [
            { at: 0, colour: '#4a4a4a' },
            { at: 0.3, colour: '#1a1410' },
            { at: 1, colour: '#f4ead6' },
          ],
        },
      },
    ],
  },
};

/** What is said elsewhere than of a step. */
const elsewhere = [
  ['A toned take is to go out in grey', 'Send out, beside the profile; it offers sRGB.'],
  ['The original is damaged', 'At the foot of the panel and on its label: what is wrong with the file.'],
];

export function advicePage(says: (what: Advice['what']) => string): string {
  const rows = Object.entries(adviceSamples).map(
    ([what, { when, photograph }]) => `| ${says(what as Advice['what'])} | ${when} | \`${photograph}\` |`,
  );
  return `${[
    '# Advice',
    '',
    'The foot of the panel always has the same height: it says what the chosen step is for, or one advice on it. Nothing is said of a',
    'step that is off, of one whose area is still empty, or while a control is held. An advice that is waved away stays away for the visit.',
    '',
    '| What is said | When | Speaks on |',
    '| --- | --- | --- |',
    ...rows,
    '',
    '| Elsewhere | Where |',
    '| --- | --- |',
    ...elsewhere.map(([what, where]) => `| ${what} | ${where} |`),
    '',
    'Each is tried on its photograph by `demo/advice.test.ts`, and every step of the demo’s takes is tried for advice that would be false.',
  ].join('\n')}\n`;
}
