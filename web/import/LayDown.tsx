import { useQueryClient } from '@tanstack/react-query';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { chooseFiles } from './FileDrop';

const Drop = styled(AriaButton)`
  grid-column: 1 / -1;
  min-height: 214px;
  border: 1px dashed var(--wall-ink);
  border-radius: 2px;
  color: var(--wall-ink);
  display: grid;
  justify-items: center;
  align-content: center;
  gap: 5px;
  line-height: 1.4;
  svg {
    width: 64px;
    height: 44px;
    margin-bottom: 6px;
    fill: none;
    stroke: currentColor;
    stroke-width: 1.5;
    stroke-linejoin: round;
    stroke-linecap: round;
  }
  b {
    font-weight: 600;
    font-size: 15px;
  }
  > span {
    max-width: 270px;
  }
  u {
    text-underline-offset: 3px;
    margin-top: 6px;
    font-weight: 550;
  }
  &[data-hovered] {
    border-style: solid;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--wall-ink);
    outline-offset: 3px;
  }
`;

/** A place to lay photographs down, which chooses files where it is pressed. */
export function LayDown({ says, onFiles }: { says: string; onFiles: (files: File[]) => void }) {
  const client = useQueryClient();
  return (
    <Drop data-tour="choose" onPress={() => chooseFiles(onFiles, client)}>
      <svg viewBox="0 0 64 44" aria-hidden="true">
        <path d="M8.500 12.500 33 6.500l6.200 22.500-24.500 6z" strokeOpacity=".65" />
        <path d="M27 13h31v25H27z" fill="var(--wall)" />
        <path d="M42.500 20v11M37 25.500h11" />
      </svg>
      <b>Lay photographs down here</b>
      <span>{says}</span>
      <u>Choose files</u>
    </Drop>
  );
}
