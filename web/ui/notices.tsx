import { X } from 'lucide-react';
import styled from 'styled-components';
import { useNotices } from '../app/notices';
import { Button, IconButton } from './buttons';

const Corner = styled.div`
  position: fixed;
  left: 50%;
  bottom: 152px;
  transform: translateX(-50%);
  display: grid;
  gap: 8px;
  z-index: 30;
`;

const Slip = styled.div`
  background: var(--paper-high);
  border-radius: var(--r-label);
  box-shadow: var(--shade-float);
  padding: 7px 8px 7px 14px;
  display: flex;
  align-items: center;
  gap: 12px;
  max-width: 560px;
  &[data-tone='problem'] {
    box-shadow:
      inset 4px 0 0 var(--ink),
      var(--shade-float);
  }
`;

/** The notices that are told at the moment. */
export function Notices() {
  const { list, drop } = useNotices();
  return (
    <Corner role="status" aria-live="polite">
      {list.map(n => (
        <Slip key={n.id} data-tone={n.tone}>
          <span>{n.text}</span>
          {n.undo ? (
            <Button
              $small
              onPress={() => {
                n.undo?.();
                drop(n.id);
              }}
            >
              Undo
            </Button>
          ) : null}
          <IconButton aria-label="Close" onPress={() => drop(n.id)}>
            <X aria-hidden="true" />
          </IconButton>
        </Slip>
      ))}
    </Corner>
  );
}
