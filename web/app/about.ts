import type { Kind } from '../../core/steps';
import { wordFor } from '../../words/words';

/** What each step is for, in one sentence that a printer would say; beside its controls and in the docs. */
const sentences: Partial<Record<Kind, string>> = {
  light: 'Exposure, contrast and the two ends of the scale: put right before anything else.',
  'white-balance': 'Makes neutral what should be neutral, so that each hue answers the conversion as itself.',
  'local-contrast': 'Brings detail up or calms it at three scales, without halos; takes haze off.',
  saturation: 'All colour stronger or weaker; what is strong already can be spared.',
  'colour-bands': 'One family of hues turned, strengthened or lightened, the others left alone.',
  inks: 'Cyan, magenta, yellow or black added to one range of tones or hues, as in a press.',
  'three-way-balance': 'A colour each for shadows, midtones and highlights, tones kept.',
  mono: 'Turns the picture to black and white; how each colour becomes a grey is the choice.',
  curve: 'Bends the tones: lift the blacks for a matte print, steepen the middle for punch.',
  levels: 'Where black and white lie, and how the middle falls between them.',
  tint: 'One hue over all tones, their lightness kept.',
  'split-tone': 'One hue for the shadows, another for the lights, tones kept.',
  baths: 'Toning baths in order: each turns silver that the ones before it left.',
  'gradient-map': 'Gives every tone a colour of its own, from the dark stop to the light.',
  filter: 'Coloured glass over the print: denser where it is denser, tones kept if wanted.',
  'colour-table': 'A table of colours as a toner, laid on at a strength, then quietened.',
  wash: 'Colour on an area; the shading and grain stay under it.',
  'keep-colour': 'The photograph’s own colour let through in an area.',
  'local-light': 'Dodging and burning, and contrast or colour, in an area or a range of tones.',
  glow: 'Light that spreads from the lights, and the warm ring of old film.',
  sharpen: 'Edges firmer on lightness alone; judged at natural size.',
  vignette: 'The corners darker or lighter, with the crop; lights can be spared.',
  grain: 'Grain that follows the tones, the same on screen and in the file.',
};

/** What a step of a kind is for; the kind's name where nobody has said it yet. */
export const aboutStep = (kind: Kind): string => sentences[kind] ?? `${wordFor(kind)}.`;
