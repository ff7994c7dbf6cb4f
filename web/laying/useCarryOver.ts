import { useCallback, useEffect } from 'react';
import type { Series } from '../../contract/series';
import { getTake } from '../../contract/takes';
import { isAtWork } from '../../core/treatment/alternatives';
import { layTreatment } from '../../core/treatment/laying';
import type { Treatment } from '../../core/treatment/treatment';
import { call, currentTake } from '../app/api';
import { tell } from '../app/notices';

/** The photograph that was worked on last in this window. */
let last: { id: string; title: string; treatment: Treatment } | null = null;

const isTreated = ({ steps }: Treatment) => steps.some(isAtWork);

/**
 * Carries the last treatment over to this photograph: that of the one that was worked on before, else of the one before
 * it in the series. Its frame and its painted areas stay behind.
 */
export function useCarryOver(
  photograph: { id: string; title: string },
  series: Series | undefined,
  now: () => Treatment,
  onLay: (treatment: Treatment, label: string) => void,
): () => void {
  const { id, title } = photograph;
  // What is left is what the next may want.
  useEffect(
    () => () => {
      const treatment = now();
      if (isTreated(treatment)) last = { id, title, treatment };
    },
    [id, title, now],
  );
  return useCallback(() => {
    const carry = async () => {
      let from = last?.id === id ? null : last;
      const all = series?.photographs ?? [];
      for (let i = all.findIndex(p => p.id === id) - 1; from === null && i >= 0; i--) {
        const { treatment } = await call(getTake, { params: { id: currentTake(all[i]).id } });
        if (isTreated(treatment)) from = { id: all[i].id, title: all[i].title, treatment };
      }
      if (!from) {
        tell({ text: 'There is nothing to carry over yet: no photograph before this one is treated.' });
        return;
      }
      const laying = { how: 'instead', frame: false, painted: false } as const;
      const { treatment, left } = layTreatment(now(), from.treatment, laying);
      onLay(treatment, `Carry over from ${from.title}`);
      const staying = left.length
        ? ` ${left.length === 1 ? 'One step' : `${left.length} steps`} on painted areas stayed there.`
        : '';
      tell({ text: `The treatment of ${from.title} is carried over.${staying}` });
    };
    carry().catch((error: Error) => tell({ text: error.message, tone: 'problem' }));
  }, [id, series, now, onLay]);
}
