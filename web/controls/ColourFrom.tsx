import { useEffect, useLayoutEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import styled from 'styled-components';
import { toHex } from '../../core/colour/srgb';
import { currentTake, pictureAddress } from '../app/api';
import { useSeries } from '../app/queries';
import { TakePicture } from '../ui/TakePicture';
import { Dialog } from '../ui/overlays';

const Body = styled.div`
  display: grid;
  grid-template-columns: 132px minmax(0, 1fr);
  gap: 16px;
  height: min(66vh, 560px);
  margin-top: 12px;
  .all {
    display: grid;
    align-content: start;
    gap: 8px;
    overflow: auto;
    scrollbar-width: thin;
    padding: 3px;
  }
  .all button {
    display: block;
    line-height: 0;
    border-radius: 3px;
  }
  .all img {
    width: 100%;
    border-radius: 2px;
  }
  .all button[aria-pressed='true'] {
    box-shadow: 0 0 0 3px var(--lamp);
  }
  .all button:focus-visible {
    outline: 2px solid var(--ink);
    outline-offset: 3px;
  }
  .large {
    position: relative;
    display: grid;
    place-items: center;
    min-height: 0;
    min-width: 0;
    background: #6b6b6b;
    border-radius: var(--r-field);
    padding: 12px;
  }
  canvas {
    max-width: 100%;
    max-height: 100%;
    min-height: 0;
    cursor: crosshair;
    border: 5px solid #fff;
  }
  canvas:focus-visible {
    outline: 2px solid var(--lamp);
    outline-offset: 2px;
  }
  .at {
    position: absolute;
    pointer-events: none;
    width: 44px;
    height: 44px;
    border-radius: 50%;
    border: 3px solid #fff;
    box-shadow: 0 2px 6px rgb(0 0 0 / 0.5);
    transform: translate(-50%, -130%);
  }
`;

/** A colour is the mean of so many pixels to each side. */
const AROUND = 2;
/** The reading point moves by so much of the picture with an arrow key. */
const STEP = 0.01;

/** The mean colour about a place of a picture, in codes. */
function meanAt(data: ImageData, x: number, y: number): string {
  const sum = [0, 0, 0];
  let count = 0;
  for (let v = y - AROUND; v <= y + AROUND; v++) {
    for (let u = x - AROUND; u <= x + AROUND; u++) {
      if (u < 0 || v < 0 || u >= data.width || v >= data.height) continue;
      const p = (v * data.width + u) * 4;
      for (let k = 0; k < 3; k++) sum[k] += data.data[p + k];
      count++;
    }
  }
  const [r, g, b] = sum.map(v => v / count / 255);
  return toHex(r, g, b);
}

/** One photograph, to read a colour from by pointer or by keys. */
function Reading({
  address,
  title,
  onPick,
}: {
  address: string;
  title: string;
  onPick: (c: string) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [data, setData] = useState<ImageData | null>(null);
  const [at, setAt] = useState<{ x: number; y: number } | null>(null);
  /** Where the photograph lies in its frame, in CSS pixels. */
  const [box, setBox] = useState({ left: 0, top: 0, width: 0, height: 0 });
  useLayoutEffect(() => {
    const element = canvas.current!;
    const measure = () => {
      const { offsetLeft: left, offsetTop: top, offsetWidth: width, offsetHeight: height } = element;
      setBox({ left, top, width, height });
    };
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    let isStale = false;
    const image = new Image();
    image.onload = () => {
      const to = canvas.current;
      const context = to?.getContext('2d', { willReadFrequently: true });
      if (isStale || !to || !context) return;
      to.width = image.naturalWidth;
      to.height = image.naturalHeight;
      context.drawImage(image, 0, 0);
      setData(context.getImageData(0, 0, to.width, to.height));
    };
    image.src = address;
    return () => {
      isStale = true;
    };
  }, [address]);
  const colour =
    data && at ? meanAt(data, Math.round(at.x * data.width), Math.round(at.y * data.height)) : null;
  const point = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    const border = 5;
    setAt({
      x: Math.min(1, Math.max(0, (event.clientX - box.left - border) / (box.width - 2 * border))),
      y: Math.min(1, Math.max(0, (event.clientY - box.top - border) / (box.height - 2 * border))),
    });
  };
  const move = (event: KeyboardEvent) => {
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (by) {
      const { x, y } = at ?? { x: 0.5, y: 0.5 };
      const far = event.shiftKey ? 5 * STEP : STEP;
      setAt({
        x: Math.min(1, Math.max(0, x + by[0] * far)),
        y: Math.min(1, Math.max(0, y + by[1] * far)),
      });
    } else if ((event.key === 'Enter' || event.key === ' ') && colour) onPick(colour);
    else return;
    event.preventDefault();
  };
  return (
    <div className="large">
      <canvas
        ref={canvas}
        role="application"
        tabIndex={0}
        aria-label={`${title}: point at a colour, arrow keys move, Enter takes it${colour ? `. ${colour}` : ''}`}
        onPointerMove={point}
        onPointerDown={point}
        onPointerLeave={() => setAt(null)}
        onClick={() => colour && onPick(colour)}
        onFocus={() => setAt(now => now ?? { x: 0.5, y: 0.5 })}
        onKeyDown={move}
      />
      {at && colour ? (
        <span
          className="at"
          style={{
            background: colour,
            left: box.left + at.x * box.width,
            top: box.top + at.y * box.height,
          }}
        />
      ) : null}
    </div>
  );
}

/** A colour taken from any photograph of a series, as it is treated now. */
export function ColourFrom({
  seriesId,
  onPick,
  onClose,
}: {
  seriesId: string;
  /** The colour, and the title of the photograph that it is from. */
  onPick: (colour: string, title: string) => void;
  onClose: () => void;
}) {
  const series = useSeries(seriesId);
  const photographs = series.data?.photographs ?? [];
  const [chosen, setChosen] = useState<string | null>(null);
  const from = photographs.find(p => p.id === chosen) ?? photographs[0];
  return (
    <Dialog title="A colour from a photograph" wide="picture" onClose={onClose}>
      <Body>
        <div className="all" role="group" aria-label="Photographs">
          {photographs.map(p => (
            <button
              key={p.id}
              type="button"
              aria-label={p.title}
              aria-pressed={p === from}
              onClick={() => setChosen(p.id)}
            >
              <TakePicture take={currentTake(p)} edge={160} />
            </button>
          ))}
        </div>
        {from ? (
          <Reading
            key={from.id}
            address={pictureAddress(currentTake(from), 960)}
            title={from.title}
            onPick={colour => onPick(colour, from.title)}
          />
        ) : null}
      </Body>
    </Dialog>
  );
}
