import { useId } from 'react';
import type { Settings } from '../../../core/steps';
import type { Step } from '../../../core/treatment/treatment';
import { Drawn, H, W } from './Drawn';

/** A light that spreads. */
export function GlowFace({ step }: { step: Step }) {
  const id = useId();
  const { amount, radius, halation } = step.settings as Settings<'glow'>;
  const warm = halation > amount ? '#ffb48a' : '#ffffff';
  return (
    <Drawn>
      <radialGradient id={id} cx="0.5" cy="0.5" r="0.5">
        <stop offset="0.12" stopColor="#fff" />
        <stop
          offset={0.2 + Math.min(0.5, radius * 6)}
          stopColor={warm}
          stopOpacity={Math.max(amount, halation) * 0.8}
        />
        <stop offset="1" stopColor={warm} stopOpacity="0" />
      </radialGradient>
      <rect width={W} height={H} fill="#6d6d6d" />
      <rect x={W / 2 - H} width={2 * H} height={H} fill={`url(#${id})`} />
      <circle cx={W / 2} cy={H / 2} r="7" fill="#fff" />
    </Drawn>
  );
}
