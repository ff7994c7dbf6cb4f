import { useEffect } from 'react';
import { useQueryClient } from '@tanstack/react-query';
import styled from 'styled-components';
import { onReturn, useAway } from '../app/away';

const Band = styled.div`
  position: fixed;
  z-index: 40;
  top: calc(var(--bar) + 10px);
  left: 50%;
  transform: translateX(-50%);
  background: var(--paper-high);
  border-radius: var(--r-label);
  box-shadow:
    inset 4px 0 0 var(--ink),
    var(--shade-float);
  padding: 8px 16px;
  max-width: min(640px, calc(100vw - 40px));
`;

const WORDS = {
  database: 'The database is away.',
  server: 'The server does not answer.',
  disk: 'The disk of the server is full, and its database waits for room.',
};

/** Says what is away, and that nothing is lost by it; asks for all anew when it is back. */
export function AwayBand() {
  const away = useAway(state => (state.tellers === 0 ? state.away : null));
  const queries = useQueryClient();
  useEffect(() => onReturn(() => void queries.invalidateQueries()), [queries]);
  return (
    <div role="status">
      {away ? (
        <Band>
          <b>{WORDS[away]}</b> What you change is kept in this browser, and goes on as soon as it is back.
        </Band>
      ) : null}
    </div>
  );
}
