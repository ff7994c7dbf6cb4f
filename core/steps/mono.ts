import { familyNames } from '../colour/hues';
import type { Triple } from '../colour/oklab';
import { luma } from '../colour/srgb';
import { defineStep } from './define';
import { familyZone } from './zones';
import { amount, choice, fraction, group, plain } from '../settings/fields';
import { localContrastMono } from './mono-local';
import { autoResponse } from './automatic/response';
import { familiesOf, pullResponse } from './pull';
import { calmField } from './calm';
import { luminance, response } from './response';

type Grey = (c: Triple) => number;

/** Each method that needs no more than the colour itself. */
function greyOf(s: {
  method: string;
  channels: { red: number; green: number; blue: number; constant: number };
  response: Record<(typeof familyNames)[number], number>;
}): Grey {
  switch (s.method) {
    case 'luma':
      return c => luma(c[0], c[1], c[2]);
    case 'average':
      return c => (c[0] + c[1] + c[2]) / 3;
    case 'lightness':
      return c => (Math.max(c[0], c[1], c[2]) + Math.min(c[0], c[1], c[2])) / 2;
    case 'channels': {
      const { red, green, blue, constant } = s.channels;
      return c => red * c[0] + green * c[1] + blue * c[2] + constant;
    }
    case 'response':
      return response(familyNames.map(f => s.response[f]));
    default:
      return luminance;
  }
}

/** The length of a radius from 0 to half the long edge. */
const radius = (): ReturnType<typeof plain> => ({ ...plain(0, 0.5, 0.1), unit: 'length' });

/** The conversion to black and white. */
export const mono = defineStep({
  kind: 'mono',
  stage: 'mono',
  face: 'hues',
  fields: {
    method: choice(
      ['luminance', 'luma', 'average', 'lightness', 'channels', 'response', 'local-contrast'],
      'luminance',
    ),
    channels: group(
      { red: plain(-2, 2, 0.4), green: plain(-2, 2, 0.4), blue: plain(-2, 2, 0.2), constant: plain(-2, 2) },
      { shownWhen: { field: 'method', is: 'channels' } },
    ),
    response: group(
      {
        red: amount(),
        orange: amount(),
        yellow: amount(),
        green: amount(),
        cyan: amount(),
        blue: amount(),
        purple: amount(),
        magenta: amount(),
      },
      { shownWhen: { field: 'method', is: 'response' }, layout: 'families' },
    ),
    local: group(
      { radius: radius(), amount: fraction(0.5), grain: fraction(0.3) },
      { shownWhen: { field: 'method', is: 'local-contrast' } },
    ),
  },
  whileHeld: (_settings, [first, family]) => {
    const zone = first === 'response' ? familyZone(family) : null;
    return zone && { zone };
  },
  automatic: {
    when: ({ method }) => method === 'response',
    find: codes => {
      const { response, said } = autoResponse(codes);
      return { settings: { response }, said };
    },
  },
  // A step with another method becomes a response, from rest or from where its was.
  pull: (settings, colour, by) => {
    const response = pullResponse(settings.response, colour, by);
    return {
      settings: { ...settings, method: 'response', response },
      families: familiesOf(colour).map(f => ({ ...f, value: response[f.family] })),
    };
  },
  leavesGrey: () => true,
  point: s => {
    const grey = greyOf(s);
    return c => {
      const v = grey(c);
      c[0] = v;
      c[1] = v;
      c[2] = v;
    };
  },
  prepares: s => (s.method === 'response' && Object.values(s.response).some(v => v !== 0) ? calmField : null),
  field: s => (s.method === 'local-contrast' ? localContrastMono(s.local) : null),
});
