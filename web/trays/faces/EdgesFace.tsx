import type { Settings } from '../../../core/steps';
import type { Step } from '../../../core/treatment/treatment';
import { Drawn, H, W } from './Drawn';

/** An edge made steeper, with what that leaves on both sides. */
export function EdgesFace({ step }: { step: Step }) {
  const { amount } = step.settings as Settings<'sharpen'>;
  const over = Math.min(9, amount * 6);
  return (
    <Drawn>
      <rect width={W} height={H} fill="#fafafa" />
      <path
        d={`M0,40H34c6,0 6,${over} 9,${over}S44,${11 - over} 48,${11 - over}s4,${over} 10,${over}H${W}`}
        fill="none"
        stroke="#161616"
        strokeWidth="1.9"
      />
      <path d={`M0,40H30c16,0 16,-29 32,-29H${W}`} fill="none" stroke="#b9b9b9" />
    </Drawn>
  );
}
