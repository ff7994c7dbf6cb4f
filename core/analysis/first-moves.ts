import { familyNames, FAMILIES, hueSixths, type Family } from '../colour/hues';
import { luma, toHex } from '../colour/srgb';
import { autoLight } from '../steps/automatic/light';
import { autoResponse } from '../steps/automatic/response';
import { parseTreatment, type Treatment } from '../treatment/schema';

/** What to begin with on a bare photograph: a few whole treatments, each set for this picture. */

export interface FirstMove {
  what: 'light' | 'conversion' | 'toned' | 'tinted';
  treatment: Treatment;
  /** The step to go on with. */
  step: string;
  /** What is tinted: the colour that the picture has most of; in a grey one its middle tones. */
  tinted: Family | 'middles' | null;
}

/** A pixel whose channels are nearer to one another has no colour to be named. */
const COLOURED = 0.12;
/** A colour on less of the picture than this is not what the picture is of. */
const LEAST_SHARE = 0.004;
/** Of a thing that is tinted: how vivid it must be, and how near to that a pixel is to belong to it. */
const LEAST_VIVID = 0.16;
const NEAR = 0.6;

export interface MainColour {
  family: Family;
  /** Its mean hue in degrees, as HSL has it. */
  hue: number;
  colour: string;
  /** Its largest less its smallest channel in the mean. */
  vivid: number;
}

/**
 * The colour that is noticed first in a picture, where its pixels are weighed by how vivid they are: vivid things come before large dull
 * ones. Null where it has none.
 */
export function mainColour(codes: ArrayLike<number>): MainColour | null {
  const sums = familyNames.map(() => ({ weight: 0, span: 0, count: 0, r: 0, g: 0, b: 0, x: 0, y: 0 }));
  const total = codes.length / 3;
  for (let i = 0; i < codes.length; i += 3) {
    const [r, g, b] = [codes[i] / 255, codes[i + 1] / 255, codes[i + 2] / 255];
    const most = Math.max(r, g, b);
    const span = most - Math.min(r, g, b);
    // In the darks colour is noise; what is nearly white has none to speak of.
    if (span < COLOURED || most < 0.15) continue;
    const hue = hueSixths(r, g, b, most, span) * 60;
    const away = (name: Family) => Math.abs(((hue - FAMILIES[name] + 540) % 360) - 180);
    const nearest = familyNames.reduce((best, name) => (away(name) < away(best) ? name : best));
    const sum = sums[familyNames.indexOf(nearest)];
    const weight = span;
    sum.weight += weight;
    sum.span += span * weight;
    sum.count++;
    sum.r += r * weight;
    sum.g += g * weight;
    sum.b += b * weight;
    sum.x += Math.cos((hue * Math.PI) / 180) * weight;
    sum.y += Math.sin((hue * Math.PI) / 180) * weight;
  }
  const vividOf = ({ span, weight }: { span: number; weight: number }) => span / weight;
  const noticed = (sum: (typeof sums)[number]) => vividOf(sum) ** 2 * Math.sqrt(sum.count);
  const enough = sums.filter(sum => sum.count > LEAST_SHARE * total && vividOf(sum) > LEAST_VIVID);
  if (!enough.length) return null;
  const sum = enough.reduce((best, each) => (noticed(each) > noticed(best) ? each : best));
  return {
    family: familyNames[sums.indexOf(sum)],
    hue: (Math.round((Math.atan2(sum.y, sum.x) * 180) / Math.PI) + 360) % 360,
    colour: toHex(sum.r / sum.weight, sum.g / sum.weight, sum.b / sum.weight),
    vivid: vividOf(sum),
  };
}

/** Sepia that leaves the darks neutral: less time where much of the picture is light, which turns first. */
const sepiaTime = (lights: number) => Math.round((0.55 - 0.3 * lights) * 100) / 100;

/**
 * What to begin with.
 * @param bare the photograph's treatment, of which the frame is kept
 * @param codes 8-bit RGB of the photograph, small
 * @param grey the photograph has no colour
 */
export function firstMoves(bare: Pick<Treatment, 'frame'>, codes: Uint8Array, grey: boolean): FirstMove[] {
  const { frame } = bare;
  const of = (steps: object[], masks: object[] = []): Treatment =>
    parseTreatment({ format: 'lampwash-treatment', version: 1, frame, steps, masks });
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
  const main = grey ? null : mainColour(codes);
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
        treatment: of([{ id: 'light', kind: 'light', settings: autoLight(codes) }]),
        step: 'light',
        tinted: null,
      }
    : { what: 'conversion', treatment: of([mono]), step: 'mono', tinted: null };
  return [
    first,
    {
      what: 'toned',
      treatment: of([...begun, { id: 'baths', kind: 'baths', settings: { baths } }]),
      step: 'baths',
      tinted: null,
    },
    {
      what: 'tinted',
      treatment: of([...begun, wash], [area]),
      step: 'wash',
      tinted: main?.family ?? 'middles',
    },
  ];
}
