import { useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { framedSize } from '../../core/frame/geometry';
import { smallPictures } from '../engine/client';
import { useMovable } from '../ui/movable';
import { useTools } from '../controls/tools';

const Box = styled.section`
  padding: 8px 16px 10px;
  border-top: 1px solid var(--rule);
  .glass {
    display: block;
    width: 100%;
    height: 150px;
    border-radius: var(--r-field);
    background: var(--wall);
    box-shadow: inset 0 0 0 1px rgb(0 0 0 / 0.35);
    cursor: grab;
    touch-action: none;
  }
  .glass:active {
    cursor: grabbing;
  }
  .glass:focus-visible {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: var(--t-small);
    padding-top: 5px;
  }
`;

const clamp = (v: number) => Math.min(1, Math.max(0, v));

/** The picture at 1:1 through a glass, where grain and sharpness are judged; dragged or moved by arrow keys. */
export function Loupe() {
  const { picture, treatment } = useTools();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [at, setAt] = useState({ x: 0.5, y: 0.5 });
  const size = framedSize(picture, treatment.frame);
  const wanted = useRef({ picture, treatment, at });
  const busy = useRef(false);

  useEffect(() => {
    wanted.current = { picture, treatment, at };
    const draw = async () => {
      busy.current = true;
      try {
        const { engine } = await smallPictures();
        let done: unknown = null;
        while (done !== wanted.current && canvas.current) {
          const now = (done = wanted.current);
          const ratio = window.devicePixelRatio || 1;
          const { clientWidth, clientHeight } = canvas.current;
          const [width, height] = [Math.round(clientWidth * ratio), Math.round(clientHeight * ratio)];
          const image = await engine.loupe(now.picture, now.treatment, now.at.x, now.at.y, width, height);
          const target = canvas.current;
          if (!target) return;
          target.width = width;
          target.height = height;
          const context = target.getContext('2d')!;
          context.drawImage(
            image,
            Math.floor((width - image.width) / 2),
            Math.floor((height - image.height) / 2),
          );
          target.dataset.drawn = String(Number(target.dataset.drawn ?? 0) + 1);
        }
      } catch {
        // The large picture says what is wrong.
      } finally {
        busy.current = false;
      }
    };
    if (!busy.current) void draw();
  }, [picture, treatment, at]);

  const from = useRef(at);
  const moveProps = useMovable({
    box: () => ({ width: size.width / devicePixelRatio, height: size.height / devicePixelRatio }),
    near: 40 / size.width,
    far: 200 / size.width,
    begin: () => (from.current = at),
    // A drag pulls the picture along beneath the glass; a key moves the glass.
    move: (right, down, byKey) => {
      const sign = byKey ? 1 : -1;
      const { x, y } = from.current;
      setAt({ x: clamp(x + sign * right), y: clamp(y + sign * down) });
    },
  });
  return (
    <Box aria-label="Loupe">
      <canvas
        ref={canvas}
        className="glass"
        role="img"
        tabIndex={0}
        aria-label="The picture at 1:1. Arrow keys move the loupe."
        {...moveProps}
      />
      <small>Loupe at 1:1. Drag to look elsewhere.</small>
    </Box>
  );
}
