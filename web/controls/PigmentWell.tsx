import type { ComponentProps } from 'react';
import styled from 'styled-components';
import type { NamedPigment } from '../../core/colour/pigments';
import { pigmentPaint } from './paint';

const Well = styled.button`
  text-align: center;
  font-size: 12px;
  line-height: 16px;
  color: var(--ink-2);
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
  i {
    display: block;
    height: 28px;
    border-radius: 4px;
    border: 1.5px solid var(--paper-high);
    box-shadow:
      0 1px 2px rgb(0 0 0 / 0.35),
      inset 0 2px 3px rgb(0 0 0 / 0.25);
  }
  &[aria-pressed='true'] {
    color: var(--ink);
    font-weight: 650;
  }
  &[aria-pressed='true'] i {
    border-color: var(--ink);
  }
  &:focus-visible {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 1px;
  }
`;

/** A pigment as it lies in the box, with its name beneath. */
export function PigmentWell({
  named,
  isHere,
  ...rest
}: {
  named: NamedPigment;
  /** It is the one that is laid, or in the hand. */
  isHere: boolean;
} & Omit<ComponentProps<'button'>, 'type' | 'children'>) {
  return (
    <Well type="button" aria-pressed={isHere} {...rest}>
      <i style={{ background: pigmentPaint(named.pigment) }} />
      {named.name}
    </Well>
  );
}
