import { useId } from 'react';
import type { Step } from '../../../core/treatment/treatment';
import { Drawn, H, Ramp, W } from './Drawn';
import { ramp } from './sampled';

/** A dish of the bath: what it makes of a print that lies in it. */
export function DishFace({ step }: { step: Step }) {
  const id = useId();
  const colours = ramp(step, 9);
  return (
    <Drawn>
      <Ramp id={id} colours={colours.slice(2).reverse()} />
      <rect width={W} height={H} fill={`url(#${id})`} />
      <path
        d={`M0,11c12,-5 20,4 32,1s18,-5 30,-1s18,3 30,-1`}
        fill="none"
        stroke="#fff"
        strokeOpacity="0.75"
        strokeWidth="1.4"
      />
      <path d={`M0,38c14,-6 26,5 46,0s30,-4 46,1V${H}H0z`} fill={colours[2]} fillOpacity="0.3" />
    </Drawn>
  );
}
