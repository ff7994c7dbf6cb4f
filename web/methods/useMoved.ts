import { useEffect, useMemo, useState } from 'react';
import type { Moves } from '../../core/analysis/moved';
import type { Treatment } from '../../core/treatment/treatment';
import { smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import { useSame } from '../app/useSame';

/** How long a treatment must rest before it is said how it moved the picture. */
const REST_MS = 400;

/** How a picture moved from one treatment to another; null until that is known. */
export function useMoved(picture: PictureInfo, before: Treatment, after: Treatment): Moves | null {
  const [found, setFound] = useState<{ key: string; moves: Moves } | null>(null);
  const key = useMemo(() => JSON.stringify([before, after]), [before, after]);
  const [from, to] = useSame([before, after], key);
  useEffect(() => {
    let isStale = false;
    const ask = async () => {
      const { engine } = await smallPictures();
      const moves = await engine.moves(picture, from, to);
      if (!isStale) setFound({ key, moves });
    };
    // What is said of a picture is a help: without it the picture speaks for itself.
    const timer = setTimeout(() => void ask().catch(() => undefined), REST_MS);
    return () => {
      isStale = true;
      clearTimeout(timer);
    };
  }, [picture, from, to, key]);
  return found?.key === key ? found.moves : null;
}
