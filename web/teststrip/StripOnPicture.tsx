import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import styled from 'styled-components';
import type { Rectangle } from '../../core/frame/geometry';
import type { Treatment } from '../../core/treatment/treatment';
import { tell } from '../app/notices';
import { renderBands } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import { seenOf } from '../print/panes';
import type { Hanging } from '../print/useHanging';
import type { Cell, TestStrip } from './useTestStrip';

const Over = styled.div`
  position: absolute;
  pointer-events: none;
  overflow: hidden;
  outline: none;
  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }
`;

const Place = styled.div`
  position: absolute;
  display: flex;
  align-items: flex-end;
  justify-content: center;
  padding: 0 3px 14px;
  box-shadow:
    1px 0 0 #fff,
    0 1px 0 #fff;
  span {
    background: var(--paper-high);
    border-radius: var(--r-label);
    box-shadow: var(--shade-label);
    min-width: 40px;
    max-width: 100%;
    padding: 4px 8px;
    font-weight: 550;
    text-align: center;
    overflow: hidden;
    text-overflow: ellipsis;
    font-variant-numeric: tabular-nums;
  }
  &[data-low] {
    padding-bottom: 5px;
  }
  &[data-pointed] span {
    box-shadow:
      inset 0 -2px 0 var(--lamp),
      var(--shade-label);
  }
  &[data-now] {
    box-shadow: inset 0 0 0 3px #fff;
    z-index: 1;
  }
  &[data-now] span {
    font-weight: 650;
  }
`;

/** The rectangles of the places, in whole device pixels of what is seen of the picture: row by row, without a gap. */
export function placesOf(seen: Rectangle, columns: number, rows: number, count: number): Rectangle[] {
  const [right, bottom] = [seen.x + seen.width, seen.y + seen.height];
  const at = (from: number, length: number, of: number, i: number) => Math.round(from + (length * i) / of);
  return Array.from({ length: count }, (_, i) => {
    const row = Math.floor(i / columns);
    const column = i % columns;
    // The last row is filled, however many there are.
    const inRow = row === rows - 1 ? count - columns * (rows - 1) : columns;
    const x = at(seen.x, seen.width, inRow, column);
    const y = at(seen.y, seen.height, rows, row);
    return {
      x,
      y,
      width: (column === inRow - 1 ? right : at(seen.x, seen.width, inRow, column + 1)) - x,
      height: (row === rows - 1 ? bottom : at(seen.y, seen.height, rows, row + 1)) - y,
    };
  });
}

const within = ({ x, y, width, height }: Rectangle, px: number, py: number) =>
  px >= x && py >= y && px < x + width && py < y + height;

/** The strip over the picture: looked at, chosen by a press, or by arrows and Enter. */
export function StripOnPicture({
  strip,
  picture,
  hanging,
  shown,
}: {
  strip: TestStrip;
  picture: PictureInfo;
  hanging: Pick<Hanging, 'viewport' | 'view' | 'margin' | 'at' | 'ratio'>;
  /** What is looked at of a treatment: up to the lamp. */
  shown: (of: Treatment) => Treatment;
}) {
  const { viewport, view, margin, at, ratio } = hanging;
  const { cells, columns, rows } = strip;
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const isNow = Math.max(
    0,
    cells.findIndex(c => c.isNow),
  );
  const [pointedAt, setPointed] = useState<number>(isNow);
  const pointed = Math.min(pointedAt, cells.length - 1);
  const [done, setDone] = useState(false);
  const places = useMemo(
    () => (at && viewport ? placesOf(seenOf(at, viewport), columns, rows, cells.length) : []),
    [at, viewport, columns, rows, cells.length],
  );

  useEffect(() => {
    const element = canvas.current;
    if (!element || !viewport || places.length === 0) return;
    const { width, height } = viewport;
    if (element.width !== width || element.height !== height) Object.assign(element, { width, height });
    const context = element.getContext('2d')!;
    const abort = new AbortController();
    setDone(false);
    const requests = cells.map((cell, i) => ({
      picture,
      treatment: shown(cell.treatment),
      view,
      viewport,
      margin,
      part: places[i],
    }));
    performance.mark('strip asked');
    renderBands(
      requests,
      (i, { image, at: to }) => {
        const part = places[i];
        context.save();
        context.beginPath();
        context.rect(part.x, part.y, part.width, part.height);
        context.clip();
        context.imageSmoothingEnabled = image.width > to.width;
        context.imageSmoothingQuality = 'high';
        context.drawImage(image, to.x, to.y, to.width, to.height);
        context.restore();
        image.close();
      },
      abort.signal,
    )
      .then(() => {
        if (abort.signal.aborted) return;
        setDone(true);
        performance.mark('strip shown');
      })
      .catch((error: Error) => {
        if (!abort.signal.aborted)
          tell({ text: `The test strip could not be made: ${error.message}`, tone: 'problem' });
      });
    return () => abort.abort();
  }, [cells, picture, view, viewport, margin, places, shown]);

  // It is looked at through: the wheel and the hand go on moving the picture.
  useEffect(() => {
    const over = (event: PointerEvent) => {
      const element = box.current;
      if (!element) return;
      const isOver =
        event.target instanceof Element && event.target.closest('[data-stage-of-picture]') !== null;
      if (!isOver) return;
      const { left, top } = element.getBoundingClientRect();
      const [x, y] = [(event.clientX - left) * ratio, (event.clientY - top) * ratio];
      const found = places.findIndex(place => within(place, x, y));
      if (found >= 0) setPointed(found);
    };
    // A finger presses without having moved there.
    const types = ['pointermove', 'pointerdown'] as const;
    for (const type of types) window.addEventListener(type, over, true);
    return () => {
      for (const type of types) window.removeEventListener(type, over, true);
    };
  }, [places, ratio]);
  useEffect(() => box.current?.focus({ preventScroll: true }), []);

  const onKeyDown = (event: KeyboardEvent) => {
    const to = {
      ArrowLeft: pointed - 1,
      ArrowRight: pointed + 1,
      ArrowUp: pointed - columns,
      ArrowDown: pointed + columns,
      Home: 0,
      End: cells.length - 1,
    }[event.key];
    if (to !== undefined) {
      if (to >= 0 && to < cells.length) setPointed(to);
    } else if (event.key === 'Enter') strip.take(cells[pointed]);
    else return;
    event.preventDefault();
  };

  if (!viewport || places.length === 0) return null;
  const px = (length: number) => `${length / ratio}px`;
  return (
    <Over
      ref={box}
      role="listbox"
      tabIndex={0}
      aria-label={`Test strip: ${strip.axes.map(a => a.setting.name).join(' and ')}. Arrows choose, Enter takes one.`}
      aria-activedescendant={`strip-${pointed}`}
      data-test-strip={done ? 'done' : 'under way'}
      style={{ left: 0, top: 0, width: px(viewport.width), height: px(viewport.height) }}
      onKeyDown={onKeyDown}
    >
      <canvas ref={canvas} />
      {cells.map((cell, i) => (
        <Place
          key={i}
          id={`strip-${i}`}
          role="option"
          aria-selected={cell.isNow}
          data-now={cell.isNow || undefined}
          data-pointed={i === pointed || undefined}
          data-low={rows > 2 || undefined}
          style={{
            left: px(places[i].x),
            top: px(places[i].y),
            width: px(places[i].width),
            height: px(places[i].height),
          }}
        >
          <span>{wordsOf(cell)}</span>
        </Place>
      ))}
    </Over>
  );
}

const wordsOf = ({ words, isNow }: Cell) => `${isNow ? 'Keep ' : ''}${words.join(', ')}`;
