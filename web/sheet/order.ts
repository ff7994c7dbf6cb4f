import { toneZones, type Measures } from '../../core/analysis/evenness';
import type { Photograph } from '../../contract/photographs';
import { currentTake } from '../app/api';

/** In which order a series is looked at, and which of it. The order by hand is that in which it hangs. */

export const orders = ['hung', 'name', 'taken', 'dark', 'warm'] as const;
export type Order = (typeof orders)[number];
export const orderWords: Record<Order, string> = {
  hung: 'As hung',
  name: 'By name',
  taken: 'By date taken',
  dark: 'Dark to light',
  warm: 'Warm to cool',
};

export const filters = ['all', 'treated', 'bare', 'fallen', 'damaged'] as const;
export type Filter = (typeof filters)[number];
export const filterWords: Record<Filter, string> = {
  all: 'All',
  treated: 'Treated',
  bare: 'Bare',
  fallen: 'Fallen out',
  damaged: 'Damaged',
};

/** What is known of a photograph beside itself: its tone, and whether it falls out of the series. */
export interface Told {
  measures: Measures | null;
  isFallen: boolean;
}

const byName = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** How warm a picture is on the whole: the mean b* of its zones. */
function warmth({ zones }: Measures): number | null {
  const there = toneZones.flatMap(zone => zones[zone]?.b ?? []);
  return there.length ? there.reduce((sum, b) => sum + b, 0) / there.length : null;
}

/** What photographs are ordered by; null for one that goes to the end. */
const values: Record<
  Exclude<Order, 'hung' | 'name'>,
  (p: Photograph, told: Told | undefined) => string | number | null
> = {
  taken: p => p.taken,
  dark: (_, told) => told?.measures?.key ?? null,
  warm: (_, told) => {
    const warm = told?.measures ? warmth(told.measures) : null;
    return warm === null ? null : -warm;
  },
};

/** Photographs in an order; those that it says nothing of come last, and equal ones stay as they hang. */
export function inOrder(
  photographs: readonly Photograph[],
  order: Order,
  told: ReadonlyMap<string, Told>,
): Photograph[] {
  if (order === 'hung') return [...photographs];
  if (order === 'name') return photographs.toSorted((a, b) => byName.compare(a.title, b.title));
  const of = new Map(photographs.map(p => [p, values[order](p, told.get(p.id))]));
  return photographs.toSorted((a, b) => {
    const [x, y] = [of.get(a)!, of.get(b)!];
    if (x === null || y === null) return Number(x === null) - Number(y === null);
    return x < y ? -1 : Number(x > y);
  });
}

const shows: Record<Filter, (p: Photograph, told: Told | undefined) => boolean> = {
  all: () => true,
  treated: p => currentTake(p).steps.length > 0,
  bare: p => currentTake(p).steps.length === 0,
  fallen: (_, told) => told?.isFallen ?? false,
  damaged: p => p.damage !== null,
};

/** The photographs that a filter shows. */
export const shown = (
  photographs: readonly Photograph[],
  filter: Filter,
  told: ReadonlyMap<string, Told>,
): Photograph[] => photographs.filter(p => shows[filter](p, told.get(p.id)));
