import { ProgressBar } from 'react-aria-components';
import styled from 'styled-components';
import type { Photograph } from '../../contract/photographs';
import { useBatch, useStopBatch } from '../app/queries';
import { Push } from '../ui/bar';
import { Button } from '../ui/buttons';
import { batchInWords } from './batch-words';

const Bar = styled.section`
  background: var(--paper-high);
  border-top: 1px solid #c2c2c2;
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 44px;
  padding: 6px 26px;
  .track {
    width: 220px;
    height: 6px;
    background: #d3d3d3;
    border-radius: 3px;
    overflow: hidden;
  }
  .track i {
    display: block;
    height: 100%;
    background: var(--ink);
  }
  p {
    line-height: 1.4;
    max-height: 62px;
    overflow: auto;
  }
`;

/** A change of many photographs: how far it is, stopped, undone as one. */
export function BatchBar({
  batchId,
  photographs,
  onUndo,
  onClose,
}: {
  batchId: string;
  photographs: readonly Photograph[];
  onUndo: () => void;
  onClose: () => void;
}) {
  const { data: batch } = useBatch(batchId);
  const stop = useStopBatch();
  const mayUndo =
    batch &&
    (batch.state === 'done' || batch.state === 'stopped') &&
    batch.items.some(i => i.state === 'done');
  if (!batch) return null;
  const over = batch.items.filter(i => i.state !== 'waiting').length;
  const share = over / Math.max(1, batch.items.length);
  const titles = new Map(photographs.map(p => [p.id, p.title]));
  const isRunning = batch.state === 'running';
  return (
    <Bar aria-label="Change of many photographs">
      {isRunning ? (
        <>
          <span>
            {batch.label}: {over} of {batch.items.length}
          </span>
          <ProgressBar aria-label={batch.label} value={share * 100}>
            <div className="track">
              <i style={{ width: `${share * 100}%` }} />
            </div>
          </ProgressBar>
        </>
      ) : (
        <p role="status">{batchInWords(batch, titles)}</p>
      )}
      <Push />
      {isRunning ? <Button onPress={() => stop.mutate(batchId)}>Stop</Button> : null}
      {mayUndo ? <Button onPress={onUndo}>Undo for all</Button> : null}
      {isRunning ? null : <Button onPress={onClose}>Close</Button>}
    </Bar>
  );
}
