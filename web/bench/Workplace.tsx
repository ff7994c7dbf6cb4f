import {
  lazy,
  Suspense,
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
} from 'react';
import styled from 'styled-components';
import { framedSize } from '../../core/frame/geometry';
import { sparing } from '../../core/treatment/areas';
import { changeStep } from '../../core/treatment/edit';
import type { Stage } from '../../core/steps/define';
import type { UsualStep } from '../../core/treatment/usual-steps';
import { whileHeld } from '../../core/treatment/held';
import { bareTreatment, type Treatment } from '../../core/treatment/schema';
import type { Beside } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import { BrushCursor } from '../areas/BrushCursor';
import { PaintBar } from '../areas/PaintBar';
import { ShapeHandles } from '../areas/ShapeHandles';
import { RoughStrokes } from '../areas/RoughStrokes';
import { isBrush, usePainting } from '../areas/usePainting';
import type { Sharing } from '../laying/useSharing';
import { nameOf, overlaid, treatmentOf, type Shelf } from '../compare/against';
import { BareLabel } from '../compare/BareLabel';
import { SideLabels } from '../compare/SideLabel';
import type { Compare } from '../compare/useCompare';
import { StepPanel } from '../panel/StepPanel';
import type { Hold } from '../controls/tools';
import { CropOverlay } from '../frame/CropOverlay';
import { FramePanel } from '../frame/FramePanel';
import { useFraming } from '../frame/useFraming';
import { boards } from '../boards';
import { pictureAddress } from '../app/api';
import { wordFor } from '../../words/words';
import type { TakeSession } from '../takes/session';
import { PulledLabel } from '../tools/PulledLabel';
import { usePicking } from '../print/usePicking';
import { RegionFrame } from '../print/RegionFrame';
import { useRegion } from '../print/useRegion';
import { usePull } from '../tools/usePull';
import { StepHandles } from '../tools/StepHandles';
import type { SheetSettings } from '../../contract/sheets';
import { useStripSheet } from '../app/queries';
import { FirstMoves } from './FirstMoves';
import { PICTURE_TOLD, PictureTold } from './PictureTold';
import { StripLabel } from '../teststrip/StripLabel';
import { StripOnPicture } from '../teststrip/StripOnPicture';
import { useStripTool } from '../teststrip/useStripTool';
import { useTestStrip } from '../teststrip/useTestStrip';
import { LooksBoard } from '../laying/LooksBoard';
import { TryingLabel } from '../print/TryingLabel';
import type { Tried } from '../takes/tried';
import { StatesBoard, type MomentAction } from '../states/StatesBoard';
import { STEP, type Side } from './side';
import { StepBoard } from '../boards/StepBoard';
import { TintPanel } from '../tinting/TintPanel';
import { useTinting } from '../tinting/useTinting';
import { useKeptFocus } from './useKeptFocus';
import { nameOfStep } from '../../words/step-names';
import { settingOf, type Edits, type StepAction } from '../takes/useEdits';
import { PictureView, type Other } from '../print/PictureView';
import { Boundary } from '../ui/boundary';

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
  /* Too low for parts that scroll by themselves: all of it does. */
  @media (max-height: 560px) {
    display: block;
    overflow: hidden auto;
  }
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

// Their pages come when they are asked for.
const Methods = lazy(() => import('../methods/Methods').then(({ Methods: of }) => ({ default: of })));

const bare = bareTreatment();

/** Nothing is done to the photograph, and no area is made on it. */
const isUntouched = ({ steps, masks }: Treatment) => steps.length === 0 && masks.length === 0;

/** What stands beside the picture in place of a step, by name. */
const sideNames = {
  add: 'Add a step',
  history: 'History',
  looks: 'Looks',
  tint: 'Tint',
  frame: 'Frame',
  methods: 'Methods',
  method: 'Method',
} as const;

export interface WorkplaceProps {
  picture: PictureInfo;
  /** Photographs that may be opened next. */
  beside: readonly Beside[];
  /** What stands about the picture is there too. */
  around: boolean;
  title: string;
  session: TakeSession;
  edits: Edits;
  /** The step that is worked on. */
  chosen: string | null;
  /** Where the lamp stands, behind how many steps; null at the end, also of a treatment that grows. */
  lampAt: number | null;
  compare: Compare;
  /** What is tried on the picture, and to try something; stays the same function. */
  tried: Tried | null;
  setTried: (tried: Tried | null) => void;
  /** What stands beside the picture. */
  side: Side;
  setSide: (side: Side) => void;
  /** What is done with a state of the history. */
  onMoment: (action: MomentAction, moment: { treatment: Treatment; label: string }) => void;
  onAdd: (usual: UsualStep, stage: Stage) => void;
  /** The same as an alternative of a step; a second of that where none is given. */
  onAddBeside: (usual: UsualStep | null, stepId: string) => void;
  /** Lays a treatment on, and chooses a step of it. */
  onLay: (treatment: Treatment, label: string, last?: string, apart?: boolean) => void;
  /** Chooses a step, whatever stands beside the picture; must stay the same function. */
  onChoose: (step: string) => void;
  /** Copies steps. */
  onCopy: (steps: readonly string[]) => void;
  /** The steps that a copy takes. */
  picked: readonly string[];
  sharing: Sharing;
  /** How many photographs the series has. */
  inSeries: number;
  /** Goes to the sheet of the series. */
  onSheet: () => void;
}

/** The picture and the panel of the chosen step: what follows every movement of a control. */
export function Workplace({
  picture,
  beside,
  around,
  title,
  session,
  edits,
  chosen,
  lampAt,
  compare,
  tried,
  setTried,
  side,
  setSide,
  onMoment,
  onAdd,
  onAddBeside,
  onLay,
  onChoose,
  onCopy,
  picked,
  sharing,
  inSeries,
  onSheet,
}: WorkplaceProps) {
  const { treatment } = useSyncExternalStore(session.subscribe, session.paced);
  // Not deferred: what is pressed in the panel is laid on this one.
  const { treatment: calm } = useSyncExternalStore(session.subscribe, session.rested);
  const [boardOpen, setBoardOpen] = useState(false);
  const [held, setHeld] = useState<Parameters<Hold>[0]>([]);
  const { commit, preview } = edits;
  const litOf = useCallback(
    // A lamp at the end stays there, so that what comes newest is never shown without its last step.
    (of: Treatment) =>
      lampAt === null || lampAt >= of.steps.length ? of : { ...of, steps: of.steps.slice(0, lampAt) },
    [lampAt],
  );
  const lit = useMemo(() => litOf(treatment), [litOf, treatment]);
  const step = treatment.steps.find(s => s.id === chosen);
  const close = useCallback(() => setSide(STEP), [setSide]);
  const setFramingOpen = useCallback((open: boolean) => setSide(open ? { what: 'frame' } : STEP), [setSide]);
  const framing = useFraming(picture, session, lit, side.what === 'frame', setFramingOpen);
  const picking = usePicking(picture);
  const pull = usePull(picture, session, chosen === null ? undefined : lit.steps.find(s => s.id === chosen));
  const painting = usePainting(picture, session, step, litOf);
  const { area, lookedAt } = painting;
  const isTinting = side.what === 'tint';
  // Each stroke is undone alone.
  const onTinted = useCallback(
    (made: Treatment, label: string, of: string) => onLay(made, label, of, true),
    [onLay],
  );
  const tinting = useTinting(picture, session, chosen, isTinting, onTinted, onChoose);
  const { lookedAt: tintedAt } = tinting;
  /** What is looked at of a treatment; of the same one always the same. */
  const look = useMemo(() => {
    const known = new WeakMap<Treatment, Treatment>();
    const make = (of: Treatment) =>
      isTinting
        ? tintedAt(litOf(of))
        : chosen !== null && held.length > 0
          ? whileHeld(litOf(of), chosen, held)
          : lookedAt(of);
    return (of: Treatment) => {
      const made = known.get(of) ?? make(of);
      known.set(of, made);
      return made;
    };
  }, [chosen, held, litOf, lookedAt, isTinting, tintedAt]);
  const strip = useTestStrip(picture, calm, chosen, commit, side.what === 'step');
  const stripSheet = useStripSheet(session.state().take.id);
  const stripOnPaper = async ({ kind: _, ...settings }: SheetSettings) => {
    await session.flush();
    const pictures = strip.cells.map(cell => [...cell.tried]);
    return stripSheet.mutateAsync({ step: chosen ?? '', pictures, settings });
  };
  const isStrip = strip.cells.length > 0;
  const stripTool = useStripTool(strip);
  const region = useRegion();
  const isBare = compare.way === 'bare';
  const way = compare.way === 'half' || compare.way === 'side' ? compare.way : null;
  const isCompared = way !== null && !framing.open && !isStrip;
  const { past } = session.moments;
  const before = past.at(-1)?.treatment ?? null;
  const shelf = useMemo(
    (): Shelf => ({
      now: lit,
      whole: treatment,
      chosen,
      before,
      takes: compare.takes,
      letters: compare.letters,
      take: session.state().take.id,
    }),
    [lit, treatment, chosen, before, compare.takes, compare.letters, session],
  );
  /** Which of two is the picture that is worked on. */
  const own: 0 | 1 = compare.sides[0].what === 'now' ? 0 : 1;
  const isOwn = compare.sides[own].what === 'now';
  const given = useMemo(() => treatmentOf(compare.sides[own], shelf), [compare.sides, own, shelf]);
  const looked = framing.open ? framing.shown : isCompared && !isOwn ? (given ?? lit) : look(treatment);
  const theirs = useMemo(() => {
    const of = treatmentOf(compare.sides[1 - own], shelf);
    return of && way === 'half' ? overlaid(of, shelf.now) : of;
  }, [compare.sides, own, shelf, way]);
  // The picture does not wait for the panel while a control moves.
  const ahead = useRef<((of: Treatment) => Treatment) | null>(null);
  useLayoutEffect(() => {
    ahead.current = isBare || framing.open || tried || (isCompared && !isOwn) ? null : look;
  });
  const follow = useMemo(
    () => ({
      subscribe: session.subscribe,
      newest: () => ahead.current?.(session.state().treatment) ?? null,
    }),
    [session],
  );
  // What is pressed acts on what is shown; strokes begin from the newest by themselves.
  useEffect(() => {
    const settle = (event: Event) => {
      const { target } = event;
      if (target instanceof Element && target.closest('[data-stage-of-picture]')) return;
      session.settle();
    };
    window.addEventListener('pointerdown', settle, true);
    window.addEventListener('keydown', settle, true);
    return () => {
      window.removeEventListener('pointerdown', settle, true);
      window.removeEventListener('keydown', settle, true);
    };
  }, [session]);
  // The bare photograph is shown in the take's frame, so that it does not jump.
  const bareInFrame = useMemo(() => ({ ...bare, frame: framing.shown.frame }), [framing.shown.frame]);

  const setOf = useCallback((stepId: string) => settingOf(session, stepId), [session]);
  const set = useMemo(() => settingOf(session, step?.id ?? null), [session, step?.id]);
  // Each page is undone alone.
  const onMethodLaid = useCallback(
    (made: Treatment, label: string, of?: string) => onLay(made, label, of, true),
    [onLay],
  );
  const act = useCallback(
    (id: string, action: StepAction) => {
      if (action === 'take') onCopy(picked.includes(id) ? picked : [id]);
      else if (action !== 'beside') edits.act(id, action);
      else setSide({ what: 'add', stage: edits.now().steps.find(s => s.id === id)!.stage, beside: id });
    },
    [edits, onCopy, picked, setSide],
  );
  // A step that was just added is gone on with.
  const panel = useRef<HTMLElement>(null);
  const toFocus = useRef(false);
  useEffect(() => {
    if (!toFocus.current || side.what !== 'step') return;
    toFocus.current = false;
    panel.current?.querySelector<HTMLElement>('h2')?.focus();
  }, [side, chosen]);
  useKeptFocus(panel, step?.id ?? null);
  const setPainting = painting.set;
  const { now } = edits;
  const spare = useCallback(() => {
    if (chosen === null) return;
    const name = nameOfStep(now().steps.find(s => s.id === chosen));
    const spared = sparing(now(), chosen, `Not all of ${name.toLowerCase()}`);
    if (spared !== now()) commit(spared, `${name} not everywhere`);
    setPainting({ tool: 'brush', taking: true });
  }, [chosen, now, commit, setPainting]);
  const closeBoard = useCallback(() => setBoardOpen(false), []);
  const openBoard = useCallback(() => setBoardOpen(true), []);
  const Board = boardOpen && step ? boards[step.kind] : undefined;
  const working = area !== null && side.what === 'step';
  const isTreatedSeen = !isStrip && !isBare && (!isCompared || isOwn);
  const other: Other | null =
    isCompared && theirs
      ? {
          treatment: theirs,
          title: `${title}: ${nameOf(compare.sides[1 - own], shelf)}`,
          beside: compare.sides[1 - own].what === 'take' ? 'there' : 'was',
          own,
          split: { way, down: compare.down, line: compare.line },
          onLine: compare.setLine,
          onTurn: compare.setDown,
          labels: (seen, down) => <SideLabels compare={compare} shelf={shelf} seen={seen} down={down} />,
        }
      : null;
  return (
    <>
      <Place>
        <Boundary what="The picture" resetBy={picture.id}>
          <PictureTold picture={picture} treatment={calm} />
          <PictureView
            picture={picture}
            title={title}
            describedBy={PICTURE_TOLD}
            treatment={isBare && !isStrip ? bareInFrame : (tried?.treatment ?? looked)}
            other={other}
            follow={follow}
            beside={beside}
            small={pictureAddress(session.state().take, 480)}
            tool={
              framing.open
                ? framing.tool
                : stripTool
                  ? stripTool
                  : isTinting && isTreatedSeen
                    ? (picking.tool ?? tinting.tool)
                    : side.what !== 'step' || (isCompared && !isOwn)
                      ? null
                      : (picking.tool ?? region.tool ?? painting.pictureTool ?? pull.tool)
            }
            colouredMarked={area !== null && painting.colouredMarked}
            bar={
              tried ? (
                <TryingLabel tried={tried} />
              ) : isStrip ? (
                <StripLabel strip={strip} onPaper={stripOnPaper} />
              ) : isBare && compare.kept ? (
                <BareLabel />
              ) : working ? (
                <PaintBar painting={painting} />
              ) : undefined
            }
          >
            {(onWall, hanging) => (
              <>
                {region.region && side.what === 'step' ? (
                  <RegionFrame region={region.region} onWall={onWall} />
                ) : null}
                {isStrip ? (
                  <StripOnPicture strip={strip} picture={picture} hanging={hanging} shown={litOf} />
                ) : null}
                {framing.open ? <CropOverlay framing={framing} picture={picture} onWall={onWall} /> : null}
                {isTinting && isTreatedSeen ? (
                  <RoughStrokes
                    picture={picture}
                    treatment={treatment}
                    area={area}
                    drawn={tinting.drawn}
                    onWall={onWall}
                  />
                ) : null}
                {working && isTreatedSeen && painting.tool === 'finder' ? (
                  <RoughStrokes
                    picture={picture}
                    treatment={treatment}
                    area={area}
                    drawn={painting.finding.drawn}
                    onWall={onWall}
                  />
                ) : null}
                {working && isTreatedSeen && isBrush(painting.tool) ? (
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
                {working && isTreatedSeen ? (
                  <ShapeHandles
                    picture={picture}
                    treatment={treatment}
                    area={area}
                    onWall={onWall}
                    onPreview={preview}
                    onCommit={commit}
                  />
                ) : null}
                {pull.pulled ? <PulledLabel pulled={pull.pulled} onWall={onWall} /> : null}
                {side.what === 'step' && isTreatedSeen && step?.enabled ? (
                  <StepHandles
                    step={step}
                    onWall={onWall}
                    now={edits.now}
                    onPreview={preview}
                    onCommit={commit}
                  />
                ) : null}
              </>
            )}
          </PictureView>
        </Boundary>
        {Board && step ? (
          <Board.Show
            picture={picture}
            treatment={treatment}
            step={step}
            onChoose={(settings, name) => {
              commit(
                changeStep(treatment, step.id, { settings }),
                `${wordFor(step.kind)}: ${name.toLowerCase()}`,
              );
              closeBoard();
            }}
            onClose={closeBoard}
          />
        ) : null}
      </Place>
      <Panel
        ref={panel}
        data-step={side.what === 'step' ? step?.id : undefined}
        aria-label={
          side.what === 'step' ? (step ? nameOfStep(step) : 'No step chosen') : sideNames[side.what]
        }
      >
        <Boundary what="This panel" resetBy={`${side.what} ${step?.id}`}>
          {!around ? null : side.what === 'add' ? (
            <StepBoard
              key={`${side.stage} ${side.beside}`}
              picture={picture}
              treatment={calm}
              stage={side.stage}
              beside={side.beside}
              onTry={setTried}
              onAdd={usual => {
                setTried(null);
                toFocus.current = true;
                if (side.beside !== undefined) return onAddBeside(usual, side.beside);
                if (usual) onAdd(usual, side.stage);
                painting.set({ tool: 'brush', taking: false });
              }}
              onClose={() => {
                close();
                const from =
                  side.beside === undefined
                    ? `[data-add="${side.stage}"]`
                    : `[data-holds~="${window.CSS.escape(side.beside)}"]`;
                document.querySelector<HTMLElement>(from)?.focus();
              }}
            />
          ) : side.what === 'history' ? (
            <StatesBoard
              line={session.moments}
              isTold={session.moments.earlierThan === null}
              onEarlier={session.earlier}
              onTry={setTried}
              onGo={session.goBy}
              onAct={onMoment}
              onClose={close}
            />
          ) : side.what === 'looks' ? (
            <LooksBoard
              picture={picture}
              treatment={calm}
              sharing={sharing}
              inSeries={inSeries}
              onTry={setTried}
              onLay={({ treatment: laid, laid: ids }, name) => {
                setTried(null);
                close();
                onLay(laid, `Look: ${name}`, ids.at(-1));
              }}
              onClose={close}
            />
          ) : side.what === 'methods' || side.what === 'method' ? (
            <Suspense>
              <Methods
                picture={picture}
                treatment={treatment}
                calm={calm}
                takeId={session.state().take.id}
                at={side.what === 'method' ? side : null}
                edits={edits}
                setOf={setOf}
                onAt={setSide}
                onChoose={onChoose}
                onLay={onMethodLaid}
                onTry={setTried}
                pick={picking.pick}
                sharing={sharing}
                onSheet={onSheet}
                onAfresh={() =>
                  onMoment('take', { treatment: { ...bare, frame: calm.frame }, label: 'Bare' })
                }
                onClose={() => {
                  toFocus.current = true;
                  close();
                }}
              />
            </Suspense>
          ) : isTinting ? (
            <TintPanel
              picture={picture}
              treatment={calm}
              tinting={tinting}
              chosen={chosen}
              onChoose={onChoose}
              onTinted={onTinted}
              onTry={setTried}
              onClose={close}
            />
          ) : framing.open ? (
            <FramePanel framing={framing} picture={picture} />
          ) : step ? (
            <StepPanel
              picture={picture}
              treatment={treatment}
              step={step}
              onPreview={preview}
              onGlide={edits.glide}
              onCommit={commit}
              onSet={set}
              onBoard={openBoard}
              onHold={setHeld}
              pick={picking.pick}
              onAction={act}
              onAlternate={edits.alternate}
              onTry={setTried}
              strip={strip}
              onSpare={spare}
              region={region}
              now={edits.now}
              calm={calm}
              sharing={sharing}
            />
          ) : isUntouched(treatment) && isUntouched(calm) ? (
            <FirstMoves
              picture={picture}
              bare={calm}
              onTry={setTried}
              onTake={(made, label, step) => {
                setTried(null);
                onLay({ ...made, frame: calm.frame }, label, step);
              }}
              onPlain={() => setSide({ what: 'add', stage: 'ground' })}
              onMethods={() => setSide({ what: 'methods' })}
            />
          ) : (
            <Empty>
              <h2>No step chosen</h2>
              <p>Choose a tray below to change its step.</p>
            </Empty>
          )}
        </Boundary>
      </Panel>
    </>
  );
}
