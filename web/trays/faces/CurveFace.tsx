import type { Step } from '../../../core/treatment/treatment';
import { Drawn, H, W } from './Drawn';
import { toneLines } from './sampled';

/** Tones over tones, on a grid. */
export function CurveFace({ step }: { step: Step }) {
  const lines = toneLines(step, 33);
  const d = (tones: readonly number[]) =>
    `M${tones.map((t, i) => `${((i / (tones.length - 1)) * W).toFixed(1)},${(H - 3 - t * (H - 6)).toFixed(1)}`).join('L')}`;
  return (
    <Drawn>
      <rect width={W} height={H} fill="#fafafa" />
      <path
        d={`M${W / 3},0V${H}M${(2 * W) / 3},0V${H}M0,${H / 3}H${W}M0,${(2 * H) / 3}H${W}`}
        stroke="#dcdcdc"
        fill="none"
      />
      {lines.map(({ paint, tones }, i) => (
        <path key={i} d={d(tones)} fill="none" stroke={paint ?? '#161616'} strokeWidth="1.9" />
      ))}
    </Drawn>
  );
}
