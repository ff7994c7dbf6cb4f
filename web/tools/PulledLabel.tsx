import styled from 'styled-components';
import { wordFor } from '../../words/words';
import type { OnWall } from '../print/tool';
import type { Pulled } from './usePull';

const Label = styled.div`
  position: absolute;
  transform: translate(18px, -50%);
  background: var(--paper-high);
  border-radius: var(--r-label);
  box-shadow: var(--shade-label);
  padding: 6px 10px;
  pointer-events: none;
  display: grid;
  grid-template-columns: auto auto;
  column-gap: 12px;
  font-variant-numeric: tabular-nums;
  small {
    grid-column: 1 / -1;
    color: var(--ink-2);
  }
  b {
    font-weight: 600;
    text-align: right;
  }
`;

const Ring = styled.i`
  position: absolute;
  width: 14px;
  height: 14px;
  margin: -7px;
  border-radius: 50%;
  border: 2px solid #fff;
  box-shadow: 0 0 0 1px rgb(0 0 0 / 0.6);
  pointer-events: none;
`;

/** The place that is pulled, and the families that move. */
export function PulledLabel({ pulled, onWall }: { pulled: Pulled; onWall: OnWall }) {
  const left = onWall.left + pulled.at.x * onWall.width;
  const top = onWall.top + pulled.at.y * onWall.height;
  return (
    <>
      <Ring style={{ left, top }} />
      <Label style={{ left, top }} role="status" aria-label="Pulled">
        {pulled.families.map(({ family, value }) => (
          <span key={family} style={{ display: 'contents' }}>
            <span>{wordFor(family)}</span>
            <b>{`${value > 0 ? '+' : ''}${Math.round(value * 100)}`.replace('-', '−')}</b>
          </span>
        ))}
        {pulled.families.every(({ value }) => Math.abs(value) === 1) ? (
          <small>As far as this colour goes.</small>
        ) : null}
      </Label>
    </>
  );
}
