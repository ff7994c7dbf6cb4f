import { useMemo } from 'react';
import type { Settings } from '../../../core/steps';
import type { Step } from '../../../core/treatment/treatment';
import { Drawn, H, W } from './Drawn';

/** Grains as large as they are set; of a seed the same ones each time. */
function grains(size: number, seed: number) {
  let state = (seed || 1) >>> 0;
  const next = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
  return Array.from({ length: 150 }, () => ({
    x: next() * W,
    y: next() * H,
    r: 0.35 + next() * (0.35 + size),
    dark: next() < 0.55,
  }));
}

/** Grains, as large and as many as they are set. */
export function GrainFace({ step }: { step: Step }) {
  const { amount, size, seed } = step.settings as Settings<'grain'>;
  const dots = useMemo(() => grains(size, seed), [size, seed]);
  const seen = Math.min(1, 0.15 + amount * 1.6);
  return (
    <Drawn>
      <rect width={W} height={H} fill="#bdbdbd" />
      {amount > 0
        ? dots.map(({ x, y, r, dark }, i) => (
            <circle key={i} cx={x} cy={y} r={r} fill={dark ? '#3b3b3b' : '#fff'} opacity={seen} />
          ))
        : null}
    </Drawn>
  );
}
