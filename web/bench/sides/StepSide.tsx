import { useCallback, useMemo } from 'react';
import styled from 'styled-components';
import { sparing } from '../../../core/treatment/areas';
import type { Treatment } from '../../../core/treatment/treatment';
import { nameOfStep } from '../../../words/step-names';
import { StepPanel } from '../../panel/StepPanel';
import { settingOf, type StepAction } from '../../takes/edits';
import { FirstMoves } from '../FirstMoves';
import { usePicked, useWork } from '../work';
import { useAtHand } from '../in-hand';

const Empty = styled.div`
  padding: 20px 16px;
  color: var(--ink-2);
  line-height: 1.45;
  h2 {
    font-size: 15px;
    font-weight: 650;
    color: var(--ink);
    margin-bottom: 6px;
  }
`;

/** Nothing is done to the photograph, and no area is made on it. */
const isUntouched = ({ steps, masks }: Treatment) => steps.length === 0 && masks.length === 0;

/** The chosen step; where there is none yet, ways to begin. */
export function StepSide() {
  const { treatment, calm, step } = useAtHand();
  if (step) return <OfStep />;
  if (isUntouched(treatment) && isUntouched(calm)) return <Beginning />;
  return (
    <Empty>
      <h2>No step chosen</h2>
      <p>Choose a tray below to change its step.</p>
    </Empty>
  );
}

function Beginning() {
  const { bench, picture, lay } = useWork();
  const { calm } = useAtHand();
  return (
    <FirstMoves
      picture={picture}
      bare={calm}
      onTry={bench.tryOn}
      onTake={(made, label, step) => {
        bench.tryOn(null);
        lay({ ...made, frame: calm.frame }, label, step);
      }}
      onPlain={() => bench.setSide({ what: 'add', stage: 'ground' })}
      onMethods={() => bench.setSide({ what: 'methods' })}
    />
  );
}

function OfStep() {
  const { bench, picture, sharing, copying } = useWork();
  const { session, edits, setSide } = bench;
  const { treatment, calm, step, pick, strip, region, painting } = useAtHand();
  const picked = usePicked();
  const id = step?.id ?? null;
  const set = useMemo(() => settingOf(session, id), [session, id]);
  const { copy } = copying;
  const act = useCallback(
    (of: string, action: StepAction) => {
      if (action === 'take') copy(picked.includes(of) ? picked : [of]);
      else if (action !== 'beside') edits.act(of, action);
      else setSide({ what: 'add', stage: edits.now().steps.find(s => s.id === of)!.stage, beside: of });
    },
    [edits, copy, picked, setSide],
  );
  const { set: setPainting } = painting;
  const spare = useCallback(() => {
    if (id === null) return;
    const name = nameOfStep(edits.now().steps.find(s => s.id === id));
    const spared = sparing(edits.now(), id, `Not all of ${name.toLowerCase()}`);
    if (spared !== edits.now()) edits.commit(spared, `${name} not everywhere`);
    setPainting({ tool: 'brush', taking: true });
  }, [id, edits, setPainting]);
  if (!step) return null;
  return (
    <StepPanel
      picture={picture}
      treatment={treatment}
      step={step}
      onPreview={edits.preview}
      onGlide={edits.glide}
      onCommit={edits.commit}
      onEditWhenFound={edits.editWhenFound}
      onSet={set}
      onBoard={bench.openBoard}
      onHold={bench.hold}
      pick={pick}
      onAction={act}
      onAlternate={edits.alternate}
      onTry={bench.tryOn}
      strip={strip}
      onSpare={spare}
      region={region}
      now={edits.now}
      calm={calm}
      sharing={sharing}
    />
  );
}
