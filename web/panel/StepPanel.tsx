import { useCallback, useState } from 'react';
import styled from 'styled-components';
import { stepKind } from '../../core/steps';
import { traysOf } from '../../core/treatment/trays';
import { changeStep } from '../../core/treatment/edit';
import { groupOf, neighbourBefore, strengthenGroup } from '../../core/treatment/groups';
import type { Step, Treatment } from '../../core/treatment/treatment';
import type { PictureInfo } from '../engine/tiles';
import { SHARE_OF_ALL, Slider } from '../ui/slider';
import { AreaSection } from '../areas/AreaSection';
import type { PickColour } from '../print/usePicking';
import { AdviceFoot } from './AdviceFoot';
import { ControlTold } from './ControlTold';
import { Automatic } from './Automatic';
import { FieldControls } from '../controls/FieldControls';
import type { Edits, SetSetting, StepAction } from '../takes/edits';
import { LayingOn } from './LayingOn';
import { Loupe } from './Loupe';
import { HeldBy } from '../laying/HeldBy';
import type { Sharing } from '../laying/useSharing';
import type { Tried } from '../takes/tried';
import { Alternatives } from './Alternatives';
import { StepTitle } from './StepTitle';
import type { RegionChoice } from '../print/useRegion';
import { ToneCharts } from './ToneCharts';
import type { TestStrip } from '../teststrip/useTestStrip';
import { HoldContext, LongEdgeContext, ToolsContext, type Hold } from '../controls/tools';
import { nameOfStep } from '../../words/step-names';

const Head = styled.div`
  padding: 8px 16px 7px;
  background: var(--paper);
  flex: none;
`;

const Body = styled.div`
  overflow: hidden auto;
  scrollbar-width: thin;
  min-height: 0;
  padding-bottom: 12px;
`;

export interface StepPanelProps {
  picture: PictureInfo;
  treatment: Treatment;
  /** The treatment without what is still moving. */
  calm: Treatment;
  step: Step;
  onPreview: (treatment: Treatment) => void;
  /** The same from a control that shows its movement by itself. */
  onGlide: (treatment: Treatment) => void;
  onCommit: (treatment: Treatment, label: string) => void;
  /** An edit that must be looked for first. */
  onEditWhenFound: Edits['editWhenFound'];
  /** Sets a setting of the chosen step; must stay the same function. */
  onSet: SetSetting;
  /** Lays the choices of the step side by side. */
  onBoard: () => void;
  /** Told which settings are held; must stay the same function. */
  onHold: Hold;
  pick: PickColour;
  /** What can be done with the whole step, by the names of the menu. */
  onAction: (stepId: string, action: StepAction) => void;
  /** Puts an alternative of the step to work. */
  onAlternate: (stepId: string) => void;
  /** Shows something in the print; must stay the same function. */
  onTry: (tried: Tried | null) => void;
  /** The newest treatment; must stay the same function. */
  now: () => Treatment;
  sharing: Sharing;
  strip: TestStrip;
  /** Begins to paint out where the step is not wanted; must stay the same function. */
  onSpare: () => void;
  region: RegionChoice;
}

/** What the sections about the laying of a step show: the calm treatment, unless just that is moving. */
function stillOf(treatment: Treatment, calm: Treatment, step: Step): { treatment: Treatment; step: Step } {
  const before = calm.steps.find(s => s.id === step.id);
  const isStill =
    before &&
    calm.masks === treatment.masks &&
    before.mask === step.mask &&
    before.mix === step.mix &&
    before.reach === step.reach;
  return isStill ? { treatment: calm, step: before } : { treatment, step };
}

/** The chosen step: its name, switch and strength at the head, its settings below. */
export function StepPanel({
  picture,
  treatment,
  calm,
  step,
  now,
  onPreview,
  onGlide,
  onCommit,
  onEditWhenFound,
  onSet,
  onBoard,
  onHold,
  pick,
  onAction,
  onAlternate,
  onTry,
  sharing,
  strip,
  onSpare,
  region,
}: StepPanelProps) {
  const kind = stepKind(step.kind)!;
  const name = nameOfStep(step);
  const inStage = traysOf(treatment.steps.filter(s => s.stage === step.stage));
  const place = inStage.findIndex(tray => tray.includes(step)) + 1;
  const group = groupOf(treatment, step.group);
  const change = (part: Partial<Step>) => changeStep(now(), step.id, part);
  const still = stillOf(treatment, calm, step);
  const calmStep = calm.steps.find(s => s.id === step.id);
  const [held, setHeld] = useState(false);
  const hold = useCallback<Hold>(
    paths => {
      setHeld(paths.length > 0);
      onHold(paths);
    },
    [onHold],
  );
  const tools = {
    ...{ picture, treatment, step, pick },
    ...{ commit: onCommit, editWhenFound: onEditWhenFound, preview: onPreview, tryOn: onTry },
  };
  // What a wash is comes before where it lies; of any other step where it lies is a line, or what is worked on.
  const areaFirst = !kind.startsOnArea;
  const areaSection = (
    <AreaSection
      key={`area ${step.id}`}
      picture={picture}
      {...still}
      onPreview={onPreview}
      onCommit={onCommit}
      onSpare={onSpare}
    />
  );
  return (
    <>
      <Head>
        <StepTitle
          stepId={step.id}
          kind={step.kind}
          name={name}
          given={step.name}
          enabled={step.enabled}
          stage={step.stage}
          place={inStage.length > 1 ? `, ${place} of ${inStage.length}` : ''}
          isOneOf={step.alternative !== undefined}
          inGroup={step.group !== null}
          groupable={neighbourBefore(treatment, step.id) !== undefined}
          now={now}
          onCommit={onCommit}
          onAction={onAction}
          strip={strip}
        />
        <Alternatives
          treatment={calm}
          stepId={step.id}
          onTry={onTry}
          onShow={onAlternate}
          onAdd={() => onAction(step.id, 'beside')}
        />
        <Slider
          key={`strength ${step.id}`}
          label="Strength"
          value={step.strength}
          {...SHARE_OF_ALL}
          onChange={strength => onGlide(change({ strength }))}
          onChangeEnd={strength => onCommit(change({ strength }), `${name} strength`)}
        />
        {group ? (
          <Slider
            key={`group ${group.id} ${step.id}`}
            label="Group"
            name={`Strength of ${group.name}`}
            value={group.strength}
            {...SHARE_OF_ALL}
            onChange={strength => onGlide(strengthenGroup(now(), step.id, strength))}
            onChangeEnd={strength =>
              onCommit(strengthenGroup(now(), step.id, strength), `${group.name} strength`)
            }
          />
        ) : null}
        <HeldBy step={step} sharing={sharing} />
      </Head>
      <Body>
        <ToolsContext.Provider value={tools}>
          {areaFirst ? areaSection : null}
          <Automatic onBoard={onBoard} />
          {kind.seenNatural ? <Loupe /> : null}
          <HoldContext.Provider value={hold}>
            <LongEdgeContext.Provider value={Math.max(picture.width, picture.height)}>
              <FieldControls key={step.id} fields={kind.fields} values={{ ...step.settings }} set={onSet} />
            </LongEdgeContext.Provider>
          </HoldContext.Provider>
        </ToolsContext.Provider>
        {areaFirst ? null : areaSection}
        <LayingOn key={`laying ${step.id}`} {...still} onPreview={onPreview} onCommit={onCommit} />
        <ToneCharts picture={picture} treatment={calm} choice={region} />
      </Body>
      {calmStep ? <ControlTold picture={picture} treatment={calm} step={calmStep} /> : null}
      <ToolsContext.Provider value={tools}>
        <AdviceFoot key={`advice ${step.id}`} held={held} />
      </ToolsContext.Provider>
    </>
  );
}
