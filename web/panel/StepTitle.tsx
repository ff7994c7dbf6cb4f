import { Ellipsis } from 'lucide-react';
import { memo, useState } from 'react';
import styled from 'styled-components';
import type { Stage } from '../../core/steps/define';
import { changeStep } from '../../core/treatment/edit';
import { StripMenu } from '../teststrip/StripMenu';
import type { TestStrip } from '../teststrip/useTestStrip';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { wordFor } from '../../words/words';
import { IconButton } from '../ui/buttons';
import type { StepAction } from '../takes/edits';
import { NameField } from '../ui/inplace';
import { OnOff } from '../ui/on-off';
import { Menu } from '../ui/overlays';

/** Name, place and switch in one row. */
const Row = styled.div`
  display: flex;
  align-items: center;
  height: 34px;
  gap: 9px;
  margin-right: -7px;
  h2 {
    font-size: 15px;
    font-weight: 650;
    letter-spacing: -0.005em;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
    flex: 0 1 auto;
    min-width: 0;
  }
  small {
    flex: 0 999 auto;
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    color: var(--ink-2);
    font-size: var(--t-small);
    margin-right: auto;
    padding-top: 2px;
    white-space: nowrap;
  }
`;

/** Name, place and switch of a step, and what can be done with the whole of it. */
export const StepTitle = memo(function StepTitle({
  stepId,
  kind,
  name,
  given,
  isOneOf,
  enabled,
  stage,
  place,
  inGroup,
  groupable,
  now,
  onCommit,
  onAction,
  strip,
}: {
  stepId: string;
  kind: string;
  /** As it is called. */
  name: string;
  /** The name that it was given; empty where it has none. */
  given: string;
  /** Alternatives lie in its tray. */
  isOneOf: boolean;
  enabled: boolean;
  stage: Stage;
  place: string;
  inGroup: boolean;
  groupable: boolean;
  /** The newest treatment. */
  now: () => Treatment;
  onCommit: (treatment: Treatment, label: string) => void;
  onAction: (stepId: string, action: StepAction) => void;
  strip: TestStrip;
}) {
  const [naming, setNaming] = useState(false);
  const change = (part: Partial<Step>) => changeStep(now(), stepId, part);
  return (
    <Row data-context>
      {naming ? (
        <NameField
          label="Name of this step"
          value={name}
          onDone={called => {
            setNaming(false);
            if (called === null || called === name) return;
            const next = called === wordFor(kind) ? '' : called;
            if (next !== given) onCommit(change({ name: next }), `Name ${name.toLowerCase()}`);
          }}
        />
      ) : (
        <h2 tabIndex={-1} onDoubleClick={() => setNaming(true)}>
          {name}
        </h2>
      )}
      <small>
        {wordFor(stage)}
        {place}
      </small>
      <StripMenu strip={strip} />
      <OnOff
        label={`${name} on`}
        isOn={enabled}
        onChange={on => onCommit(change({ enabled: on }), `${name} ${on ? 'on' : 'off'}`)}
      />
      <Menu
        label={`More for ${name}`}
        trigger={
          <IconButton aria-label="More">
            <Ellipsis aria-hidden="true" />
          </IconButton>
        }
        sections={[
          {
            entries: [
              { id: 'name', text: 'Name' },
              { id: 'copy', text: 'Double it', keys: 'Ctrl D' },
              { id: 'take', text: 'Copy, to lay on elsewhere', keys: 'Ctrl C' },
              { id: 'beside', text: 'Add an alternative' },
              ...(isOneOf ? [{ id: 'apart', text: 'Lay its alternatives out' }] : []),
              ...(groupable ? [{ id: 'group', text: 'Group with the one before' }] : []),
              ...(inGroup ? [{ id: 'leave', text: 'Take out of its group' }] : []),
            ],
          },
          {
            entries: [
              { id: 'left', text: 'Move left', keys: 'Alt ←' },
              { id: 'right', text: 'Move right', keys: 'Alt →' },
              { id: 'remove', text: 'Remove', keys: 'Delete' },
            ],
          },
        ]}
        onAction={id => (id === 'name' ? setNaming(true) : onAction(stepId, id as StepAction))}
      />
    </Row>
  );
});
