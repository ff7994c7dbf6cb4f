import { useId } from 'react';
import type { Settings } from '../../../core/steps';
import type { Step } from '../../../core/treatment/treatment';
import { Drawn, H, Ramp, W } from './Drawn';
import { ramp } from './sampled';

/** What becomes of greys, dark to light. */
export function RampFace({ step }: { step: Step }) {
  const id = useId();
  const stops = step.kind === 'gradient-map' ? (step.settings as Settings<'gradient-map'>).stops : [];
  return (
    <Drawn>
      <Ramp id={id} colours={ramp(step, 13)} />
      <rect width={W} height={H} fill={`url(#${id})`} />
      {stops.slice(0, 12).map((stop, i) => (
        <path
          key={i}
          d={`M${4 + stop.at * (W - 8)},${H - 8}l4,6h-8z`}
          fill="#fff"
          stroke="#333"
          strokeWidth="0.8"
        />
      ))}
    </Drawn>
  );
}
