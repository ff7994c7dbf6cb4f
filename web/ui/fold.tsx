import { ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';

const Button = styled(AriaButton)`
  display: flex;
  align-items: center;
  gap: 6px;
  flex: 1;
  width: 100%;
  height: 30px;
  font-weight: 600;
  small {
    margin-left: auto;
    color: var(--ink-2);
    font-weight: 400;
    font-size: var(--t-small);
  }
  svg {
    width: 14px;
    height: 14px;
    color: var(--ink-2);
  }
  &[aria-expanded='true'] svg {
    transform: rotate(90deg);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
`;

/** The name of a section that opens beneath it. */
export function Fold({
  open,
  onToggle,
  children,
}: {
  open: boolean;
  onToggle: () => void;
  children: ReactNode;
}) {
  return (
    <Button aria-expanded={open} onPress={onToggle}>
      <ChevronRight aria-hidden="true" />
      {children}
    </Button>
  );
}
