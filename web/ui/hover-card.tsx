import type { ReactElement, ReactNode } from 'react';
import { Tooltip, TooltipTrigger } from 'react-aria-components';
import styled from 'styled-components';

const Card = styled(Tooltip)`
  background: var(--paper-high);
  border-radius: var(--r-label);
  box-shadow: var(--shade-float);
  padding: 6px 8px;
  max-width: 280px;
  font-weight: 500;
  line-height: 1.35;
  pointer-events: none;
  img,
  canvas {
    display: block;
    max-width: 240px;
    max-height: 180px;
    margin: -1px -3px 5px;
    border-radius: 1px;
  }
`;

/** What a thing is in full, beside it while the pointer rests on it or it has the focus. */
export function HoverCard({
  children,
  card,
  placement = 'bottom',
}: {
  /** A button, or another thing of the interface that takes the focus. */
  children: ReactElement;
  card: ReactNode;
  placement?: 'top' | 'bottom' | 'right' | 'left';
}) {
  return (
    <TooltipTrigger delay={350} closeDelay={0}>
      {children}
      <Card placement={placement} offset={6}>
        {card}
      </Card>
    </TooltipTrigger>
  );
}
