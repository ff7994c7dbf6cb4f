import type { Fields, Stroke } from '../settings/fields';
import { kindOfPart, type MaskPart } from './parts';

/** Strokes of parts, whatever their kind calls them. */

/** The strokes of a part, by the names of its settings; nothing for what is not drawn. */
export function strokesOf(part: MaskPart): [setting: string, strokes: readonly Stroke[]][] {
  const fields: Fields = kindOfPart(part).fields;
  const settings = part as Readonly<Record<string, unknown>>;
  return Object.entries(fields)
    .filter(([, field]) => field.type === 'strokes')
    .map(([name]) => [name, settings[name] as readonly Stroke[]]);
}
