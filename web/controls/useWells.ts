import { useMemo } from 'react';
import { starterBox, type NamedPigment } from '../../core/colour/pigments';
import { usePigments } from '../app/queries';

/** The pigments of the box as single colours: of a ramp the middle one, under its name; equal colours once. */
export function useWells(): { name: string; colour: string }[] {
  const { data } = usePigments();
  return useMemo(() => {
    const all: NamedPigment[] = [...(data ?? []), ...starterBox];
    const wells = new Map<string, string>();
    for (const { name, pigment } of all) {
      const colour =
        pigment.kind === 'flat' ? pigment.colour : pigment.stops[Math.floor(pigment.stops.length / 2)].colour;
      if (!wells.has(colour)) wells.set(colour, name);
    }
    return [...wells].map(([colour, name]) => ({ name, colour }));
  }, [data]);
}
