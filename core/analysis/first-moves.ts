import type { Family } from '../colour/hues';
import { luma } from '../colour/srgb';
import { autoLight } from '../steps/automatic/light';
import { autoResponse } from '../steps/automatic/response';
import { COLOURED, coloursOf, isGrey, NEAR, type Pixels } from './reading';
import { FORMAT, VERSION, type Treatment } from '../treatment/treatment';

/** What to begin with on a bare photograph: a few whole treatments, each set for this picture. */

export interface FirstMove {
  what: 'light' | 'conversion' | 'toned' | 'tinted';
  /** A treatment as a file has it: to be read like one. */
  written: object;
  /** The step to go on with. */
  step: string;
  /** What is tinted: the colour that the picture has most of; in a grey one its middle tones. */
  tinted: Family | 'middles' | null;
}

/** Sepia that leaves the darks neutral: less time where much of the picture is light, which turns first. */
const sepiaTime = (lights: number) => Math.round((0.55 - 0.3 * lights) * 100) / 100;

/**
 * What to begin with; a picture without colour is not converted.
 * @param bare the photograph's treatment, of which the frame is kept
 * @param pixels of the photograph, small
 */
export function firstMoves(bare: Pick<Treatment, 'frame'>, pixels: Pixels): FirstMove[] {
  const { frame } = bare;
  const { codes } = pixels;
  const grey = isGrey(pixels);
  const of = (steps: object[], masks: object[] = []): object => ({
    format: FORMAT,
    version: VERSION,
    frame,
    steps,
    masks,
  });
  const { response } = grey ? { response: null } : autoResponse(codes);
  const parts = response && Object.values(response).some(v => v !== 0);
  const mono = parts
    ? { id: 'mono', kind: 'mono', settings: { method: 'response', response } }
    : { id: 'mono', kind: 'mono', settings: { method: 'luminance' } };
  const begun = grey ? [] : [mono];
  let light = 0;
  for (let i = 0; i < codes.length; i += 3) if (luma(codes[i], codes[i + 1], codes[i + 2]) > 153) light++;
  const baths = [
    {
      toner: 'sepia',
      time: sepiaTime(light / Math.max(1, codes.length / 3)),
      start: 'highlights',
      contrast: 0,
    },
    { toner: 'selenium', time: 0.3, start: 'shadows', contrast: 0 },
  ];
  const main = grey ? undefined : coloursOf(pixels)[0];
  const part = main
    ? {
        kind: 'hues',
        centre: main.hue,
        width: 50,
        softness: 0.5,
        colour: Math.max(COLOURED, NEAR * main.vivid),
      }
    : { kind: 'tones', range: [0.25, 0.4, 0.75, 0.92] };
  const area = { id: 'thing', name: main ? `The ${main.family}` : 'Middle tones', parts: [part] };
  const wash = {
    id: 'wash',
    kind: 'wash',
    mask: 'thing',
    strength: main ? 1 : 0.3,
    settings: { pigment: { kind: 'flat', colour: main?.colour ?? '#b5793c' } },
  };
  const first: FirstMove = grey
    ? {
        what: 'light',
        written: of([{ id: 'light', kind: 'light', settings: autoLight(codes) }]),
        step: 'light',
        tinted: null,
      }
    : { what: 'conversion', written: of([mono]), step: 'mono', tinted: null };
  return [
    first,
    {
      what: 'toned',
      written: of([...begun, { id: 'baths', kind: 'baths', settings: { baths } }]),
      step: 'baths',
      tinted: null,
    },
    {
      what: 'tinted',
      written: of([...begun, wash], [area]),
      step: 'wash',
      tinted: main?.family ?? 'middles',
    },
  ];
}
