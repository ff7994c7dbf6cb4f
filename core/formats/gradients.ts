import { z } from 'zod';
import { interpolations, type Interpolation, type Stop } from '../colour/gradient';
import { stopsSchema } from '../settings/schema';

/** Gradients as open files: JSON, and CSS. */

const FORMAT = 'lampwash-gradient';

export interface Gradient {
  name: string;
  interpolation: Interpolation;
  stops: Stop[];
}

/** What is wrong with the text of a gradient. */
export class GradientError extends Error {}

const gradientSchema = z.strictObject({
  format: z.literal(FORMAT),
  version: z.literal(1),
  name: z.string().trim().max(60).default(''),
  interpolation: z.enum(interpolations).default('srgb'),
  stops: stopsSchema,
});

export const writeGradient = ({ name, interpolation, stops }: Gradient): string =>
  `${JSON.stringify({ format: FORMAT, version: 1, name, interpolation, stops }, null, 2)}\n`;

/** A name as that of a custom property: small letters, digits and dashes. */
export const propertyName = (name: string, otherwise: string): string =>
  name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '') || otherwise;

/** In what CSS goes from stop to stop. Source: CSS Color 4, section 12.1; plain is what it does unless it is told. */
const spaces: Record<Interpolation, string> = { srgb: '', linear: ' in srgb-linear', oklab: ' in oklab' };

/** Stops as a gradient of CSS, from shadow to light; of stops at one place the later wins from there on, there as here. */
export function cssGradient(stops: readonly Stop[], interpolation: Interpolation): string {
  const sorted = stops.toSorted((a, b) => a.at - b.at);
  const listed = sorted.map(s => `${s.colour} ${Number((s.at * 100).toFixed(2))}%`).join(', ');
  return `linear-gradient(90deg${spaces[interpolation]}, ${listed})`;
}

/** A gradient as CSS: a custom property. */
export const writeGradientCss = ({ name, interpolation, stops }: Gradient): string =>
  `:root {\n  --gradient-${propertyName(name, 'tones')}: ${cssGradient(stops, interpolation)};\n}\n`;

/** A colour as six digits. */
export const sixDigits = (colour: string): string =>
  colour.toLowerCase().replace(/^#([0-9a-f])([0-9a-f])([0-9a-f])$/, '#$1$1$2$2$3$3');

/** The text of no gradient is longer. */
const LONGEST = 4096;

/** Reads a gradient of CSS whose colours are hexadecimal; null where it is none. */
export function readCssGradient(value: string): Pick<Gradient, 'interpolation' | 'stops'> | null {
  const text = value.trim();
  if (text.length > LONGEST || !/^linear-gradient\(/i.test(text) || !text.endsWith(')')) return null;
  const first = text.indexOf('#');
  if (first < 0) return null;
  const [how, listed] = [text.slice(0, first), text.slice(first, -1)];
  const colours = [...listed.matchAll(/(#(?:[0-9a-f]{6}|[0-9a-f]{3}))(?:\s+([\d.]+)%)?/gi)];
  if (colours.length < 2 || colours.length > 32) return null;
  const stops = colours.map(([, colour, at], i) => ({
    at: Math.min(1, at === undefined ? i / (colours.length - 1) : Number(at) / 100),
    colour: sixDigits(colour),
  }));
  const interpolation = /\bin\s+oklab\b/i.test(how)
    ? 'oklab'
    : /\bin\s+srgb-linear\b/i.test(how)
      ? 'linear'
      : 'srgb';
  return { interpolation, stops };
}

/** Reads a gradient from JSON or CSS: the first that is in it. Throws a GradientError that says what is wrong. */
export function readGradient(text: string): Gradient {
  if (text.trimStart().startsWith('{')) {
    let json: unknown;
    try {
      json = JSON.parse(text);
    } catch {
      throw new GradientError('the JSON is broken');
    }
    const read = gradientSchema.safeParse(json);
    if (read.success) {
      const { name, interpolation, stops } = read.data;
      return { name, interpolation, stops };
    }
    const [issue] = read.error.issues;
    throw new GradientError(`${issue.path.join('.') || 'the file'}: ${issue.message}`);
  }
  for (let from = text.search(/linear-gradient\(/i); from >= 0;) {
    const to = text.indexOf(')', from);
    if (to < 0) break;
    const read = readCssGradient(text.slice(from, to + 1));
    if (read) {
      const [, property = ''] =
        /--([\w-]{1,60})\s{0,9}:\s{0,9}$/u.exec(text.slice(Math.max(0, from - 90), from)) ?? [];
      return { name: property.replace(/^gradient-/, ''), ...read };
    }
    const next = text.slice(to).search(/linear-gradient\(/i);
    from = next < 0 ? next : to + next;
  }
  throw new GradientError('no gradient is in it: neither JSON nor a linear-gradient of CSS');
}
