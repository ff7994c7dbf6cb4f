import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import { IconButton } from './buttons';

const Head = styled.div`
  padding: 8px 9px 10px 16px;
  flex: none;
  .row {
    display: flex;
    align-items: center;
    gap: 9px;
    height: 34px;
  }
  .beneath {
    margin-right: 7px;
  }
  h2 {
    font-size: 15px;
    font-weight: 650;
  }
  small {
    color: var(--ink-2);
    font-size: var(--t-small);
    margin-right: auto;
    padding-top: 2px;
  }
`;

/** The head of a board: what is chosen from, what can be done with it, and the way back to the step. */
export function BoardHead({
  title,
  says,
  close,
  onClose,
  more,
  children,
}: {
  title: string;
  /** What is said of it beside its title. */
  says: string;
  /** What the cross is called. */
  close: string;
  onClose: () => void;
  more?: ReactNode;
  /** Beneath the title: a field to find something. */
  children?: ReactNode;
}) {
  return (
    <Head>
      <div className="row">
        <h2>{title}</h2>
        <small>{says}</small>
        {more}
        <IconButton aria-label={close} onPress={onClose}>
          <X aria-hidden="true" />
        </IconButton>
      </div>
      {children ? <div className="beneath">{children}</div> : null}
    </Head>
  );
}
