import { useLayoutEffect, useMemo, useState, type RefObject } from 'react';
import { shownOf } from '../../core/treatment/alternatives';
import type { Step } from '../../core/treatment/treatment';
import { nameOfStep } from '../../words/step-names';
import type { LampStop } from './Lamp';
import { useSame } from '../app/useSame';

/** Beside the trays: the padding of the line, and the place for one more step. */
const AROUND = 90;

/**
 * Where the lamp can stand on the tray line: before the first tray and after each.
 * @param folded what changes the places beside the steps themselves
 */
export function useLampStops(
  run: RefObject<HTMLElement | null>,
  trays: readonly (readonly Step[])[],
  folded: ReadonlySet<string>,
): { stops: readonly LampStop[]; layout: string } {
  const [places, setPlaces] = useState<readonly number[]>([]);
  const steps = trays.flat();
  const layout = `${steps.map(s => `${s.stage} ${s.id} ${s.name} ${s.group} ${s.alternative?.tray} ${s.alternative?.aside}`).join()} ${[...folded].join()}`;
  // Only the trays' places matter, not their settings.
  const placed = useSame(trays, layout);
  useLayoutEffect(() => {
    const element = run.current;
    if (!element) return;
    const measure = () => {
      const left = element.getBoundingClientRect().left;
      const edges = placed.map(tray => {
        const id = window.CSS.escape(shownOf(tray).id);
        const box = element.querySelector(`[data-holds~="${id}"]`)?.getBoundingClientRect();
        return box ? box.right - left : 0;
      });
      const start = element.querySelector('[role=group]')?.getBoundingClientRect().left ?? left;
      const seen = element.parentElement?.clientWidth ?? Infinity;
      element.toggleAttribute('data-long', Math.max(0, ...edges) - (start - left) + AROUND > seen);
      setPlaces([
        start - left - 10,
        ...edges.map((right, i) => {
          const next = placed[i + 1];
          return next && next[0].stage === placed[i][0].stage ? right + 4 : right + 48;
        }),
      ]);
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [run, placed]);
  const stops = useMemo(() => {
    const after = trays.map((tray, i) => ({
      lit: trays.slice(0, i + 1).flat().length,
      after: nameOfStep(shownOf(tray)),
    }));
    return [{ lit: 0, after: '' }, ...after].map((stop, i) => ({ ...stop, x: places[i] ?? 20 }));
  }, [trays, places]);
  return { stops, layout };
}
