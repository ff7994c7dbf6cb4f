import { useState } from 'react';
import styled from 'styled-components';
import { wholeFrame } from '../../core/frame/frame';
import { isOnPainted, type Laying } from '../../core/treatment/laying';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { nameOfStep } from '../../words/step-names';
import { Button } from '../ui/buttons';
import { HowLaid } from './HowLaid';
import { Dialog, DialogActions } from '../ui/overlays';

const Choices = styled.div`
  display: grid;
  gap: 12px;
  margin-top: 14px;
  label {
    display: flex;
    gap: 9px;
    align-items: baseline;
    line-height: 1.4;
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: var(--t-small);
  }
`;

/** How it was chosen last, for as long as this window is open. */
let last: Laying = { how: 'added', frame: false, painted: false };

const counted = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`;

/** Asks how a treatment that was copied is to be laid on. */
export function LayOn({
  part,
  onLay,
  onClose,
}: {
  part: Treatment;
  onLay: (laying: Laying) => void;
  onClose: () => void;
}) {
  const [laying, setLaying] = useState(last);
  const hasFrame = JSON.stringify(part.frame) !== JSON.stringify(wholeFrame());
  const painted = part.steps.filter(s => isOnPainted(s, part));
  const isStaying = (step: Step) => !laying.painted && painted.includes(step);
  const staying = laying.painted ? 0 : painted.length;
  return (
    <Dialog title="Lay on what was copied" onClose={onClose}>
      <p>
        {counted(part.steps.length - staying, 'step')}:{' '}
        {part.steps
          .filter(s => !isStaying(s))
          .map(nameOfStep)
          .join(', ')}
        .{staying ? ` ${staying} on painted areas ${staying === 1 ? 'stays' : 'stay'} behind.` : ''}
      </p>
      <Choices>
        <HowLaid how={laying.how} onChange={how => setLaying({ ...laying, how })} />
        {painted.length ? (
          <label>
            <input
              type="checkbox"
              checked={laying.painted}
              onChange={event => setLaying({ ...laying, painted: event.target.checked })}
            />
            <span>
              With painted areas
              <small>They were painted on another photograph and may lie beside what they meant.</small>
            </span>
          </label>
        ) : null}
        {hasFrame ? (
          <label>
            <input
              type="checkbox"
              checked={laying.frame}
              onChange={event => setLaying({ ...laying, frame: event.target.checked })}
            />
            <span>With its frame: crop, angle, turn</span>
          </label>
        ) : null}
      </Choices>
      <DialogActions>
        <Button onPress={onClose}>Leave it</Button>
        <Button
          $ink
          autoFocus
          onPress={() => {
            last = laying;
            onLay(laying);
          }}
        >
          Lay on
        </Button>
      </DialogActions>
    </Dialog>
  );
}
