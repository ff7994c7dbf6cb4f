import { useQueryClient } from '@tanstack/react-query';
import { Crop, Info, Redo2, Undo2 } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { useNavigate, useParams } from 'react-router';
import styled from 'styled-components';
import type { Stage } from '../../core/steps/define';
import type { Kind } from '../../core/steps';
import {
  addStep,
  changeSetting,
  changeStep,
  copyStep,
  newStep,
  nudgeStep,
  removeStep,
} from '../../core/treatment/edit';
import { groupWithBefore, leaveGroup, nameGroup, switchGroup, ungroup } from '../../core/treatment/groups';
import { whileHeld } from '../../core/treatment/held';
import { bareTreatment, type Step, type Treatment } from '../../core/treatment/schema';
import { ask, messageOf, type Photograph, type Series, type Take } from '../app/api';
import { tell } from '../app/notices';
import { keys, useChangePhotograph, usePhotograph, useSeries } from '../app/queries';
import { wordFor } from '../app/words';
import { Bar, Crumbs, Push, WallTones } from '../ui/bar';
import { Button, IconButton } from '../ui/buttons';
import { Wait } from '../ui/wait';
import { Conflict } from './Conflict';
import type { SetSetting } from './controls/FieldControls';
import { StepPanel, type StepAction } from './controls/StepPanel';
import type { Hold } from './controls/tools';
import { showingArea } from '../../core/treatment/areas';
import { framedSize } from '../../core/engine/geometry';
import { BrushCursor } from './areas/BrushCursor';
import { PaintBar } from './areas/PaintBar';
import { ShapeHandles } from './areas/ShapeHandles';
import { usePainting } from './areas/usePainting';
import { Details } from './Details';
import { CropOverlay } from './frame/CropOverlay';
import { FramePanel } from './frame/FramePanel';
import { useFraming } from './frame/useFraming';
import { isTyping } from './keys';
import { MonoBoard } from './MonoBoard';
import { SavingMark } from './SavingMark';
import { TakeSession } from './session';
import { Strip } from './Strip';
import { Takes } from './Takes';
import { PulledLabel } from './tools/PulledLabel';
import { usePicking } from './tools/usePicking';
import { usePull } from './tools/usePull';
import { VignetteOval } from './tools/VignetteOval';
import { TrayLine } from './trayline/TrayLine';
import { findUnsaved } from './unsaved';
import { PictureView } from './view/PictureView';

const Frame = styled.div`
  height: 100vh;
  display: grid;
  grid-template: var(--bar) minmax(0, 1fr) var(--line) / var(--strip) minmax(0, 1fr) var(--panel);
  > header {
    grid-column: 1 / -1;
  }
`;

/** Where the picture hangs, and what is laid over it. */
const Place = styled.div`
  position: relative;
  display: grid;
  min-width: 0;
  min-height: 0;
`;

const Panel = styled.aside`
  background: var(--paper);
  border-left: 1px solid #b5b5b5;
  display: flex;
  flex-direction: column;
  min-height: 0;
`;

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

/** The Bench: one photograph being treated. */
export function Bench() {
  const { photographId = '' } = useParams();
  const photograph = usePhotograph(photographId);
  if (photograph.isError) return <Wait problem={messageOf(photograph.error)} />;
  if (!photograph.data) return <Wait />;
  return <BenchOf key={photographId} photograph={photograph.data} />;
}

/** Opens the session of a take: its state on the server, and what an earlier window could not save. */
function useSession(takeId: string): { session: TakeSession | null; problem: string | null } {
  const [opened, setOpened] = useState<{ takeId: string; session: TakeSession } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let stale = false;
    let session: TakeSession | null = null;
    const open = async () => {
      try {
        const take = await ask<Take>('GET', `/api/takes/${takeId}`);
        if (stale) return;
        session = new TakeSession(take, await findUnsaved(takeId));
        if (stale) session.close();
        else setOpened({ takeId, session });
      } catch (error) {
        if (!stale) setProblem(messageOf(error));
      }
    };
    void open();
    const leave = () => session?.close();
    window.addEventListener('pagehide', leave);
    return () => {
      stale = true;
      window.removeEventListener('pagehide', leave);
      void session?.flush().finally(() => session?.close());
    };
  }, [takeId]);
  return { session: opened?.takeId === takeId ? opened.session : null, problem };
}

function BenchOf({ photograph }: { photograph: Photograph }) {
  const series = useSeries(photograph.seriesId);
  const change = useChangePhotograph();
  const [takeId, setTakeId] = useState(photograph.currentTakeId);
  const known = photograph.takes.some(t => t.id === takeId);
  const current = known ? takeId : photograph.currentTakeId;
  const { session, problem } = useSession(current);

  const choose = (id: string) => {
    setTakeId(id);
    if (id !== photograph.currentTakeId) change.mutate({ id: photograph.id, currentTakeId: id });
  };
  if (problem) return <Wait problem={problem} />;
  if (!session) return <Wait />;
  return (
    <BenchAtWork
      key={current}
      photograph={photograph}
      series={series.data}
      session={session}
      onChooseTake={choose}
    />
  );
}

const bare = bareTreatment();

function BenchAtWork({
  photograph,
  series,
  session,
  onChooseTake,
}: {
  photograph: Photograph;
  series: Series | undefined;
  session: TakeSession;
  onChooseTake: (id: string) => void;
}) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const { take, treatment, saving } = useSyncExternalStore(session.subscribe, session.state);
  const [chosen, setChosen] = useState<string | null>(treatment.steps.at(-1)?.id ?? null);
  const [lampAt, setLampAt] = useState<number | null>(null);
  const [bareHeld, setBareHeld] = useState(false);
  const [details, setDetails] = useState(false);
  const [choosingMono, setChoosingMono] = useState(false);
  const [held, setHeld] = useState<Parameters<Hold>[0]>([]);

  const { id, width, height, grey } = photograph;
  const picture = useMemo(() => ({ id, width, height, grey }), [id, width, height, grey]);
  const lamp = Math.min(lampAt ?? treatment.steps.length, treatment.steps.length);
  const setLamp = (at: number) => setLampAt(at >= treatment.steps.length ? null : at);
  const lit = useMemo(
    () =>
      lamp >= treatment.steps.length ? treatment : { ...treatment, steps: treatment.steps.slice(0, lamp) },
    [treatment, lamp],
  );

  const framing = useFraming(picture, session, lit);
  const picking = usePicking(picture);
  const pull = usePull(picture, session, chosen === null ? undefined : lit.steps.find(s => s.id === chosen));
  const painting = usePainting(
    picture,
    session,
    treatment.steps.find(s => s.id === chosen),
  );
  const { area, shown: areaShown, film } = painting;
  const looked = useMemo(() => {
    if (chosen !== null && held.length > 0) return whileHeld(framing.shown, chosen, held);
    return area === null || framing.open ? framing.shown : showingArea(framing.shown, area, areaShown, film);
  }, [framing.shown, framing.open, chosen, held, area, areaShown, film]);

  // The bare photograph is shown in the take's frame, so that it does not jump.
  const bareInFrame = useMemo(() => ({ ...bare, frame: framing.shown.frame }), [framing.shown.frame]);

  // Thumbnails elsewhere follow each saved revision.
  const openedAt = useRef(take.revision);
  useEffect(() => {
    if (take.revision === openedAt.current) return;
    void client.invalidateQueries({ queryKey: keys.photograph(take.photographId) });
    if (series) void client.invalidateQueries({ queryKey: keys.series(series.id) });
    void client.invalidateQueries({ queryKey: keys.shelf, exact: true });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the series' id does not change under a photograph
  }, [client, take.revision, take.photographId]);

  const commit = (next: Treatment, label: string) => session.commit(next, label);
  const nameOf = (stepId: string) => {
    const step = treatment.steps.find(s => s.id === stepId);
    return step ? step.name || wordFor(step.kind) : '';
  };
  const add = (kind: Kind, stage: Stage) => {
    const step = newStep(treatment, kind, stage);
    commit(addStep(treatment, step), `Add ${wordFor(kind).toLowerCase()}`);
    setChosen(step.id);
    setLampAt(null);
  };
  const remove = (stepId: string) => {
    const i = treatment.steps.findIndex(s => s.id === stepId);
    const next = treatment.steps[i + 1] ?? treatment.steps[i - 1];
    commit(removeStep(treatment, stepId), `Remove ${nameOf(stepId).toLowerCase()}`);
    setChosen(next?.id ?? null);
  };
  const toggle = (stepId: string) => {
    const step = treatment.steps.find(s => s.id === stepId)!;
    commit(
      changeStep(treatment, stepId, { enabled: !step.enabled }),
      `${nameOf(stepId)} ${step.enabled ? 'off' : 'on'}`,
    );
  };
  const nudge = (stepId: string, by: -1 | 1) => {
    const moved = nudgeStep(treatment, stepId, by);
    if (moved !== treatment) commit(moved, `Move ${nameOf(stepId).toLowerCase()}`);
  };

  const copy = (stepId: string) => {
    const made = copyStep(treatment, stepId);
    commit(made.treatment, `Copy ${nameOf(stepId).toLowerCase()}`);
    setChosen(made.copy);
  };
  const onAction = (stepId: string, action: StepAction) => {
    const name = nameOf(stepId).toLowerCase();
    if (action === 'remove') remove(stepId);
    else if (action === 'copy') copy(stepId);
    else if (action === 'group') commit(groupWithBefore(treatment, stepId), `Group ${name}`);
    else if (action === 'leave') commit(leaveGroup(treatment, stepId), `Ungroup ${name}`);
    else nudge(stepId, action === 'left' ? -1 : 1);
  };

  const setSetting = useCallback<SetSetting>(
    (path, value, label) => {
      const { treatment: now } = session.state();
      const of = now.steps.find(s => s.id === chosen);
      if (!of) return;
      const next = changeSetting(now, of.id, path, value);
      if (label === undefined) session.preview(next);
      else session.commit(next, `${of.name || wordFor(of.kind)} ${label}`);
    },
    [session, chosen],
  );

  const step = useCallback(
    async (direction: 'undo' | 'redo') => {
      try {
        await session[direction]();
      } catch (error) {
        tell({ text: messageOf(error), tone: 'problem' });
      }
    },
    [session],
  );

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const key = event.key.toLowerCase();
      if ((event.ctrlKey || event.metaKey) && key === 'z' && !isTyping(event)) {
        event.preventDefault();
        void step(event.shiftKey ? 'redo' : 'undo');
      } else if (key === 'b' && !event.ctrlKey && !event.metaKey && !event.altKey && !isTyping(event)) {
        setBareHeld(true);
      }
    };
    const release = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() === 'b') setBareHeld(false);
    };
    const away = () => setBareHeld(false);
    window.addEventListener('keydown', press);
    window.addEventListener('keyup', release);
    window.addEventListener('blur', away);
    return () => {
      window.removeEventListener('keydown', press);
      window.removeEventListener('keyup', release);
      window.removeEventListener('blur', away);
    };
  }, [step]);

  const closeMono = useCallback(() => setChoosingMono(false), []);
  const settle = useCallback(() => session.flush(), [session]);
  const chosenStep = treatment.steps.find(s => s.id === chosen);
  const sendOut = async () => {
    await session.flush();
    void navigate(`/series/${photograph.seriesId}/send-out?takes=${take.id}`);
  };

  return (
    <Frame>
      <Bar>
        <Crumbs
          above={series ? [{ to: `/series/${series.id}`, text: series.title }] : []}
          here={photograph.title}
        />
        <IconButton
          aria-label="Details of this photograph"
          onPress={() => setDetails(true)}
          style={{ marginLeft: -8 }}
        >
          <Info aria-hidden="true" />
        </IconButton>
        <Takes photograph={photograph} current={take.id} onChoose={onChooseTake} settle={settle} />
        <IconButton
          aria-label="Frame: crop, straighten, turn"
          aria-pressed={framing.open}
          onPress={() => framing.setOpen(!framing.open)}
        >
          <Crop aria-hidden="true" />
        </IconButton>
        <Push />
        <SavingMark saving={saving} onRetry={() => void session.flush()} />
        <Button
          aria-pressed={bareHeld}
          onPressStart={() => setBareHeld(true)}
          onPressEnd={() => setBareHeld(false)}
        >
          Bare
        </Button>
        <span style={{ display: 'flex' }}>
          <IconButton
            aria-label={take.undo === null ? 'Undo' : `Undo: ${take.undo}`}
            isDisabled={take.undo === null && saving.state === 'saved'}
            onPress={() => void step('undo')}
          >
            <Undo2 aria-hidden="true" />
          </IconButton>
          <IconButton
            aria-label={take.redo === null ? 'Redo' : `Redo: ${take.redo}`}
            isDisabled={take.redo === null}
            onPress={() => void step('redo')}
          >
            <Redo2 aria-hidden="true" />
          </IconButton>
        </span>
        <WallTones />
        <Button $ink onPress={() => void sendOut()}>
          Send out
        </Button>
      </Bar>
      <Strip series={series} current={photograph} />
      <Place>
        <PictureView
          picture={picture}
          title={photograph.title}
          treatment={bareHeld ? bareInFrame : looked}
          tool={framing.open ? framing.tool : (picking.tool ?? painting.pictureTool ?? pull.tool)}
          colouredMarked={area !== null && painting.colouredMarked}
          bar={area !== null && !framing.open ? <PaintBar painting={painting} /> : undefined}
        >
          {onWall => (
            <>
              {framing.open ? <CropOverlay framing={framing} picture={picture} onWall={onWall} /> : null}
              {area !== null && !framing.open && painting.tool === 'brush' ? (
                <BrushCursor
                  radius={
                    (painting.brush.radius * Math.max(picture.width, picture.height) * onWall.width) /
                    framedSize(picture, treatment.frame).width
                  }
                  hardness={painting.brush.hardness}
                  taking={painting.taking}
                  onWall={onWall}
                />
              ) : null}
              {area !== null && !framing.open ? (
                <ShapeHandles
                  picture={picture}
                  treatment={treatment}
                  area={area}
                  onWall={onWall}
                  onPreview={next => session.preview(next)}
                  onCommit={commit}
                />
              ) : null}
              {pull.pulled ? <PulledLabel pulled={pull.pulled} onWall={onWall} /> : null}
              {!framing.open && chosenStep?.kind === 'vignette' && chosenStep.enabled ? (
                <VignetteOval step={chosenStep as Step<'vignette'>} onWall={onWall} set={setSetting} />
              ) : null}
            </>
          )}
        </PictureView>
        {choosingMono && chosenStep?.kind === 'mono' ? (
          <MonoBoard
            picture={picture}
            treatment={treatment}
            step={chosenStep}
            onChoose={(settings, name) => {
              commit(changeStep(treatment, chosenStep.id, { settings }), `Mono: ${name.toLowerCase()}`);
              setChoosingMono(false);
            }}
            onClose={closeMono}
          />
        ) : null}
      </Place>
      <Panel aria-label={framing.open ? 'Frame' : chosenStep ? nameOf(chosenStep.id) : 'No step chosen'}>
        {framing.open ? (
          <FramePanel framing={framing} picture={picture} />
        ) : chosenStep ? (
          <StepPanel
            picture={picture}
            treatment={treatment}
            step={chosenStep}
            onPreview={next => session.preview(next)}
            onCommit={commit}
            onSet={setSetting}
            onChooseMono={() => setChoosingMono(true)}
            onHold={setHeld}
            pick={picking.pick}
            onAction={action => onAction(chosenStep.id, action)}
          />
        ) : (
          <Empty>
            <h2>{treatment.steps.length ? 'No step chosen' : 'The bare photograph'}</h2>
            <p>
              {treatment.steps.length
                ? 'Choose a tray below to change its step.'
                : 'Add a step with a plus on the line below. Work runs from left to right: light first, then mono, then tone.'}
            </p>
          </Empty>
        )}
      </Panel>
      <TrayLine
        picture={picture}
        treatment={treatment}
        chosen={chosen}
        lamp={lamp}
        onChoose={id => {
          setChosen(id);
          framing.setOpen(false);
        }}
        onLamp={setLamp}
        onAdd={add}
        onRemove={remove}
        onToggle={toggle}
        onNudge={nudge}
        onCopy={copy}
        onGroup={{
          name: (stepId, name) => commit(nameGroup(treatment, stepId, name), `Name group ${name}`),
          enable: (stepId, on) => commit(switchGroup(treatment, stepId, on), `Group ${on ? 'on' : 'off'}`),
          dissolve: stepId => commit(ungroup(treatment, stepId), 'Ungroup'),
        }}
        onPlace={(next, stepId) => commit(next, `Move ${nameOf(stepId).toLowerCase()}`)}
      />
      {saving.state === 'conflict' ? (
        <Conflict session={session} onNewTake={made => onChooseTake(made.id)} />
      ) : null}
      {details ? <Details photograph={photograph} onClose={() => setDetails(false)} /> : null}
    </Frame>
  );
}
