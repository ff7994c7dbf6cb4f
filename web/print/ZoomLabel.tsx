import { memo } from 'react';
import { ToggleButton } from 'react-aria-components';
import styled from 'styled-components';
import { WallLabel } from './labels';

const Label = styled(WallLabel)`
  right: 22px;
  > span {
    padding: 0 10px;
    color: var(--ink-2);
    min-width: 52px;
    text-align: right;
  }
`;

const Choice = styled(ToggleButton)`
  height: 28px;
  padding: 0 11px;
  font-weight: 500;
  color: var(--ink-2);
  box-shadow: -1px 0 0 var(--rule);
  &[data-hovered] {
    background: #fff;
  }
  &[data-selected] {
    color: var(--ink);
    font-weight: 650;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 1px;
  }
`;

/** The scale of the picture, and the two that are asked for most. */
export const ZoomLabel = memo(function ZoomLabel({
  scale,
  fit,
  onFit,
  onNatural,
  onTwice,
}: {
  scale: number;
  fit: boolean;
  onFit: () => void;
  onNatural: () => void;
  onTwice: () => void;
}) {
  return (
    <Label role="group" aria-label="Zoom">
      <span>{`${Math.round(scale * 100)} %`}</span>
      <Choice isSelected={fit} onChange={onFit}>
        Fit
      </Choice>
      <Choice isSelected={!fit && Math.abs(scale - 1) < 1e-6} onChange={onNatural}>
        1:1
      </Choice>
      <Choice isSelected={!fit && Math.abs(scale - 2) < 1e-6} onChange={onTwice}>
        2:1
      </Choice>
    </Label>
  );
});
