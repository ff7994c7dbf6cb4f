import { useQueryClient } from '@tanstack/react-query';
import { Crop, History, Info, ListChecks, Redo2, SwatchBook, Undo2 } from 'lucide-react';
import { nextAlternative, seenFor } from '../../core/treatment/alternatives';
import type { Kind } from '../../core/steps';
import { addStep, newStep } from '../../core/treatment/edit';
import { carryTable } from '../../core/treatment/tables';
import { layTreatment, type Laying } from '../../core/treatment/laying';
import { LayOn } from '../laying/LayOn';
import { useCarryOver } from '../laying/useCarryOver';
import { useCopying } from '../laying/useCopying';
import { useSharing } from '../laying/useSharing';
import {
  startTransition,
  useCallback,
  useDeferredValue,
  useEffect,
  useMemo,
  useState,
  useSyncExternalStore,
} from 'react';
import { useNavigate, useParams } from 'react-router';
import styled from 'styled-components';
import type { Stage } from '../../core/steps/define';
import type { Treatment } from '../../core/treatment/schema';
import type { UsualStep } from '../../core/treatment/usual-steps';
import type { Photograph } from '../../contract/photographs';
import { SeriesContext } from '../controls/tools';
import type { Series } from '../../contract/series';
import { messageOf } from '../app/api';
import { onReturn } from '../app/away';
import { holds } from '../app/outdated';
import { tell } from '../app/notices';
import {
  useChangePhotograph,
  useChangeSeries,
  useCreateTake,
  usePhotograph,
  useSeries,
} from '../app/queries';
import { Bar, BoardButton, Crumbs, Push } from '../ui/bar';
import { Button, IconButton } from '../ui/buttons';
import { FileDrop } from '../import/FileDrop';
import { bringIn } from '../import/imports';
import { useLaidDown } from '../import/useLaidDown';
import { useOtherFiles } from '../out/useOtherFiles';
import { AreaOrPhotograph } from './AreaOrPhotograph';
import { layAreas } from './laid-areas';
import { Wait } from '../ui/wait';
import { CompareButtons } from '../compare/CompareButtons';
import { useCompare } from '../compare/useCompare';
import { Conflict } from '../takes/Conflict';
import type { MomentAction } from '../states/StatesBoard';
import { addArea, addPart, areaOf } from '../../core/treatment/areas';
import { sendCarried, takeIn } from '../engine/carried';
import type { Beside } from '../engine/client';
import { Details } from './Details';
import { Opening } from './Opening';
import { useTour } from '../app/tour';
import { useKeys } from '../app/useKeys';
import { Refused } from '../takes/Refused';
import { SavingMark } from '../takes/SavingMark';
import { openSession, type TakeSession } from '../takes/session';
import { Strip } from './Strip';
import { STEP, toggled, type Side } from './side';
import { useBeside } from './useBeside';
import { useFollowed } from './useFollowed';
import { Takes } from '../takes/Takes';
import { TrayLine } from '../trays/TrayLine';
import type { Tried } from '../takes/tried';
import { useEdits } from '../takes/useEdits';
import { Workplace } from './Workplace';

const Frame = styled.div`
  background: #dcdcdc;
  height: 100vh;
  display: grid;
  grid-template: var(--bar) minmax(0, 1fr) var(--line) / var(--strip) minmax(0, 1fr) var(--panel);
  > header {
    grid-column: 1 / -1;
  }
  &[data-alone] {
    grid-template: 0 minmax(0, 1fr) 0 / 0 minmax(0, 1fr) 0;
    > header,
    > nav,
    > aside,
    > section {
      visibility: hidden;
    }
  }
`;

/** Past the bar and the neighbours: seen when the Tab key comes to it. */
const Skip = styled.button`
  position: absolute;
  left: 8px;
  top: 7px;
  z-index: 5;
  height: 30px;
  padding: 0 12px;
  background: var(--ink);
  color: #fff;
  border-radius: var(--r-field);
  &:not(:focus) {
    clip-path: inset(50%);
    pointer-events: none;
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

/** The keys to the photographs before and after, also while one is still being opened. */
function useNeighbourKeys(photographId: string, series: Series | undefined): void {
  const navigate = useNavigate();
  const goBy = (by: -1 | 1) => {
    const all = series?.photographs ?? [];
    const next = all[all.findIndex(p => p.id === photographId) + by];
    if (!next) return false;
    void navigate(`/photographs/${next.id}`);
  };
  useKeys({ earlierPhotograph: () => goBy(-1), laterPhotograph: () => goBy(1) });
}

/** Opens the session of a take: its state on the server, and what an earlier window could not save. */
function useSession(takeId: string): { session: TakeSession | null; problem: string | null } {
  const [opened, setOpened] = useState<{ takeId: string; session: TakeSession } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  /** Counts the times that it is tried again, since all has come back. */
  const [tries, setTries] = useState(0);
  useEffect(() => {
    let stale = false;
    let session: TakeSession | null = null;
    setProblem(null);
    openSession(takeId, text => tell({ text }))
      .then(made => {
        session = made;
        if (stale) made.close();
        else setOpened({ takeId, session: made });
      })
      .catch(error => {
        if (!stale) setProblem(messageOf(error));
      });
    const leave = () => session?.close();
    const hide = () => {
      if (document.visibilityState === 'hidden') void session?.flush();
    };
    const warn = (event: BeforeUnloadEvent) => {
      if (session?.hasUnsaved) event.preventDefault();
    };
    const again = onReturn(() => {
      if (session) void session.flush();
      else setTries(n => n + 1);
    });
    const letGo = holds(() => session?.hasUnsaved ?? false);
    window.addEventListener('pagehide', leave);
    document.addEventListener('visibilitychange', hide);
    window.addEventListener('beforeunload', warn);
    return () => {
      stale = true;
      again();
      letGo();
      window.removeEventListener('pagehide', leave);
      document.removeEventListener('visibilitychange', hide);
      window.removeEventListener('beforeunload', warn);
      session?.close();
    };
  }, [takeId, tries]);
  return { session: opened?.takeId === takeId ? opened.session : null, problem };
}

function BenchOf({ photograph }: { photograph: Photograph }) {
  const series = useSeries(photograph.seriesId);
  useNeighbourKeys(photograph.id, series.data);
  const change = useChangePhotograph();
  const [takeId, setTakeId] = useState(photograph.currentTakeId);
  const known = photograph.takes.some(t => t.id === takeId);
  const current = known ? takeId : photograph.currentTakeId;
  const { session, problem } = useSession(current);

  const beside = useBeside(photograph.id, series.data);

  const [chosenHere, setChosenHere] = useState(false);
  const choose = (id: string) => {
    setTakeId(id);
    setChosenHere(true);
    if (id !== photograph.currentTakeId) change.mutate({ id: photograph.id, currentTakeId: id });
  };
  if (problem) return <Wait problem={problem} />;
  if (!session) {
    return (
      <Frame>
        <Bar>
          <Crumbs
            screen="Bench"
            above={series.data ? [{ to: `/series/${series.data.id}`, text: series.data.title }] : []}
            here={photograph.title}
          />
        </Bar>
        <Strip series={series.data} current={photograph} />
        <Opening photograph={photograph} />
      </Frame>
    );
  }
  return (
    <SeriesContext value={photograph.seriesId}>
      <BenchAtWork
        key={current}
        photograph={photograph}
        series={series.data}
        beside={beside}
        session={session}
        chosenHere={chosenHere}
        onChooseTake={choose}
      />
    </SeriesContext>
  );
}

/** Whether two treatments have the same steps in the same places, whatever they are set to. */
const looksAlike = (a: Treatment, b: Treatment): boolean =>
  a.steps.length === b.steps.length &&
  a.steps.every((step, i) => {
    const other = b.steps[i];
    return (
      (['id', 'stage', 'group', 'enabled', 'name'] as const).every(key => step[key] === other[key]) &&
      step.alternative?.tray === other.alternative?.tray &&
      step.alternative?.aside === other.alternative?.aside
    );
  });

/** What does not follow each movement of a control: the bar, the strip and the tray line about the workplace. */
function BenchAtWork({
  photograph,
  series,
  beside,
  session,
  chosenHere,
  onChooseTake,
}: {
  photograph: Photograph;
  series: Series | undefined;
  /** What may be opened next. */
  beside: readonly Beside[];
  session: TakeSession;
  /** Whether the take was chosen on the Bench: the keys go on among the takes. */
  chosenHere: boolean;
  onChooseTake: (id: string) => void;
}) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const { take, treatment, saving, conflict, undo, redo } = useSyncExternalStore(
    session.subscribe,
    session.rested,
  );
  // What moved no tray is shown there a little later, built in pieces between what the hand does meanwhile.
  const deferred = useDeferredValue(treatment);
  const onLine = looksAlike(deferred, treatment) ? deferred : treatment;
  const { edits, picked: lastChosen, choose } = useEdits(session);
  // What lies in its place is worked on where it was put aside.
  const chosen = useMemo(() => seenFor(treatment, lastChosen), [treatment, lastChosen]);
  const [lampAt, setLampAt] = useState<number | null>(null);
  const compare = useCompare(session, photograph.takes);
  const [details, setDetails] = useState(false);
  const [side, setSide] = useState(STEP);
  const [tried, setTried] = useState<Tried | null>(null);
  const [range, setRange] = useState<readonly string[]>([]);
  const [part, setPart] = useState<Treatment | null>(null);
  // The picture is asked for first; what stands about it comes while it is rendered.
  const [around, setAround] = useState(false);
  useEffect(() => startTransition(() => setAround(true)), []);

  const { id, width, height, grey, damage } = photograph;
  const picture = useMemo(() => ({ id, width, height, grey, damage }), [id, width, height, grey, damage]);
  const lamp = Math.min(lampAt ?? treatment.steps.length, treatment.steps.length);
  const setLamp = useCallback(
    (at: number) => setLampAt(at >= session.state().treatment.steps.length ? null : at),
    [session],
  );
  const toggle = useCallback((pressed: Side) => setSide(now => toggled(now, pressed)), []);
  const toggleTint = useCallback(() => toggle({ what: 'tint' }), [toggle]);
  const toggleAdding = useCallback((stage: Stage) => toggle({ what: 'add', stage }), [toggle]);
  const add = useCallback(
    (usual: UsualStep, stage: Stage) => {
      edits.add(usual, stage);
      setLampAt(null);
      setSide(STEP);
    },
    [edits],
  );
  const alternate = (by: -1 | 1) => {
    const next = chosen === null ? null : nextAlternative(edits.now(), chosen, by);
    if (next !== null) edits.alternate(next);
    else
      tell({
        text: 'There is one step in this tray. Its menu adds an alternative, to be switched by this key.',
      });
  };
  const addBeside = useCallback(
    (usual: UsualStep | null, stepId: string) => {
      edits.addBeside(usual, stepId);
      setLampAt(null);
      setSide(STEP);
    },
    [edits],
  );
  const chooseTray = useCallback(
    (stepId: string) => {
      choose(stepId);
      setRange([]);
      setSide(STEP);
    },
    [choose],
  );

  useFollowed(take, photograph.seriesId);

  const step = useCallback(
    (direction: 'undo' | 'redo') => {
      void session[direction]();
    },
    [session],
  );
  const sharing = useSharing(photograph.seriesId, take.id, edits);
  const { ofSeries } = sharing;
  /** Lays a treatment on, the last of its steps chosen and all of them lit. */
  const lay = useCallback(
    (laid: Treatment, label: string, last?: string, apart?: boolean) => {
      edits.commit(ofSeries(laid), label, apart);
      choose(last ?? laid.steps.at(-1)?.id ?? null);
      setRange([]);
      setLampAt(null);
    },
    [edits, choose, ofSeries],
  );
  const picked = useMemo(() => {
    const there = range.filter(id => treatment.steps.some(s => s.id === id));
    return there.length > 1 ? there : chosen === null ? [] : [chosen];
  }, [range, treatment, chosen]);
  const copying = useCopying(edits.now, picked, setPart);
  const { copy } = copying;
  const copyWhole = useCallback(() => copy(null), [copy]);
  const carryOver = useCarryOver(photograph, series, edits.now, lay);
  const [greyFile, setGreyFile] = useState<File | null>(null);
  const greyAsArea = async (file: File) => {
    setGreyFile(null);
    try {
      const png = await takeIn('picture', new Uint8Array(await file.arrayBuffer()));
      const { treatment: made, area } = addArea(edits.now(), file.name.replace(/\.png$/i, ''));
      edits.commit(addPart(made, area, { kind: 'picture', op: 'add', png }), `Area from ${file.name}`);
      tell({ text: `${areaOf(made, area)!.name} is an area now: a step can be laid on it.` });
    } catch (error) {
      tell({ text: `${file.name}: ${(error as Error).message}`, tone: 'problem' });
    }
  };
  const laidDown = useLaidDown({
    area: useMemo(
      () => ({ width: photograph.width, height: photograph.height, onGrey: setGreyFile }),
      [photograph.width, photograph.height],
    ),
    onPictures: useCallback(
      (files: File[]) => bringIn(files, photograph.seriesId, client),
      [photograph.seriesId, client],
    ),
    onTreatment: useCallback(of => setPart(of), []),
    onTable: useCallback(
      (name, table) => {
        const step = newStep<Kind>(edits.now(), 'colour-table');
        lay(carryTable(addStep(edits.now(), step), step.id, name, table), `Colour table ${name}`, step.id);
      },
      [edits, lay],
    ),
    onLayers: useCallback(
      (layers, name) => {
        void layAreas(edits.now(), layers, photograph, name).then(
          ({ treatment: made, areas }) => {
            edits.commit(made, `Areas of ${name}`);
            tell({ text: `${areas === 1 ? 'One area' : `${areas} areas`} from ${name}.` });
          },
          (error: Error) => tell({ text: `${name}: ${error.message}`, tone: 'problem' }),
        );
      },
      [edits, photograph],
    ),
  });
  const layOn = (of: Treatment, laying: Laying) => {
    setPart(null);
    try {
      const { treatment: made, laid, left } = layTreatment(edits.now(), of, laying);
      lay(made, `Lay on ${laid.length === 1 ? 'a step' : `${laid.length} steps`}`, laid.at(-1));
      if (left.length) tell({ text: `${left.length} on painted areas stayed behind.` });
    } catch (error) {
      tell({ text: `It cannot be laid on: ${(error as Error).message}.`, tone: 'problem' });
    }
  };
  const [alone, setAlone] = useState(false);
  const endAlone = useCallback(() => {
    setAlone(false);
    if (document.fullscreenElement) void document.exitFullscreen().catch(() => undefined);
  }, []);
  const toggleAlone = () => {
    if (alone) return endAlone();
    setAlone(true);
    // Where the browser lets it, over the whole screen as well.
    void document.documentElement.requestFullscreen?.().catch(() => undefined);
  };
  useKeys({ giveUp: endAlone }, alone);
  useKeys({
    alone: toggleAlone,
    history: () => toggle({ what: 'history' }),
    looks: () => toggle({ what: 'looks' }),
    methods: () => toggle({ what: 'methods' }),
    tint: toggleTint,
    either: ({ repeat, shiftKey }) => {
      if (!repeat) alternate(shiftKey ? -1 : 1);
    },
    carryOver,
    undo: () => step('undo'),
    redo: () => step('redo'),
  });

  const { against } = compare;
  const compareWithTake = useCallback((id: string) => against({ what: 'take', id }), [against]);
  const createTake = useCreateTake(photograph.id);
  const onMoment = async (
    action: MomentAction,
    { treatment: of, label }: { treatment: Treatment; label: string },
  ) => {
    if (action === 'compare') {
      compare.against({ what: 'moment', treatment: of, label });
      return;
    }
    try {
      await session.flush();
      await sendCarried(of);
      const made = await createTake.mutateAsync({ treatment: of });
      onChooseTake(made.id);
    } catch {
      // It has been said.
    }
  };
  // What the tour follows.
  const tellTour = useTour(tour => tour.tell);
  const isCompared = compare.way !== null;
  useEffect(() => {
    tellTour({ photograph: photograph.id, kinds: treatment.steps.map(s => s.kind) });
  }, [tellTour, photograph.id, treatment.steps]);
  useEffect(() => {
    if (isCompared) tellTour({ compared: true });
  }, [tellTour, isCompared]);
  const changeSeries = useChangeSeries();
  const called = { id: take.id, text: `${photograph.title}, take ${take.letter}` };
  const otherFiles = useOtherFiles(photograph.seriesId, [called], { ready: () => session.flush() });
  const toSheet = () => {
    void session.flush().then(() => navigate(`/series/${photograph.seriesId}`));
  };
  const sendOut = async () => {
    await session.flush();
    void navigate(`/series/${photograph.seriesId}/send-out?takes=${take.id}`);
  };

  return (
    <Frame data-alone={alone || undefined}>
      <Bar>
        <Crumbs
          screen="Bench"
          above={series ? [{ to: `/series/${series.id}`, text: series.title }] : []}
          here={photograph.title}
        />
        <Skip
          type="button"
          onClick={() => document.querySelector<HTMLElement>('[data-stage-of-picture]')?.focus()}
        >
          To the picture
        </Skip>
        <IconButton
          aria-label="Details of this photograph"
          onPress={() => setDetails(true)}
          style={{ marginLeft: -8 }}
        >
          <Info aria-hidden="true" />
        </IconButton>
        <Takes
          photograph={photograph}
          session={session}
          hasKeys={chosenHere}
          onChoose={onChooseTake}
          onCopy={copyWhole}
          onLayOn={copying.layOn}
          onCarryOver={carryOver}
          onMake={otherFiles.make}
          onTry={setTried}
          onCompare={compareWithTake}
        />
        <IconButton
          aria-label="Frame: crop, straighten, turn"
          aria-pressed={side.what === 'frame'}
          onPress={() => toggle({ what: 'frame' })}
        >
          <Crop aria-hidden="true" />
        </IconButton>
        <Push />
        <SavingMark session={session} />
        <span style={{ display: 'flex', gap: 6 }}>
          <BoardButton
            name="Methods"
            sign={<ListChecks aria-hidden="true" />}
            isOpen={side.what === 'methods' || side.what === 'method'}
            onPress={() => toggle({ what: 'methods' })}
          />
          <BoardButton
            name="Looks"
            sign={<SwatchBook aria-hidden="true" />}
            isOpen={side.what === 'looks'}
            onPress={() => toggle({ what: 'looks' })}
          />
        </span>
        <CompareButtons compare={compare} />
        <span style={{ display: 'flex' }}>
          <IconButton
            aria-label={undo === null ? 'Undo' : `Undo: ${undo}`}
            isDisabled={undo === null}
            onPress={() => step('undo')}
          >
            <Undo2 aria-hidden="true" />
          </IconButton>
          <IconButton
            aria-label={redo === null ? 'Redo' : `Redo: ${redo}`}
            isDisabled={redo === null}
            onPress={() => step('redo')}
          >
            <Redo2 aria-hidden="true" />
          </IconButton>
          <IconButton
            aria-label="History"
            aria-pressed={side.what === 'history'}
            onPress={() => toggle({ what: 'history' })}
          >
            <History aria-hidden="true" />
          </IconButton>
        </span>
        <Button $ink data-tour="send-out" onPress={() => void sendOut()}>
          Send out
        </Button>
      </Bar>
      <Strip series={series} current={photograph} />
      <Workplace
        around={around}
        picture={picture}
        beside={beside}
        title={photograph.title}
        session={session}
        edits={edits}
        chosen={chosen}
        lampAt={lampAt}
        compare={compare}
        tried={tried}
        setTried={setTried}
        side={side}
        setSide={setSide}
        onMoment={onMoment}
        onAdd={add}
        onAddBeside={addBeside}
        onLay={lay}
        onChoose={choose}
        onCopy={copy}
        picked={picked}
        sharing={sharing}
        inSeries={series?.photographs.length ?? 0}
        onSheet={toSheet}
      />
      {around ? (
        <TrayLine
          picture={picture}
          treatment={onLine}
          chosen={chosen}
          lamp={lamp}
          edits={edits}
          picked={picked}
          onPick={setRange}
          onCopy={copy}
          onChoose={chooseTray}
          onLamp={setLamp}
          onAdd={toggleAdding}
          adding={side.what === 'add' ? side.stage : null}
          onTint={toggleTint}
          tinting={side.what === 'tint'}
          shared={sharing.ids}
        />
      ) : null}
      {part ? (
        <LayOn part={part} onClose={() => setPart(null)} onLay={laying => layOn(part, laying)} />
      ) : null}
      {conflict ? <Conflict session={session} onNewTake={made => onChooseTake(made.id)} /> : null}
      {saving.state === 'refused' ? (
        <Refused reason={saving.reason} session={session} onNewTake={made => onChooseTake(made.id)} />
      ) : null}
      {otherFiles.dialog}
      {greyFile ? (
        <AreaOrPhotograph
          file={greyFile}
          onArea={() => void greyAsArea(greyFile)}
          onPhotograph={() => {
            setGreyFile(null);
            bringIn([greyFile], photograph.seriesId, client);
          }}
          onClose={() => setGreyFile(null)}
        />
      ) : null}
      <FileDrop text={`Lay them down on ${photograph.title}`} onFiles={laidDown} />
      {details ? (
        <Details
          photograph={photograph}
          isCover={series?.coverId === photograph.id}
          onCover={() => changeSeries.mutate({ id: photograph.seriesId, coverId: photograph.id })}
          onClose={() => setDetails(false)}
        />
      ) : null}
    </Frame>
  );
}
