import { useMemo } from 'react';
import type { PictureTool } from '../print/tool';
import type { TestStrip } from './useTestStrip';

/** A pointer that was moved by so many pixels has not pressed a band. */
const STILL = 4;

/** A press on a band takes what it shows; null without a strip. */
export function useStripTool(strip: TestStrip): PictureTool | null {
  return useMemo(() => {
    if (strip.cells.length === 0) return null;
    return {
      cursor: 'pointer',
      name: 'A press on a band takes what it shows.',
      anywhere: true,
      press: () => {
        let isMoved = false;
        return {
          move: (_, right, down) => (isMoved ||= Math.hypot(right, down) > STILL),
          end: () => {
            const band = document.querySelector<HTMLElement>('[data-test-strip] [data-pointed]');
            const cell = band && strip.cells[Number(band.id.split('-')[1])];
            if (!isMoved && cell) strip.take(cell);
          },
        };
      },
    };
  }, [strip]);
}
