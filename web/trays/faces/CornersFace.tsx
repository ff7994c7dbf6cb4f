import { useId } from 'react';
import type { Settings } from '../../../core/steps';
import type { Step } from '../../../core/treatment/treatment';
import { Drawn, H, W } from './Drawn';

/** Corners that fall away. */
export function CornersFace({ step }: { step: Step }) {
  const id = useId();
  const { amount, size, feather } = step.settings as Settings<'vignette'>;
  const corner = amount < 0 ? '#1c1c1c' : '#ffffff';
  const from = Math.max(0.05, size * (1 - feather * 0.7));
  return (
    <Drawn>
      <radialGradient id={id} cx="0.5" cy="0.5" r="0.72">
        <stop offset={from} stopColor={corner} stopOpacity="0" />
        <stop
          offset={Math.min(1, from + 0.2 + feather * 0.5)}
          stopColor={corner}
          stopOpacity={Math.abs(amount)}
        />
      </radialGradient>
      <rect width={W} height={H} fill="#c4c4c4" />
      <rect width={W} height={H} fill={`url(#${id})`} />
      <ellipse
        cx={W / 2}
        cy={H / 2}
        rx={(W / 2) * size}
        ry={(H / 2) * size}
        fill="none"
        stroke="#fff"
        strokeOpacity="0.8"
        strokeDasharray="2 2.5"
      />
    </Drawn>
  );
}
