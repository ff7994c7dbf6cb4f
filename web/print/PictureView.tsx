import { useCallback, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import styled from 'styled-components';
import type { Treatment } from '../../core/treatment/schema';
import { isKey } from '../app/keys';
import { useKeys } from '../app/useKeys';
import type { PictureInfo } from '../engine/tiles';
import { Reading } from './Reading';
import { Tones } from './Tones';
import type { OnWall, PictureTool } from './tool';
import type { Beside } from '../engine/client';
import { useDrawing, type Follow } from './useDrawing';
import { BORDER, FOOT, useHanging } from './useHanging';
import { usePointer } from './usePointer';
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
  &:focus-visible::after {
    content: '';
    position: absolute;
    inset: 3px;
    outline: 2px solid var(--wall-ink);
  }
`;

const Fault = styled.p`
  position: absolute;
  left: 50%;
  top: 40%;
  transform: translate(-50%, -50%);
  background: var(--paper-high);
  padding: 12px 16px;
  border-radius: var(--r-label);
  box-shadow: var(--shade-label);
`;

/** The wall without its foot: what hangs there is cut off with the picture. */
const Hanging = styled.div`
  position: absolute;
  inset: 0;
  overflow: hidden;
`;

export interface PictureViewProps {
  picture: PictureInfo;
  title: string;
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
  /** Pictures that may be shown next: their pixels are fetched when there is nothing else to do. */
  beside?: readonly Beside[];
  /** What is laid over the picture. */
  children?: (onWall: OnWall) => ReactNode;
}

/** The photograph on the wall: drawn by the engine, zoomed and moved. */
export function PictureView({
  picture,
  title,
  treatment,
  tool = null,
  follow,
  colouredMarked,
  bar,
  small,
  beside,
  children,
}: PictureViewProps) {
  const stage = useRef<HTMLDivElement>(null);
  const [marking, setMarking] = useState(false);
  const [spaceHeld, setSpaceHeld] = useState(false);
  const hanging = useHanging(stage, picture, treatment.frame);
  const { at, ratio, scale, view, zoom, pan, fit } = hanging;
  const pointer = useRef<{ x: number; y: number } | null>(null);
  const marks = marking ? 'lost' : colouredMarked ? 'coloured' : null;
  const drawing = useDrawing({ picture, title, treatment, follow, hanging, pointer, marks, small, beside });
  const { shown, fault } = drawing;
  const { reading, panning, handlers } = usePointer(
    stage,
    hanging,
    drawing,
    tool,
    spaceHeld,
    treatment,
    pointer,
  );
  const natural = useCallback(() => zoom(1), [zoom]);

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
    lost: () => setMarking(now => !now),
    pan: {
      hold: event => (event.target === stage.current ? setSpaceHeld(true) : false),
      release: () => setSpaceHeld(false),
    },
  });

  const onWall = at && {
    left: at.x / ratio,
    top: at.y / ratio,
    width: at.width / ratio,
    height: at.height / ratio,
  };
  return (
    <Wall>
      {onWall && (shown || fault === null) ? (
        <Hanging style={{ bottom: FOOT }}>
          <Print
            data-print
            style={{
              left: onWall.left - BORDER,
              top: onWall.top - BORDER,
              width: onWall.width + 2 * BORDER,
              height: onWall.height + 2 * BORDER,
            }}
          />
        </Hanging>
      ) : null}
      <Stage
        ref={stage}
        style={{
          bottom: FOOT,
          cursor: tool && !spaceHeld && !panning ? tool.cursor : undefined,
        }}
        tabIndex={0}
        data-stage-of-picture
        role="group"
        aria-label={`The picture. Plus and minus zoom, arrow keys move it.${tool ? ` ${tool.name}` : ''}`}
        data-free={(view.mode === 'free' && (!tool || spaceHeld)) || undefined}
        data-panning={panning || undefined}
        {...handlers}
        onKeyDown={onKey}
      >
        <div ref={drawing.home} />
      </Stage>
      {onWall && children ? children(onWall) : null}
      {fault ? <Fault role="alert">{fault}</Fault> : null}
      {bar ?? (
        <>
          <Reading reading={reading} />
          <Tones picture={picture} treatment={treatment} marking={marking} onMark={setMarking} />
        </>
      )}
      <ZoomLabel scale={scale} fit={view.mode === 'fit'} onFit={fit} onNatural={natural} />
    </Wall>
  );
}
