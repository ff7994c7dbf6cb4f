import { Ellipsis } from 'lucide-react';
import { Switch } from 'react-aria-components';
import styled from 'styled-components';
import { stepKind } from '../../../core/steps';
import { changeStep } from '../../../core/treatment/edit';
import type { Step, Treatment } from '../../../core/treatment/schema';
import { wordFor } from '../../app/words';
import { IconButton } from '../../ui/buttons';
import { Menu } from '../../ui/overlays';
import { Slider } from '../../ui/slider';
import { FieldControls, type SetSetting } from './FieldControls';

const Head = styled.div`
  padding: 8px 16px 7px;
  background: var(--paper);
  flex: none;
  .title {
    display: flex;
    align-items: center;
    height: 34px;
    gap: 9px;
    margin-right: -7px;
  }
  h2 {
    font-size: 15px;
    font-weight: 650;
    letter-spacing: -0.005em;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  small {
    color: var(--ink-2);
    font-size: var(--t-small);
    margin-right: auto;
    padding-top: 2px;
    white-space: nowrap;
  }
`;

const Body = styled.div`
  overflow: hidden auto;
  scrollbar-width: thin;
  min-height: 0;
  padding-bottom: 12px;
`;

const OnOff = styled(Switch)`
  width: 34px;
  height: 18px;
  border-radius: 9px;
  background: #8a8a8a;
  position: relative;
  cursor: pointer;
  flex: none;
  i {
    position: absolute;
    width: 14px;
    height: 14px;
    border-radius: 50%;
    left: 2px;
    top: 2px;
    background: var(--paper-high);
  }
  &[data-selected] {
    background: var(--ink);
    i {
      left: 18px;
    }
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
`;

export interface StepPanelProps {
  treatment: Treatment;
  step: Step;
  onPreview: (treatment: Treatment) => void;
  onCommit: (treatment: Treatment, label: string) => void;
  /** Sets a setting of the chosen step; must stay the same function. */
  onSet: SetSetting;
  onMove: (by: -1 | 1) => void;
  onRemove: () => void;
}

/** The chosen step: its name, switch and strength at the head, its settings below. */
export function StepPanel({ treatment, step, onPreview, onCommit, onSet, onMove, onRemove }: StepPanelProps) {
  const kind = stepKind(step.kind)!;
  const name = step.name || wordFor(step.kind);
  const inStage = treatment.steps.filter(s => s.stage === step.stage);
  const change = (part: Partial<Step>) => changeStep(treatment, step.id, part);
  return (
    <>
      <Head>
        <div className="title">
          <h2>{name}</h2>
          <small>
            {wordFor(step.stage)}
            {inStage.length > 1 ? `, ${inStage.indexOf(step) + 1} of ${inStage.length}` : ''}
          </small>
          <OnOff
            aria-label={`${name} on`}
            isSelected={step.enabled}
            onChange={enabled => onCommit(change({ enabled }), `${name} ${enabled ? 'on' : 'off'}`)}
          >
            <i />
          </OnOff>
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
                  { id: 'left', text: 'Move left', keys: 'Alt ←' },
                  { id: 'right', text: 'Move right', keys: 'Alt →' },
                  { id: 'remove', text: 'Remove', keys: 'Delete' },
                ],
              },
            ]}
            onAction={id => (id === 'remove' ? onRemove() : onMove(id === 'left' ? -1 : 1))}
          />
        </div>
        <Slider
          label="Strength"
          value={step.strength}
          min={0}
          max={1}
          step={0.01}
          standard={1}
          shownTimes={100}
          onChange={strength => onPreview(change({ strength }))}
          onChangeEnd={strength => onCommit(change({ strength }), `${name} strength`)}
        />
      </Head>
      <Body>
        <FieldControls
          key={step.id}
          fields={kind.fields}
          values={step.settings as unknown as Record<string, unknown>}
          set={onSet}
        />
      </Body>
    </>
  );
}
