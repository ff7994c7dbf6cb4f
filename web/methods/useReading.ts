import { useEffect, useMemo, useState } from 'react';
import type { PictureReading } from '../../core/analysis/reading';
import type { Facts } from '../../core/methods/facts';
import type { Treatment } from '../../core/treatment/treatment';
import { smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import { useSame } from '../app/useSame';

export interface Read {
  reading: PictureReading;
  facts: Facts;
}

/** Reads a treatment of a picture. */
export async function readingOf(picture: PictureInfo, treatment: Treatment): Promise<Read> {
  const { engine } = await smallPictures();
  return engine.reading(picture, treatment);
}

/** What is read from a treatment; null until it is. A treatment that is the same in what it says is read once. */
export function useReading(
  picture: PictureInfo,
  treatment: Treatment,
): { read: Read | null; problem: string | null } {
  const [found, setFound] = useState<{ key: string; read: Read | null; problem: string | null } | null>(null);
  const key = useMemo(() => JSON.stringify(treatment), [treatment]);
  const same = useSame(treatment, key);
  useEffect(() => {
    let isStale = false;
    void readingOf(picture, same).then(
      read => !isStale && setFound({ key, read, problem: null }),
      (error: Error) => !isStale && setFound({ key, read: null, problem: error.message }),
    );
    return () => {
      isStale = true;
    };
  }, [picture, same, key]);
  return { read: found?.key === key ? found.read : null, problem: found?.key === key ? found.problem : null };
}

/** The photograph with its frame alone. */
export const useBare = (treatment: Treatment): Treatment =>
  useSame(
    { ...treatment, strength: 1, steps: [], groups: [], masks: [], tables: {} },
    JSON.stringify(treatment.frame),
  );
