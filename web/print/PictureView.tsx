import {
  useCallback,
  useMemo,
  useRef,
  useState,
  type ComponentType,
  type KeyboardEvent,
  type ReactNode,
} from 'react';
import styled from 'styled-components';
import type { Rectangle } from '../../core/frame/geometry';
import type { Treatment } from '../../core/treatment/treatment';
import { isKey } from '../app/keys';
import { useKeys } from '../app/useKeys';
import type { PictureInfo } from '../engine/tiles';
import { place, printOf } from '../engine/view';
import { Fault } from './labels';
import { OtherSide, type OtherReader } from './OtherSide';
import { halvesOf, seenOf, type Split } from './panes';
import { PartingLine } from './PartingLine';
import { Reading } from './Reading';
import { Tones } from './Tones';
import type { OnWall, PictureTool } from './tool';
import type { Beside } from '../engine/client';
import { useDrawing, type Follow } from './useDrawing';
import { BORDER, FOOT, paneAt, useHanging, type Hanging } from './useHanging';
import { PointerPlace } from './pointer-place';
import { usePointer, type Neighbour } from './usePointer';
import { WallLabel } from './labels';
import { WallTones } from '../ui/bar';
import { ZoomLabel } from './ZoomLabel';

const Wall = styled.main`
  background: linear-gradient(var(--wall-edge), var(--wall) 14px);
  position: relative;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
`;

/** The white border of the print, which is also the white reference. */
const Print = styled.div`
  position: absolute;
  background: #fafafa;
  box-shadow: var(--shade-print);
  pointer-events: none;
`;

const Stage = styled.div`
  position: absolute;
  inset: 0;
  touch-action: none;
  outline: none;
  &[data-free] {
    cursor: grab;
  }
  &[data-panning] {
    cursor: grabbing;
  }
  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }
  &:focus-visible:not([data-alone])::after {
    content: '';
    position: absolute;
    inset: 3px;
    outline: 2px solid var(--wall-ink);
  }
`;

/** The pane of the picture that is worked on. */
const Own = styled.div`
  position: absolute;
`;

/** Said once an answer takes its time. */
const Working = styled(WallLabel)`
  top: 8px;
  bottom: auto;
  left: 50%;
  padding: 0 12px;
  transform: translateX(-50%);
  pointer-events: none;
`;

const WallChoice = styled(WallLabel)`
  right: 254px;
  padding: 0 11px;
  @media (max-width: 760px) {
    display: none;
  }
  @media (max-width: 1180px) {
    &[data-compared] {
      display: none;
    }
  }
`;

/** The wall without its foot: what hangs there is cut off with the picture. */
const Hanging = styled.div`
  position: absolute;
  inset: 0;
  overflow: hidden;
`;

/** Another picture that hangs beside this one, or covers half of it. */
export interface Other {
  treatment: Treatment;
  /** What it is called, to a screen reader. */
  title: string;
  /** The word that parts both readings. */
  beside: string;
  /** Which of both is the picture that is worked on: the first is left or above. */
  own: 0 | 1;
  split: Split;
  onLine: (line: number) => void;
  onTurn: (down: boolean) => void;
  /** What is laid on the corners of both, by what is seen of each in CSS pixels of the wall. */
  labels: (seen: readonly [Rectangle, Rectangle], down: boolean) => ReactNode;
}

export interface PictureViewProps {
  picture: PictureInfo;
  title: string;
  /** The id of the words that describe the picture. */
  describedBy?: string;
  treatment: Treatment;
  /** What a press on the picture does; without one, and with the space bar held, it moves the picture. */
  tool?: PictureTool | null;
  /** What is to be shown at each movement of a control, ahead of `treatment`; null where that is. */
  follow?: Follow;
  /** What has no colour steps back. */
  colouredMarked?: boolean;
  /** The tools' own labels below the picture, in place of those of the picture. */
  bar?: ReactNode;
  /** The address of a small picture of it, for the first moment. */
  small?: string;
  other?: Other | null;
  /** Pictures that may be shown next: their pixels are fetched when there is nothing else to do. */
  beside?: readonly Beside[];
  /** It hangs alone: nothing stands about it or below it. */
  alone?: boolean;
  /** What is laid over the picture. */
  over?: ComponentType<{ onWall: OnWall; hanging: Hanging }>;
}

/** The photograph on the wall: drawn by the engine, zoomed and moved. */
export function PictureView({
  picture,
  title,
  describedBy,
  treatment,
  tool = null,
  follow,
  colouredMarked,
  bar,
  small,
  other = null,
  beside,
  alone = false,
  over: Over,
}: PictureViewProps) {
  const stage = useRef<HTMLDivElement>(null);
  const [marking, setMarking] = useState(false);
  const [spaceHeld, setSpaceHeld] = useState(false);
  const hanging = useHanging(stage, picture, treatment.frame, other?.split, tool?.turn);
  const { at, ratio, scale, view, viewport, margin, panes, down, zoom, pan, fit } = hanging;
  const [pointer] = useState(() => new PointerPlace());
  const marks = marking ? 'lost' : colouredMarked ? 'coloured' : null;
  const own = other?.own ?? 0;
  const isHalf = other?.split.way === 'half';
  // Half and half both lie in one frame, so that each place lies on itself.
  const otherFrame = other && !isHalf ? other.treatment.frame : treatment.frame;
  const otherAt = useMemo(
    () => (viewport ? place(printOf(picture, otherFrame), viewport, view, margin) : null),
    [picture, otherFrame, viewport, view, margin],
  );
  const line = other?.split.line ?? 0;
  const halves = useMemo(
    () =>
      isHalf && at && viewport ? halvesOf(viewport, seenOf(at, viewport), line, down).halves : [null, null],
    [isHalf, at, viewport, line, down],
  );
  const drawing = useDrawing({ picture, title, treatment, follow, hanging, pointer, marks, small, beside });
  const { home, shown, late, fault } = drawing;
  const reader = useRef<OtherReader>(null);
  const isCompared = other !== null;
  const neighbour = useMemo((): Neighbour | null => {
    if (!isCompared || !otherAt) return null;
    const theirs = halves[1 - own];
    const isAt = (x: number, y: number) =>
      theirs
        ? x >= theirs.x && y >= theirs.y && x < theirs.x + theirs.width && y < theirs.y + theirs.height
        : paneAt(panes, x, y) !== own;
    return { own, isAt, at: otherAt, reader };
  }, [isCompared, own, halves, panes, otherAt]);
  const { reading, panning, isBeside, handlers } = usePointer(
    stage,
    hanging,
    drawing,
    tool,
    spaceHeld,
    treatment,
    pointer,
    neighbour,
  );
  const natural = useCallback(() => zoom(1), [zoom]);
  const twice = useCallback(() => zoom(2), [zoom]);
  /** The view that the loupe came from. */
  const before = useRef<typeof view | null>(null);

  const onKey = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const step = 60 * ratio;
    const by = { ArrowLeft: [step, 0], ArrowRight: [-step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[
      event.key
    ];
    if (by) pan(by[0], by[1]);
    else if (isKey('zoomIn', event)) zoom(scale * 1.25);
    else if (isKey('zoomOut', event)) zoom(scale / 1.25);
    else return;
    event.preventDefault();
  };
  useKeys({
    fit,
    natural,
    twice,
    loupe: {
      hold: event => {
        if (event.repeat) return;
        before.current = view;
        zoom(1, pointer.now() ?? undefined);
      },
      release: () => {
        if (before.current) hanging.hang(before.current);
        before.current = null;
      },
    },
    turn: () => (other ? other.onTurn(!down) : false),
    lost: () => setMarking(now => !now),
    pan: {
      hold: event => (event.target === stage.current ? setSpaceHeld(true) : false),
      release: () => setSpaceHeld(false),
    },
  });

  const hung = (where: typeof at, pane: Rectangle): OnWall | null =>
    where && {
      left: (pane.x + where.x) / ratio,
      top: (pane.y + where.y) / ratio,
      width: where.width / ratio,
      height: where.height / ratio,
    };
  const onWall = hung(at, panes[own]);
  const prints = [onWall, other && !isHalf ? hung(otherAt, panes[1 - own]) : null];
  /** What is seen of the picture on a pane, in CSS pixels of the wall. */
  const seen = (where: NonNullable<typeof at>, pane: Rectangle): Rectangle => {
    const { x, y, width, height } = seenOf(where, pane);
    return { x: (pane.x + x) / ratio, y: (pane.y + y) / ratio, width: width / ratio, height: height / ratio };
  };
  const half = isHalf && at ? seen(at, panes[0]) : null;
  const labelled = (): readonly [Rectangle, Rectangle] | null => {
    if (!other || !at || !otherAt) return null;
    if (half) return [half, half];
    const [first, second] = own === 0 ? [at, otherAt] : [otherAt, at];
    return [seen(first, panes[0]), seen(second, panes[1])];
  };
  const corners = labelled();
  const foot = alone ? 0 : FOOT;
  const px = (length: number) => `${length / ratio}px`;
  return (
    <Wall>
      {onWall && (shown || fault === null) ? (
        <Hanging style={{ bottom: foot }}>
          {prints.map((print, i) =>
            print ? (
              <Print
                key={i}
                data-print
                style={{
                  left: print.left - BORDER,
                  top: print.top - BORDER,
                  width: print.width + 2 * BORDER,
                  height: print.height + 2 * BORDER,
                }}
              />
            ) : null,
          )}
        </Hanging>
      ) : null}
      <Stage
        ref={stage}
        style={{
          bottom: foot,
          cursor: tool && !spaceHeld && !panning && !isBeside ? tool.cursor : undefined,
        }}
        tabIndex={0}
        data-stage-of-picture
        data-alone={alone || undefined}
        role="group"
        aria-describedby={describedBy}
        aria-label={`The picture. Plus and minus zoom, arrow keys move it.${tool ? ` ${tool.name}` : ''}`}
        data-free={(view.mode === 'free' && (!tool || spaceHeld || isBeside)) || undefined}
        data-on-other={isBeside || undefined}
        data-panning={panning || undefined}
        {...handlers}
        onKeyDown={onKey}
      >
        <Own
          style={{
            left: px(panes[own].x),
            top: px(panes[own].y),
            width: px(panes[own].width),
            height: px(panes[own].height),
          }}
        >
          <div ref={home} />
        </Own>
        {other ? (
          <OtherSide
            picture={picture}
            title={other.title}
            treatment={other.treatment}
            hanging={{ viewport, view, margin, ratio, at: otherAt }}
            pane={panes[1 - own]}
            within={halves[1 - own]}
            marks={marks}
            pointer={pointer}
            reader={reader}
          />
        ) : null}
      </Stage>
      {onWall && Over && !alone ? <Over onWall={onWall} hanging={hanging} /> : null}
      {other && half ? (
        <PartingLine seen={half} line={line} down={down} onLine={other.onLine} onTurn={other.onTurn} />
      ) : null}
      {other && corners ? other.labels(corners, down) : null}
      {fault ? <Fault role="alert">{fault}</Fault> : null}
      <span role="status">{late && shown && !fault && !alone ? <Working>Working …</Working> : null}</span>
      {alone
        ? null
        : (bar ?? (
            <>
              <Reading reading={reading} beside={other?.beside} />
              {other ? null : (
                <Tones picture={picture} treatment={treatment} marking={marking} onMark={setMarking} />
              )}
              <WallChoice data-compared={other !== null || undefined}>
                <WallTones />
              </WallChoice>
            </>
          ))}
      {alone ? null : (
        <ZoomLabel scale={scale} fit={view.mode === 'fit'} onFit={fit} onNatural={natural} onTwice={twice} />
      )}
    </Wall>
  );
}
