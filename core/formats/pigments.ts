import { z } from 'zod';
import type { NamedPigment } from '../colour/pigments';
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

/** A name as a custom property's: small letters, digits and dashes. */
const propertyName = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '') || 'pigment';

/** As CSS custom properties: a flat pigment is a colour, a ramp a gradient from shadow to light; a depth is a number beside. */
export function writeCss(pigments: readonly NamedPigment[]): string {
  const taken = new Set<string>();
  const lines = pigments.flatMap(({ name, pigment, depth }) => {
    let property = propertyName(name);
    for (let n = 2; taken.has(property); n++) property = `${propertyName(name)}-${n}`;
    taken.add(property);
    const value =
      pigment.kind === 'flat'
        ? pigment.colour
        : `linear-gradient(90deg, ${[...pigment.stops]
            .sort((a, b) => a.at - b.at)
            .map(s => `${s.colour} ${Number((s.at * 100).toFixed(2))}%`)
            .join(', ')})`;
    const line = `  --pigment-${property}: ${value};`;
    return depth === 0 ? [line] : [line, `  --pigment-${property}-depth: ${depth};`];
  });
  return `:root {\n${lines.join('\n')}\n}\n`;
}

const titled = (property: string): string => {
  const plain = property.replace(/-/g, ' ').trim();
  return plain.charAt(0).toUpperCase() + plain.slice(1);
};

const hex = (colour: string): string => {
  const short = /^#([0-9a-f])([0-9a-f])([0-9a-f])$/i.exec(colour);
  return (
    short ? `#${short[1]}${short[1]}${short[2]}${short[2]}${short[3]}${short[3]}` : colour
  ).toLowerCase();
};

function readCss(text: string): NamedPigment[] {
  const found: NamedPigment[] = [];
  const depths = new Map<string, number>();
  for (const [, property, value] of text.matchAll(/--([\w-]+)\s*:\s*([^;}]+)[;}]/gu)) {
    const own = property.replace(/^pigment-/, '');
    const name = titled(own).slice(0, 60);
    const depth = Number(value.trim());
    if (own.endsWith('-depth') && depth >= -1 && depth <= 1)
      depths.set(titled(own.slice(0, -6)).slice(0, 60), depth);
    const flat = /^#(?:[0-9a-f]{3}|[0-9a-f]{6})$/i.exec(value.trim());
    if (flat) found.push({ name, depth: 0, pigment: { kind: 'flat', colour: hex(flat[0]) } });
    const ramp = /^linear-gradient\((?:[^#]*,)?\s*(#.*)\)$/i.exec(value.trim());
    if (!ramp) continue;
    const stops = [...ramp[1].matchAll(/(#(?:[0-9a-f]{6}|[0-9a-f]{3}))(?:\s+([\d.]+)%)?/gi)];
    if (stops.length < 2 || stops.length > 32) continue;
    found.push({
      name,
      depth: 0,
      pigment: {
        kind: 'ramp',
        stops: stops.map(([, colour, at], i) => ({
          at: Math.min(1, at === undefined ? i / (stops.length - 1) : Number(at) / 100),
          colour: hex(colour),
        })),
      },
    });
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
