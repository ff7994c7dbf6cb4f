import { memo, useEffect, useState } from 'react';
import { ToggleButton } from 'react-aria-components';
import styled from 'styled-components';
import type { Treatment } from '../../core/treatment/treatment';
import { smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import type { Histogram } from '../engine/small';
import { WallLabel } from './labels';

const Label = styled(WallLabel)`
  right: 384px;
  @media (max-width: 1180px) {
    display: none;
  }
  button {
    height: 28px;
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 0 10px;
    color: var(--ink-2);
    font-variant-numeric: tabular-nums;
  }
  button[data-hovered],
  button[data-selected] {
    background: #fff;
  }
  button[data-selected] {
    box-shadow: inset 0 -2px 0 var(--lamp);
  }
  button[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 1px;
  }
  svg {
    width: 84px;
    height: 20px;
    background: linear-gradient(90deg, #d9d9d9, #f1f1f1);
  }
  path {
    fill: #555;
  }
  i {
    width: 8px;
    height: 8px;
    border-radius: 50%;
    background: #c4c4c4;
  }
  i[data-lost='black'] {
    background: rgb(40 90 255);
  }
  i[data-lost='white'] {
    background: rgb(255 110 20);
  }
`;

/** How long the picture must rest before its tones are counted. */
const REST_MS = 150;
/** A share below which nothing counts as lost. */
const FEW = 0.0005;

const percent = (share: number) => `${(share * 100).toFixed(1)} %`;

/** The tones of the picture as it is, and what is lost at both ends; pressed, that is marked on the picture. */
export const Tones = memo(function Tones({
  picture,
  treatment,
  marking,
  onMark,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  marking: boolean;
  onMark: (marking: boolean) => void;
}) {
  const [found, setFound] = useState<Histogram | null>(null);
  useEffect(() => {
    let stale = false;
    const count = async () => {
      const { engine } = await smallPictures();
      const histogram = await engine.histogram(picture, treatment);
      if (!stale) setFound(histogram);
    };
    const timer = setTimeout(() => void count().catch(() => undefined), REST_MS);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [picture, treatment]);
  if (!found) return null;
  const most = Math.max(...found.counts.slice(1, -1), 1);
  const line = found.counts.map((n, i) => `${i},${20 - Math.min(19, (n / most) * 18)}`);
  const { black, white } = found;
  return (
    <Label>
      <ToggleButton
        isSelected={marking}
        onChange={onMark}
        aria-label={`Mark what is lost: ${percent(black)} black, ${percent(white)} white`}
      >
        <i data-lost={black > FEW ? 'black' : undefined} />
        <svg viewBox={`0 0 ${found.counts.length - 1} 20`} preserveAspectRatio="none" aria-hidden="true">
          <path d={`M0,20L${line.join('L')}L${found.counts.length - 1},20Z`} />
        </svg>
        <i data-lost={white > FEW ? 'white' : undefined} />
      </ToggleButton>
    </Label>
  );
});
