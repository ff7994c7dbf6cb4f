import { useSyncExternalStore } from 'react';
import styled from 'styled-components';
import { LinkButton } from '../ui/buttons';
import type { TakeSession } from './session';

const Mark = styled.span`
  color: var(--ink-2);
  white-space: nowrap;
  font-size: var(--t-small);
  &[data-state='waiting'] {
    color: var(--ink);
    font-weight: 600;
  }
`;

/** How the take stands to the server: saved, being saved, or not yet, and whether it lies in this browser meanwhile. */
export function SavingMark({ session }: { session: TakeSession }) {
  const { saving } = useSyncExternalStore(session.subscribe, session.state);
  return (
    <Mark role="status" data-state={saving.state} data-saving={saving.state}>
      {saving.state === 'saved' && 'Saved'}
      {saving.state === 'saving' && 'Saving …'}
      {saving.state === 'stale' && 'Changed in another window'}
      {saving.state === 'refused' && 'Not saved'}
      {saving.state === 'waiting' && (
        <>
          Not saved: {saving.reason}{' '}
          {saving.kept ? 'It is kept in this browser.' : 'Keep this page open: this browser cannot keep it.'}{' '}
          <LinkButton onPress={() => void session.flush()}>Try now</LinkButton>
        </>
      )}
    </Mark>
  );
}
