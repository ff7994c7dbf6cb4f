import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import type { TakeState } from '../../contract/takes';
import { keys } from '../app/queries';

/** So long rests a take before what shows it elsewhere is asked for again: each picture of it is rendered anew on the server. */
const REST_MS = 1200;

/** Thumbnails, names and what a series uses follow what is saved of a take: when it has come to rest, and when the Bench is left. */
export function useFollowed({ revision, name, photographId }: TakeState, seriesId: string): void {
  const client = useQueryClient();
  const opened = useRef({ revision, name });
  /** Asks for all of it, where something has been saved since that was done last. */
  const follow = useRef<() => void>(() => undefined);
  useEffect(() => {
    if (revision === opened.current.revision && name === opened.current.name) return;
    follow.current = () => {
      follow.current = () => undefined;
      for (const queryKey of [
        keys.photograph(photographId),
        keys.series(seriesId),
        keys.sharedLooks(seriesId),
        keys.palette(seriesId),
      ]) {
        void client.invalidateQueries({ queryKey });
      }
      void client.invalidateQueries({ queryKey: keys.shelf, exact: true });
    };
    const timer = setTimeout(() => follow.current(), REST_MS);
    return () => clearTimeout(timer);
  }, [client, revision, name, photographId, seriesId]);
  useEffect(() => () => follow.current(), []);
}
