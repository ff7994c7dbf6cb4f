import type { CarriedKind } from '../formats/carried';
import type { Reference } from '../settings/fields';
import type { Treatment } from './treatment';

/** Something that a treatment refers to, and the place where it does. */
export interface Carried {
  kind: CarriedKind;
  path: string;
  reference: Reference;
}

/** All that a treatment refers to, the same more than once where it does so more than once. */
export function carriedBy({ tables, masks }: Pick<Treatment, 'tables' | 'masks'>): Carried[] {
  return [
    ...Object.entries(tables).map(([id, reference]) => ({
      kind: 'table' as const,
      path: `tables.${id}`,
      reference,
    })),
    ...masks.flatMap((mask, i) =>
      mask.parts.flatMap((part, j) =>
        part.kind === 'picture'
          ? [{ kind: 'picture' as const, path: `masks[${i}].parts[${j}].png`, reference: part.png }]
          : [],
      ),
    ),
  ];
}
