import type { Settings } from '../../../core/steps';
import type { Step } from '../../../core/treatment/treatment';
import { Drawn, H, W } from './Drawn';

/** Waves of three widths, each as strong as its scale is raised. */
export function TextureFace({ step }: { step: Step }) {
  const { coarse, medium, fine } = step.settings as Settings<'local-contrast'>;
  const wave = (y: number, length: number, raised: number) => {
    const high = 5 * (1 + raised);
    const count = Math.ceil(W / length);
    return `M0,${y}${Array.from({ length: count }, () => `q${length / 4},${-high} ${length / 2},0t${length / 2},0`).join('')}`;
  };
  return (
    <Drawn>
      <rect width={W} height={H} fill="#fafafa" />
      {(
        [
          [12, 46, coarse],
          [27, 20, medium],
          [41, 8, fine],
        ] as const
      ).map(([y, length, raised]) => (
        <path
          key={y}
          d={wave(y, length, raised)}
          fill="none"
          stroke="#161616"
          strokeWidth={raised === 0 ? 0.8 : 1.7}
          strokeOpacity={raised === 0 ? 0.5 : 1}
        />
      ))}
    </Drawn>
  );
}
