import { useEffect, useMemo, useState } from 'react';
import type { SeriesLook } from '../../contract/shared-looks';
import { toFollow } from '../../core/treatment/shared';
import { starterLooks } from '../../core/treatment/starter-looks';
import { isFound } from '../app/found';
import { useLooks } from '../app/queries';
import { fetchAllCarried } from '../engine/carried';
import { grouped, SHARED, type ListedLook } from './look-groups';

/** What is found of all looks, by groups; what they carry is had, and counted, before they are shown with it. */
export function useLookList(shared: readonly SeriesLook[], wanted: string) {
  const kept = useLooks();
  const all = useMemo(
    (): ListedLook[] => [
      ...shared.map(l => ({
        name: l.name,
        group: SHARED,
        treatment: toFollow(l),
        key: l.id,
        shared: l,
      })),
      ...(kept.data ?? []).map(l => ({ ...l, key: l.id, isKept: true })),
      ...starterLooks().map(l => ({ ...l, key: `starter ${l.name}` })),
    ],
    [kept.data, shared],
  );
  const found = useMemo(
    () => grouped(all.filter(({ name, group }) => isFound(wanted, `${name} ${group}`))),
    [all, wanted],
  );
  const [fetched, setFetched] = useState(0);
  useEffect(() => {
    let stale = false;
    const fetchAll = async () => {
      for (const look of [...(kept.data ?? []), ...shared]) await fetchAllCarried(look.treatment);
      if (!stale) setFetched(n => n + 1);
    };
    void fetchAll().catch(() => undefined);
    return () => {
      stale = true;
    };
  }, [kept.data, shared]);
  // Shown anew once what they carry is there.
  const groups = useMemo(() => (fetched > 0 ? new Map(found) : found), [found, fetched]);
  return { all, groups, own: kept.data ?? [] };
}
