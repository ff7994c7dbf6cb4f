import { useState, useSyncExternalStore } from 'react';
import styled from 'styled-components';
import { useTellsAway } from '../app/away';
import { LinkButton } from '../ui/buttons';
import { Unseen } from '../ui/unseen';
import { nothingTold, toldNext } from './saving-told';
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

/** Below the bar, which has no room for it, and below what is said of the server. */
const Slip = styled.span`
  position: fixed;
  z-index: 39;
  top: calc(var(--bar) + 70px);
  left: 50%;
  transform: translateX(-50%);
  max-width: min(640px, calc(100vw - 40px));
  padding: 8px 16px;
  background: var(--paper-high);
  border-radius: var(--r-label);
  box-shadow: var(--shade-float);
  font-weight: 400;
  font-size: var(--t-lead);
  white-space: normal;
`;

/** Why something is not saved, where it is meanwhile, and the way to try again. */
function Waiting({ reason, kept, onTry }: { reason: string; kept: boolean; onTry: () => void }) {
  useTellsAway();
  return (
    <Slip>
      {reason} {kept ? 'It is kept in this browser.' : 'Keep this page open: this browser cannot keep it.'}{' '}
      <LinkButton onPress={onTry}>Try now</LinkButton>
    </Slip>
  );
}

/** How the take stands to the server: saved, being saved, or not yet, and whether it lies in this browser meanwhile. */
export function SavingMark({ session }: { session: TakeSession }) {
  const { saving } = useSyncExternalStore(session.subscribe, session.state);
  const reason = saving.state === 'waiting' || saving.state === 'refused' ? saving.reason : '';
  const of = `${saving.state} ${reason}`;
  const [told, setTold] = useState(() => ({ ...toldNext(nothingTold, saving.state, reason), of }));
  if (told.of !== of) setTold({ ...toldNext(told, saving.state, reason), of });
  return (
    <>
      <Unseen role="status" aria-label="Saving">
        {told.text}
      </Unseen>
      <Mark data-state={saving.state} data-saving={saving.state}>
        {saving.state === 'saved' && 'Saved'}
        {saving.state === 'saving' && 'Saving …'}
        {saving.state === 'stale' && 'Changed in another window'}
        {saving.state === 'refused' && 'Not saved'}
        {saving.state === 'waiting' && (
          <>
            Not saved
            <Waiting reason={saving.reason} kept={saving.kept} onTry={() => void session.flush()} />
          </>
        )}
      </Mark>
    </>
  );
}
