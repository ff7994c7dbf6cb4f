import type { ReactNode } from 'react';
import { BASIN } from '../trays';

/** The size of a face, in CSS pixels. */
export const { width: W, height: H } = BASIN;

/** A face, drawn. */
export const Drawn = ({ children }: { children: ReactNode }) => (
  <svg viewBox={`0 0 ${W} ${H}`} width={W} height={H} aria-hidden="true">
    {children}
  </svg>
);

/** Colours across. */
export function Ramp({ colours, id }: { colours: readonly string[]; id: string }) {
  return (
    <linearGradient id={id} x1="0" x2="1" y1="0" y2="0">
      {colours.map((paint, i) => (
        <stop key={i} offset={i / (colours.length - 1)} stopColor={paint} />
      ))}
    </linearGradient>
  );
}
