import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { Series } from '../../contract/series';
import { getTake } from '../../contract/takes';
import { call, currentTake } from '../app/api';
import { photographQuery } from '../app/queries';
import type { Beside } from '../engine/client';

/** How long a photograph lies open before those beside it are prepared. */
const PATIENCE_MS = 900;

/** The photographs beside one in its series, which are often next: asked for when it has lain open for a moment. */
export function useBeside(id: string, series: Series | undefined): readonly Beside[] {
  const client = useQueryClient();
  const [beside, setBeside] = useState<readonly Beside[]>([]);
  useEffect(() => {
    let stale = false;
    const prepare = async () => {
      const all = series?.photographs ?? [];
      const at = all.findIndex(p => p.id === id);
      const next = [all[at + 1], all[at - 1]].filter(p => p !== undefined);
      const found = await Promise.all(
        next.map(async photograph => {
          const { width, height, grey } = photograph;
          const [, { treatment }] = await Promise.all([
            client.prefetchQuery(photographQuery(photograph.id)),
            call(getTake, { params: { id: currentTake(photograph).id } }),
          ]);
          return { picture: { id: photograph.id, width, height, grey }, treatment };
        }),
      );
      if (!stale) setBeside(found);
    };
    const timer = setTimeout(() => void prepare().catch(() => undefined), PATIENCE_MS);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [client, series, id]);
  return beside;
}
