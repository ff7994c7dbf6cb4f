import { useEffect, useEffectEvent, useMemo, useState } from 'react';
import type { AreaTones } from '../../core/analysis/area-tones';
import { suggestPigments } from '../../core/analysis/suggested-pigments';
import { starterBox, type NamedPigment } from '../../core/colour/pigments';
import { areaOf } from '../../core/treatment/areas';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { usePalette, usePigments } from '../app/queries';
import { smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import { nameOfPigment } from '../../words/pigment-names';
import type { UsedPigment } from '../../core/treatment/palette';

/** Once an area has rested for so long it is looked at. */
const RESTS_MS = 350;

/** What a pigment of the series is called: as in the box, or after the first thing that it lies on. */
export const nameOfUsed = ({ pigment, areas }: UsedPigment): string =>
  nameOfPigment(pigment) ?? areas[0] ?? 'Pigment';

/** Six pigments that suit the area of a wash; none until it has been looked at, null where there is none. */
export function useSuggestions(
  picture: PictureInfo,
  treatment: Treatment,
  step: Step | undefined,
  seriesId: string | null,
): NamedPigment[] | null {
  const kept = usePigments();
  const palette = usePalette(seriesId);
  const wash = step?.kind === 'wash' && step.mask !== null ? step : undefined;
  const area = areaOf(treatment, wash?.mask ?? null);
  const isThere = area !== undefined && area.parts.length > 0;
  const [seen, setSeen] = useState<{ of: string; tones: AreaTones | null } | null>(null);
  const of = wash && isThere ? wash.id : null;
  const look = useEffectEvent(async (wash: string) => {
    const { engine } = await smallPictures();
    return engine.areaLook(picture, treatment, wash);
  });
  // What the pigment is does not change what it lies on: asked again only when the area does.
  useEffect(() => {
    if (of === null) return;
    let isStale = false;
    const timer = setTimeout(() => {
      void look(of).then(
        tones => !isStale && setSeen({ of, tones }),
        () => undefined,
      );
    }, RESTS_MS);
    return () => {
      isStale = true;
      clearTimeout(timer);
    };
  }, [of, area, picture]);
  const called = area?.name ?? '';
  const named = wash?.name ?? '';
  return useMemo(() => {
    if (of === null) return null;
    if (seen?.of !== of) return [];
    const box = [...(kept.data ?? []), ...starterBox];
    const used = (palette.data ?? []).map(each => ({ ...each, name: nameOfUsed(each) }));
    return suggestPigments(box, used, [called, named], seen.tones);
  }, [of, seen, kept.data, palette.data, called, named]);
}
