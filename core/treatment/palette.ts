import type { NamedPigment, Pigment } from '../colour/pigments';
import { areaOf } from './areas';
import type { Step, Treatment } from './treatment';
import { washesOf } from './tinting';

/** The pigments that photographs of a series use, so that one thing keeps its colour through all of them. */
export interface UsedPigment {
  pigment: Pigment;
  depth: number;
  /** The names of the areas that it lies on, each once. */
  areas: string[];
  /** In how many photographs. */
  photographs: number;
}

/** What a pigment is known by, however it is called. */
export const pigmentKey = ({ pigment, depth }: Pick<NamedPigment, 'pigment' | 'depth'>): string =>
  JSON.stringify([
    depth,
    pigment.kind === 'flat' ? pigment.colour : pigment.stops.map(({ at, colour }) => [at, colour]),
  ]);

/** The pigments of the washes of treatments that are switched on, those of most photographs first. */
export function paletteOf(treatments: readonly Treatment[]): UsedPigment[] {
  const used = new Map<string, UsedPigment>();
  for (const treatment of treatments) {
    const here = new Set<string>();
    for (const step of washesOf(treatment)) {
      if (!step.enabled) continue;
      const { pigment, depth } = (step as Step<'wash'>).settings;
      const key = pigmentKey({ pigment, depth });
      const known = used.get(key) ?? { pigment, depth, areas: [], photographs: 0 };
      const name = areaOf(treatment, step.mask)?.name;
      if (name && !known.areas.includes(name)) known.areas.push(name);
      if (!here.has(key)) known.photographs++;
      here.add(key);
      used.set(key, known);
    }
  }
  return [...used.values()].sort((p, q) => q.photographs - p.photographs);
}
