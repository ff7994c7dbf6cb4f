import { z } from 'zod';
import type { NamedPigment } from '../colour/pigments';
import { cssGradient, propertyName, readCssGradient, sixDigits } from './gradients';
import { pigmentSchema } from '../settings/schema';

/** Pigment boxes as open files: JSON, and CSS custom properties. */

const FORMAT = 'lampwash-pigments';

export class PigmentsError extends Error {}

const boxSchema = z.strictObject({
  format: z.literal(FORMAT),
  version: z.literal(1),
  pigments: z
    .array(
      z.strictObject({
        name: z.string().trim().min(1).max(60),
        pigment: pigmentSchema,
        depth: z.number().min(-1).max(1).default(0),
      }),
    )
    .max(500),
});

export const writePigments = (pigments: readonly NamedPigment[]): string =>
  `${JSON.stringify({ format: FORMAT, version: 1, pigments: pigments.map(({ name, pigment, depth }) => ({ name, pigment, depth })) }, null, 2)}\n`;

/** As CSS custom properties: a flat pigment is a colour, a ramp a gradient from shadow to light; a depth is a number beside. */
export function writeCss(pigments: readonly NamedPigment[]): string {
  const taken = new Set<string>();
  const lines = pigments.flatMap(({ name, pigment, depth }) => {
    let property = propertyName(name, 'pigment');
    for (let n = 2; taken.has(property); n++) property = `${propertyName(name, 'pigment')}-${n}`;
    taken.add(property);
    const value = pigment.kind === 'flat' ? pigment.colour : cssGradient(pigment.stops, 'oklab');
    const line = `  --pigment-${property}: ${value};`;
    return depth === 0 ? [line] : [line, `  --pigment-${property}-depth: ${depth};`];
  });
  return `:root {\n${lines.join('\n')}\n}\n`;
}

const titled = (property: string): string => {
  const plain = property.replace(/-/g, ' ').trim();
  return plain.charAt(0).toUpperCase() + plain.slice(1);
};

function readCss(text: string): NamedPigment[] {
  const found: NamedPigment[] = [];
  const depths = new Map<string, number>();
  for (const [, property, value] of text.matchAll(/--([\w-]{1,200})\s{0,20}:\s{0,20}([^;}]{1,4096})[;}]/gu)) {
    const own = property.replace(/^pigment-/, '');
    const name = titled(own).slice(0, 60);
    const depth = Number(value.trim());
    if (own.endsWith('-depth') && depth >= -1 && depth <= 1)
      depths.set(titled(own.slice(0, -6)).slice(0, 60), depth);
    const flat = /^#(?:[0-9a-f]{3}|[0-9a-f]{6})$/i.exec(value.trim());
    if (flat) found.push({ name, depth: 0, pigment: { kind: 'flat', colour: sixDigits(flat[0]) } });
    const ramp = readCssGradient(value);
    if (ramp) found.push({ name, depth: 0, pigment: { kind: 'ramp', stops: ramp.stops } });
  }
  return found.map(p => ({ ...p, depth: depths.get(p.name) ?? 0 }));
}

/** Reads a box from JSON or CSS. Throws a PigmentsError that says what is wrong. */
export function readPigments(text: string): NamedPigment[] {
  if (text.trimStart().startsWith('{')) {
    let json: unknown;
    try {
      json = JSON.parse(text);
    } catch {
      throw new PigmentsError('the JSON is broken');
    }
    const read = boxSchema.safeParse(json);
    if (read.success) return read.data.pigments;
    const [issue] = read.error.issues;
    throw new PigmentsError(`${issue.path.join('.') || 'the file'}: ${issue.message}`);
  }
  const pigments = readCss(text);
  if (pigments.length === 0)
    throw new PigmentsError('no pigment is in it: neither JSON nor CSS custom properties');
  return pigments;
}
