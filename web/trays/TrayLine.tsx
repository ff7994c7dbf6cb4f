import { ChevronLeft, ChevronRight, Plus } from 'lucide-react';
import { memo, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { stages, type Stage } from '../../core/steps/define';
import { placeStep } from '../../core/treatment/edit';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { isKey } from '../app/keys';
import { wordFor } from '../../words/words';
import { WHOLE_STRENGTH } from '../../words/step-settings';
import type { PictureInfo } from '../engine/tiles';
import { shownOf } from '../../core/treatment/alternatives';
import { traysOf } from '../../core/treatment/trays';
import { looksTheSame } from '../../core/treatment/same';
import { groupOf, runsOf } from '../../core/treatment/groups';
import type { CopySteps, Edits } from '../takes/edits';
import { GroupFrame } from './GroupFrame';
import { SmallPicture } from '../print/SmallPicture';
import { Lamp } from './Lamp';
import { TrayOf } from './TrayOf';
import { SHARE_OF_ALL, Slider } from '../ui/slider';
import { LinkButton } from '../ui/buttons';
import { Add, BASIN, Group, Line, More, Rail, Run, Scroll, Whole } from './trays';
import { useStageDrop, type Landing } from './useTrayDrag';
import { useLampStops } from './useLampStops';
import { useMore } from '../ui/useMore';

/** The line is scrolled by so many pixels where more of it is asked for. */
const BY = 360;

export interface TrayLineProps {
  picture: PictureInfo;
  treatment: Treatment;
  chosen: string | null;
  /** How many steps the lamp lights; all when it is at the end. */
  lamp: number;
  onChoose: (id: string) => void;
  /** The trays that a copy takes: a range about the chosen one. */
  picked: readonly string[];
  onPick: (ids: readonly string[]) => void;
  onCopy: CopySteps;
  onLamp: (lamp: number) => void;
  /** Lays out what may be added to a stage; pressed again, it is put away. */
  onAdd: (stage: Stage) => void;
  /** The stage that something is being added to. */
  adding: Stage | null;
  /** Takes pigments in the hand, and puts them back. */
  onTint: () => void;
  tinting: boolean;
  /** The looks that the series shares, by their ids. */
  shared: readonly string[];
  edits: Edits;
}

function StageGroup({
  stage,
  onDrop,
  act,
  children,
}: {
  stage: Stage;
  onDrop: (dropped: string) => void;
  /** What else can be done there, beside its name. */
  act?: React.ReactNode;
  children: React.ReactNode;
}) {
  const { ref, dropProps, isDropTarget } = useStageDrop(onDrop);
  return (
    <Group
      ref={ref}
      {...dropProps}
      role="group"
      data-stage={stage}
      data-landing={isDropTarget || undefined}
      aria-label={wordFor(stage)}
    >
      <h3>
        <span data-word={wordFor(stage)}>{wordFor(stage)}</span>
        {act}
      </h3>
      <div>{children}</div>
    </Group>
  );
}

/** The treatment up to each of its steps. */
const upToEach = (treatment: Treatment, before: readonly Treatment[]): readonly Treatment[] =>
  treatment.steps.map((_, i) => {
    const part = { ...treatment, strength: 1, steps: treatment.steps.slice(0, i + 1) };
    const old = before[i];
    return old && looksTheSame(old, part) ? old : part;
  });

/** One treatment a tray, the same while nothing that it shows changes, so that its picture is not made again. */
function useUpTo(treatment: Treatment): readonly Treatment[] {
  const [kept, setKept] = useState(() => ({ of: treatment, parts: upToEach(treatment, []) }));
  if (kept.of === treatment) return kept.parts;
  const parts = upToEach(treatment, kept.parts);
  setKept({ of: treatment, parts });
  return parts;
}

/** The steps as trays, in working order: chosen, added, switched, moved by drag or keys, lit by the lamp. */
export const TrayLine = memo(function TrayLine(props: TrayLineProps) {
  const { picture, treatment, chosen, lamp, edits, onChoose, picked, onPick } = props;
  const { steps } = treatment;
  const trays = useMemo(() => traysOf(steps), [steps]);
  /** Groups that are folded, by their ids. */
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const fold = (group: string, away: boolean) =>
    setFolded(now => new Set(away ? [...now, group] : [...now].filter(g => g !== group)));
  const run = useRef<HTMLDivElement>(null);
  const scroll = useRef<HTMLDivElement>(null);
  const more = useMore(scroll);

  const upTo = useUpTo(treatment);

  const { stops, layout } = useLampStops(run, trays, folded);
  const lampX = stops.findLast(s => s.lit <= lamp)?.x ?? 20;

  useLayoutEffect(() => {
    if (!chosen) return;
    run.current
      ?.querySelector(`[data-tray="${window.CSS.escape(chosen)}"]`)
      ?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [chosen]);

  /** The tray to be focused again when the line has been laid anew. */
  const toFocus = useRef<string | null>(null);
  const find = (id: string) =>
    run.current?.querySelector<HTMLElement>(`[data-holds~="${window.CSS.escape(id)}"]`);
  const focusTray = (id: string) => {
    find(id)?.focus();
    toFocus.current = id;
  };
  useLayoutEffect(() => {
    if (toFocus.current !== null) find(toFocus.current)?.focus();
    toFocus.current = null;
  }, [layout]);

  /** Takes the range from the chosen tray, or from its far end, to this one: with all that lies in them. */
  const pickTo = (id: string) => {
    const at = (of: string | null) => trays.findIndex(tray => tray.some(s => s.id === of));
    const [from, to] = [at(chosen), at(id)].sort((a, b) => a - b);
    const range = trays.slice(from, to + 1).flat();
    onPick(from < 0 || from === to ? [id] : range.map(s => s.id));
  };

  const onKey = (event: KeyboardEvent, step: Step) => {
    const i = trays.findIndex(tray => tray.includes(step));
    /** The range, where this one is of it. */
    const inHand = picked.includes(step.id) && picked.length > 1 ? picked : [step.id];
    const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
    if (by && event.altKey) {
      edits.nudge(step.id, by as -1 | 1);
      focusTray(step.id);
    } else if (by) {
      const tray = trays[i + by];
      const next = tray && shownOf(tray);
      if (next && event.shiftKey) {
        pickTo(next.id);
        find(next.id)?.focus();
      } else if (next) {
        onChoose(next.id);
        find(next.id)?.focus();
      }
    } else if (isKey('removeTray', event)) {
      const left = trays.map(tray => tray.filter(s => !inHand.includes(s.id)));
      const next =
        left.find((tray, k) => k >= i && tray.length > 0) ?? left.findLast(tray => tray.length > 0);
      edits.remove(inHand);
      if (next) focusTray(next[0].id);
    } else if (isKey('copyTray', event)) edits.copy(inHand);
    else if (isKey('toggleTray', event)) edits.toggle(inHand);
    else if (isKey('groupTrays', event) && inHand.length > 1) edits.groupAll(inHand);
    else return;
    event.preventDefault();
  };

  const dropInStage = (id: string, stage: Stage) => {
    if (steps.find(s => s.id === id)?.stage === stage) return;
    edits.place(placeStep(edits.now(), id, stage, Number.MAX_SAFE_INTEGER), id);
    focusTray(id);
  };
  const dropBeside = (id: string, other: Step, where: Landing) => {
    const rest = trays.filter(tray => tray[0].stage === other.stage && !tray.some(s => s.id === id));
    const at = rest.findIndex(tray => tray.includes(other)) + (where === 'after' ? 1 : 0);
    const place = rest.slice(0, at).flat().length;
    const placed = placeStep(edits.now(), id, other.stage, place);
    const order = (of: Treatment) => of.steps.map(s => `${s.id} ${s.stage}`).join();
    if (order(placed) !== order(edits.now())) edits.place(placed, id);
    focusTray(id);
  };

  const idsOf = (group: string) => steps.filter(s => s.group === group).map(s => s.id);
  const tabbable = chosen && steps.some(s => s.id === chosen) ? chosen : trays[0] && shownOf(trays[0]).id;
  return (
    <Line
      aria-label="Treatment, in working order"
      style={{ '--lamp-x': `${lampX}px` } as React.CSSProperties}
    >
      <Scroll ref={scroll} data-scroll>
        <Run ref={run}>
          <Rail />
          {stages.map(stage => {
            const inStage = steps.filter(s => s.stage === stage);
            return (
              <StageGroup
                key={stage}
                stage={stage}
                onDrop={id => dropInStage(id, stage)}
                act={
                  stage === 'colour' ? (
                    <LinkButton
                      data-tour="tint"
                      aria-pressed={props.tinting}
                      onPress={props.onTint}
                      style={{ marginLeft: 10 }}
                    >
                      Tint
                    </LinkButton>
                  ) : undefined
                }
              >
                {runsOf(inStage).map(run => {
                  const inRun = traysOf(run.steps).map(tray => {
                    const step = shownOf(tray);
                    return (
                      <TrayOf
                        key={step.alternative?.tray ?? step.id}
                        step={step}
                        tray={tray}
                        onNext={() => edits.alternate(tray[(tray.indexOf(step) + 1) % tray.length].id)}
                        picture={picture}
                        upTo={upTo[steps.indexOf(step)]}
                        held={step.look !== undefined && props.shared.includes(step.look.id)}
                        chosen={step.id === chosen}
                        later={steps.indexOf(tray.at(-1)!) >= lamp}
                        tabbable={step.id === tabbable}
                        picked={picked.length > 1 && picked.includes(step.id)}
                        onChoose={range => (range ? pickTo(step.id) : onChoose(step.id))}
                        onKey={event => onKey(event, step)}
                        onDrop={(id, where) => dropBeside(id, step, where)}
                      />
                    );
                  });
                  if (run.group === null) return inRun;
                  const last = run.steps.at(-1)!;
                  return (
                    <GroupFrame
                      key={`group ${run.steps[0].id}`}
                      run={run}
                      called={groupOf(treatment, run.group)!}
                      first={run.steps[0] === inStage[0]}
                      folded={folded.has(run.group)}
                      chosen={run.steps.some(s => s.id === chosen)}
                      onFold={away => fold(run.group!, away)}
                      onChoose={() => onChoose(last.id)}
                      actions={edits.group}
                      onDouble={() => edits.copy(idsOf(run.group!))}
                      onRemove={() => edits.remove(idsOf(run.group!))}
                      onCopy={() => props.onCopy(idsOf(run.group!))}
                      face={
                        <SmallPicture picture={picture} treatment={upTo[steps.indexOf(last)]} {...BASIN} />
                      }
                    >
                      {inRun}
                    </GroupFrame>
                  );
                })}
                <Add
                  aria-label={`Add a step to ${wordFor(stage)}`}
                  aria-expanded={props.adding === stage}
                  data-add={stage}
                  onPress={() => props.onAdd(stage)}
                >
                  <Plus aria-hidden="true" />
                </Add>
              </StageGroup>
            );
          })}
          <Lamp stops={stops} lit={lamp} onMove={props.onLamp} />
        </Run>
      </Scroll>
      {(['left', 'right'] as const).map(side =>
        more[side] ? (
          <More
            key={side}
            data-side={side}
            aria-hidden="true"
            onClick={() => scroll.current?.scrollBy({ left: side === 'left' ? -BY : BY, behavior: 'smooth' })}
          >
            {side === 'left' ? <ChevronLeft /> : <ChevronRight />}
          </More>
        ) : null,
      )}
      {steps.length ? (
        <Whole>
          <Slider
            label="Whole"
            name={WHOLE_STRENGTH}
            value={treatment.strength}
            {...SHARE_OF_ALL}
            onChange={strength => edits.glide({ ...edits.now(), strength })}
            onChangeEnd={strength => edits.commit({ ...edits.now(), strength }, 'Strength of the whole')}
          />
        </Whole>
      ) : null}
    </Line>
  );
});
