import { ChevronRight, Ellipsis } from 'lucide-react';
import { memo, useState } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { mixNames, type Mix } from '../../../core/colour/mixes';
import { isWhole } from '../../../core/masks/reach';
import { stepKind } from '../../../core/steps';
import type { Stage } from '../../../core/steps/define';
import { changeStep } from '../../../core/treatment/edit';
import { neighbourBefore } from '../../../core/treatment/groups';
import type { Step, Treatment } from '../../../core/treatment/schema';
import { wordFor } from '../../app/words';
import { tell } from '../../app/notices';
import { smallPictures } from '../../engine/client';
import type { PictureInfo } from '../../engine/tiles';
import { Button, IconButton, LinkButton } from '../../ui/buttons';
import { OnOff } from '../../ui/on-off';
import { Menu, Picker } from '../../ui/overlays';
import { Slider } from '../../ui/slider';
import { NameField } from '../../ui/inplace';
import type { PickColour } from '../tools/usePicking';
import { AreaSection } from '../areas/AreaSection';
import { AdviceLine } from './AdviceLine';
import { FieldControls, type SetSetting } from './FieldControls';
import { Loupe } from './Loupe';
import { ReachControl } from './ReachControl';
import { HoldContext, ToolsContext, useTools, type Hold } from './tools';

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

const Laying = styled.section`
  .offers {
    display: flex;
    gap: 8px;
    padding: 2px 0;
  }
  padding: 6px 16px 8px;
  border-top: 1px solid var(--rule);
  .mix {
    display: grid;
    grid-template-columns: 72px 1fr;
    column-gap: 10px;
    align-items: center;
    height: 34px;
    color: var(--ink-2);
  }
`;

const Fold = styled(AriaButton)`
  display: flex;
  align-items: center;
  gap: 6px;
  width: 100%;
  height: 30px;
  font-weight: 600;
  small {
    margin-left: auto;
    color: var(--ink-2);
    font-weight: 400;
    font-size: var(--t-small);
  }
  svg {
    width: 14px;
    height: 14px;
    color: var(--ink-2);
  }
  &[aria-expanded='true'] svg {
    transform: rotate(90deg);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
`;

/** How the step is laid on: its mix, tried on the picture while pointed at, and the tones that it reaches. */
const LayingOn = memo(function LayingOn({
  treatment,
  step,
  onPreview,
  onCommit,
}: Pick<StepPanelProps, 'treatment' | 'step' | 'onPreview' | 'onCommit'>) {
  const [open, setOpen] = useState(false);
  /** The mix that closing without a choice brings back. */
  const [beforeTrying, setBeforeTrying] = useState<Mix | null>(null);
  const change = (part: Partial<Step>) => changeStep(treatment, step.id, part);
  const name = step.name || wordFor(step.kind);
  const { own, beneath } = step.reach;
  const limited = ![own, beneath].every(isWhole);
  const reach = (part: Partial<Step['reach']>, done: boolean) => {
    const next = change({ reach: { ...step.reach, ...part } });
    if (done) onCommit(next, `${name} reach`);
    else onPreview(next);
  };
  return (
    <Laying>
      <div className="mix">
        <span aria-hidden="true">Mix</span>
        <Picker
          label="Mix"
          value={beforeTrying ?? step.mix}
          options={mixNames.map(m => ({ value: m, text: wordFor(m) }))}
          onChange={mix => {
            setBeforeTrying(null);
            onCommit(change({ mix }), `${name} mix`);
          }}
          onTry={tried => {
            const before = beforeTrying ?? step.mix;
            onPreview(change({ mix: tried ?? before }));
            setBeforeTrying(tried === null ? null : before);
          }}
        />
      </div>
      <Fold aria-expanded={open} onPress={() => setOpen(!open)}>
        <ChevronRight aria-hidden="true" />
        Reach
        <small>{limited ? 'Some tones' : 'All tones'}</small>
      </Fold>
      {open ? (
        <>
          <ReachControl label="Its own tones" range={own} onChange={(r, done) => reach({ own: r }, done)} />
          <ReachControl
            label="Tones beneath"
            range={beneath}
            onChange={(r, done) => reach({ beneath: r }, done)}
          />
          {limited ? (
            <LinkButton onPress={() => reach({ own: [0, 0, 1, 1], beneath: [0, 0, 1, 1] }, true)}>
              Reach all tones
            </LinkButton>
          ) : null}
        </>
      ) : null}
    </Laying>
  );
});

/** Settings found from the picture, for kinds that can. */
function Automatic({ onChooseMono }: Pick<StepPanelProps, 'onChooseMono'>) {
  const { picture, treatment, step, commit } = useTools();
  const [busy, setBusy] = useState(false);
  const able =
    step.kind === 'light' ||
    (step.kind === 'mono' && (step.settings as { method: string }).method === 'response');
  if (!able && step.kind !== 'mono') return null;
  const find = async () => {
    setBusy(true);
    try {
      const { engine } = await smallPictures();
      const at = treatment.steps.findIndex(s => s.id === step.id);
      const beneath = { ...treatment, strength: 1, steps: treatment.steps.slice(0, at) };
      const found =
        step.kind === 'light'
          ? await engine.autoLight(picture, beneath)
          : { response: await engine.autoResponse(picture, beneath) };
      const settings = { ...step.settings, ...found } as Step['settings'];
      commit(changeStep(treatment, step.id, { settings }), `${wordFor(step.kind)}: automatic`);
    } catch (error) {
      tell({ text: `Nothing was found: ${(error as Error).message}`, tone: 'problem' });
    } finally {
      setBusy(false);
    }
  };
  return (
    <Laying>
      <div className="offers">
        {step.kind === 'mono' ? (
          <Button $small onPress={onChooseMono}>
            All conversions
          </Button>
        ) : null}
        {able ? (
          <Button $small onPress={() => void find()} isDisabled={busy}>
            {busy ? 'Looking …' : 'Automatic'}
          </Button>
        ) : null}
      </div>
    </Laying>
  );
}

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
  /** Sets a setting of the chosen step; must stay the same function. */
  onSet: SetSetting;
  /** Lays all conversions side by side. */
  onChooseMono: () => void;
  /** Told which settings are held; must stay the same function. */
  onHold: Hold;
  pick: PickColour;
  /** What can be done with the whole step, by the names of the menu. */
  onAction: (stepId: string, action: StepAction) => void;
  /** The newest treatment; must stay the same function. */
  now: () => Treatment;
}

export type StepAction = 'left' | 'right' | 'copy' | 'group' | 'leave' | 'remove';

/** Name, place and switch of a step, and what can be done with the whole of it. */
const Title = memo(function Title({
  stepId,
  kind,
  name: given,
  enabled,
  stage,
  place,
  inGroup,
  groupable,
  now,
  onCommit,
  onAction,
}: {
  stepId: string;
  kind: string;
  name: string;
  enabled: boolean;
  stage: Stage;
  place: string;
  inGroup: boolean;
  groupable: boolean;
  /** The newest treatment. */
  now: () => Treatment;
  onCommit: StepPanelProps['onCommit'];
  onAction: StepPanelProps['onAction'];
}) {
  const name = given || wordFor(kind);
  const [naming, setNaming] = useState(false);
  const change = (part: Partial<Step>) => changeStep(now(), stepId, part);
  return (
    <div className="title">
      {naming ? (
        <NameField
          label="Name of this step"
          value={name}
          onDone={called => {
            setNaming(false);
            const next = called === null || called === wordFor(kind) ? '' : called;
            if (called !== null && next !== given)
              onCommit(change({ name: next }), `Name ${name.toLowerCase()}`);
          }}
        />
      ) : (
        <h2 onDoubleClick={() => setNaming(true)}>{name}</h2>
      )}
      <small>
        {wordFor(stage)}
        {place}
      </small>
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
              { id: 'copy', text: 'Copy', keys: 'Ctrl D' },
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
    </div>
  );
});

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
  onSet,
  onChooseMono,
  onHold,
  pick,
  onAction,
}: StepPanelProps) {
  const kind = stepKind(step.kind)!;
  const name = step.name || wordFor(step.kind);
  const inStage = treatment.steps.filter(s => s.stage === step.stage);
  const change = (part: Partial<Step>) => changeStep(now(), step.id, part);
  const still = stillOf(treatment, calm, step);
  return (
    <>
      <Head>
        <Title
          stepId={step.id}
          kind={step.kind}
          name={step.name}
          enabled={step.enabled}
          stage={step.stage}
          place={inStage.length > 1 ? `, ${inStage.indexOf(step) + 1} of ${inStage.length}` : ''}
          inGroup={step.group !== null}
          groupable={neighbourBefore(treatment, step.id) !== undefined}
          now={now}
          onCommit={onCommit}
          onAction={onAction}
        />
        <Slider
          label="Strength"
          value={step.strength}
          min={0}
          max={1}
          step={0.01}
          standard={1}
          shownTimes={100}
          onChange={strength => onGlide(change({ strength }))}
          onChangeEnd={strength => onCommit(change({ strength }), `${name} strength`)}
        />
      </Head>
      <Body>
        <ToolsContext.Provider
          value={{ picture, treatment, step, commit: onCommit, preview: onPreview, pick }}
        >
          <AdviceLine key={`advice ${step.id}`} />
          <Automatic onChooseMono={onChooseMono} />
          {step.kind === 'grain' || step.kind === 'sharpen' ? <Loupe /> : null}
          <HoldContext.Provider value={onHold}>
            <FieldControls
              key={step.id}
              fields={kind.fields}
              values={step.settings as unknown as Record<string, unknown>}
              set={onSet}
            />
          </HoldContext.Provider>
        </ToolsContext.Provider>
        <AreaSection
          key={`area ${step.id}`}
          picture={picture}
          {...still}
          onPreview={onPreview}
          onCommit={onCommit}
        />
        <LayingOn key={`laying ${step.id}`} {...still} onPreview={onPreview} onCommit={onCommit} />
      </Body>
    </>
  );
}
