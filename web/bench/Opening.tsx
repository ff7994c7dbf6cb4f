import styled from 'styled-components';
import type { Photograph } from '../../contract/photographs';
import { currentTake, pictureAddress } from '../app/api';
import { BORDER, FOOT, MARGIN } from '../print/useHanging';

/** A photograph whose take is still being opened: its small picture hangs where it will hang itself. */

const Wall = styled.div`
  container-type: size;
  position: relative;
  background: linear-gradient(var(--wall-edge), var(--wall) 14px);
  min-width: 0;
  min-height: 0;
  overflow: hidden;
  > div {
    position: absolute;
    inset: 0 0 ${FOOT}px;
    display: grid;
    place-items: center;
  }
  img {
    box-sizing: content-box;
    border: ${BORDER}px solid var(--paper-high);
    background: var(--paper-high);
    box-shadow: var(--shade-print);
    object-fit: fill;
  }
`;

export function Opening({ photograph }: { photograph: Photograph }) {
  const { width, height, title } = photograph;
  const room = `min(100cqw - ${2 * MARGIN}px, (100cqh - ${FOOT + 2 * MARGIN}px) * ${width / height}, ${width}px)`;
  return (
    <Wall role="status" aria-label={`${title} is being opened`}>
      <div>
        <img
          src={pictureAddress(currentTake(photograph), 160)}
          alt=""
          style={{ width: room, aspectRatio: `${width} / ${height}` }}
        />
      </div>
    </Wall>
  );
}
