import type { Step } from '../../../core/treatment/treatment';
import { Drawn, H, W } from './Drawn';
import { hues } from './sampled';

/** Hues as pennants, and what becomes of each. */
export function HuesFace({ step }: { step: Step }) {
  const all = hues(step);
  const wide = W / all.length;
  return (
    <Drawn>
      {all.map(({ before, after }, i) => (
        <g key={i}>
          <rect x={i * wide} width={wide + 0.5} height={H} fill={after} />
          <path d={`M${i * wide},0h${wide + 0.2}v17l${-wide / 2},7l${-wide / 2},-7z`} fill={before} />
        </g>
      ))}
    </Drawn>
  );
}
