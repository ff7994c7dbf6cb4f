import { useEffect, useMemo, useState } from 'react';
import type { Moves } from '../../core/analysis/moved';
import type { Treatment } from '../../core/treatment/schema';
import { smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';

/** How long a treatment must rest before it is said how it moved the picture. */
const REST_MS = 400;

/** How a picture moved from one treatment to another; null until that is known. */
export function useMoved(picture: PictureInfo, before: Treatment, after: Treatment): Moves | null {
  const [found, setFound] = useState<{ key: string; moves: Moves } | null>(null);
  const key = useMemo(() => JSON.stringify([before, after]), [before, after]);
  useEffect(() => {
    let isStale = false;
    const ask = async () => {
      const { engine } = await smallPictures();
      const moves = await engine.moves(picture, before, after);
      if (!isStale) setFound({ key, moves });
    };
    // What is said of a picture is a help: without it the picture speaks for itself.
    const timer = setTimeout(() => void ask().catch(() => undefined), REST_MS);
    return () => {
      isStale = true;
      clearTimeout(timer);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key is what both say
  }, [picture, key]);
  return found?.key === key ? found.moves : null;
}
