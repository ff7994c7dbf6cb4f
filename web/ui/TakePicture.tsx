import { useEffect, useState } from 'react';
import styled from 'styled-components';
import type { takeEdges } from '../../contract/takes';
import { pictureAddress, problemFrom } from '../app/api';
import { noteAway, onReturn } from '../app/away';

const Wrong = styled.span`
  display: grid;
  place-content: center;
  min-height: 60px;
  padding: 6px 8px;
  background: var(--paper);
  color: var(--ink);
  font-size: var(--t-small);
  line-height: 1.3;
  text-align: center;
  overflow: hidden;
`;

interface TakePictureProps {
  take: { id: string; revision: number };
  edge: (typeof takeEdges)[number];
  draggable?: boolean;
}

/** A take's small picture, as the server makes it; where that cannot be made, the reason in its place. */
export function TakePicture({ take, edge, draggable }: TakePictureProps) {
  const address = pictureAddress(take, edge);
  const [wrong, setWrong] = useState<{ address: string; reason: string } | null>(null);
  useEffect(() => onReturn(() => setWrong(null)), []);

  // A picture does not say why it did not come: it is asked for once more, for the reason.
  const findOut = async () => {
    try {
      const response = await fetch(address);
      if (response.status === 503) {
        noteAway('database');
        return setWrong({ address, reason: 'Waits for the database.' });
      }
      const reason = response.ok ? '' : problemFrom(response.status, await response.json()).message;
      setWrong({ address, reason: reason || 'This picture could not be shown.' });
    } catch {
      noteAway('server');
      setWrong({ address, reason: 'Waits for the server.' });
    }
  };
  if (wrong?.address === address) {
    return (
      <Wrong role="img" aria-label={wrong.reason} title={wrong.reason} data-wrong>
        {edge > 160 ? wrong.reason : '!'}
      </Wrong>
    );
  }
  // Another picture is another element: until it has come its place is empty, and never shows the one that was there before.
  return <img key={address} src={address} alt="" draggable={draggable} onError={() => void findOut()} />;
}
