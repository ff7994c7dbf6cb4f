import { useLayoutEffect, useState, type RefObject } from 'react';
import type { Step } from '../../core/treatment/schema';

/**
 * Where the lamp can stand on the tray line, in pixels from its left: before the first tray and after each.
 * @param folded what changes the places beside the steps themselves
 */
export function useLampStops(
  run: RefObject<HTMLElement | null>,
  steps: readonly Step[],
  lamp: number,
  folded: ReadonlySet<string>,
): { stops: number[]; lampX: number; layout: string } {
  const [lampX, setLampX] = useState(20);
  const [stops, setStops] = useState<number[]>([]);
  const layout = `${steps.map(s => `${s.stage} ${s.id} ${s.name} ${s.group}`).join()} ${[...folded].join()}`;
  useLayoutEffect(() => {
    const element = run.current;
    if (!element) return;
    const measure = () => {
      const left = element.getBoundingClientRect().left;
      const edges = steps.map(s => {
        const tray =
          element.querySelector(`[data-tray="${window.CSS.escape(s.id)}"]`) ??
          element.querySelector(`[data-holds~="${window.CSS.escape(s.id)}"]`);
        const box = tray?.getBoundingClientRect();
        return box ? box.right - left : 0;
      });
      const start = element.querySelector('[role=group]')?.getBoundingClientRect().left ?? left;
      const all = [
        start - left - 10,
        ...edges.map((right, i) => {
          const next = steps[i + 1];
          return next && next.stage === steps[i].stage ? right + 4 : right + 48;
        }),
      ];
      setStops(all);
      setLampX(all[Math.min(lamp, steps.length)] ?? 20);
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only the steps' places matter, not their settings
  }, [run, layout, lamp]);
  return { stops, lampX, layout };
}
