import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import styled from 'styled-components';
import type { Step } from '../../core/treatment/schema';
import { vignetteShape } from '../../core/steps/vignette';
import type { OnWall } from '../print/tool';
import type { SetSetting } from '../takes/useEdits';

const OverPicture = styled.div`
  position: absolute;
  pointer-events: none;
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    overflow: visible;
  }
  path {
    fill: none;
    stroke: #fff;
    stroke-width: 1.5;
    filter: drop-shadow(0 0 1px rgb(0 0 0 / 0.9));
    vector-effect: non-scaling-stroke;
  }
`;

const Handle = styled.button`
  position: absolute;
  width: 14px;
  height: 14px;
  margin: -7px;
  border-radius: 50%;
  background: #fff;
  border: 1.5px solid var(--ink);
  box-shadow: 0 1px 2px rgb(0 0 0 / 0.4);
  pointer-events: auto;
  touch-action: none;
  cursor: move;
  &[data-size] {
    cursor: ew-resize;
    border-radius: 3px;
  }
  &:focus-visible {
    background: var(--lamp);
    outline: 2px solid #fff;
  }
`;

const clamp = (v: number) => Math.min(1, Math.max(0, v));

/** The outline of a vignette on the picture: its middle is moved, its size drawn out, by pointer or arrow keys. */
export function VignetteOval({
  step,
  onWall,
  set,
}: {
  step: Step<'vignette'>;
  onWall: OnWall;
  set: SetSetting;
}) {
  const { settings } = step;
  const { width, height } = onWall;
  const start = useRef<{ x: number; y: number; from: typeof settings } | null>(null);
  const latest = useRef<{ path: string[]; value: unknown } | null>(null);
  const shape = vignetteShape(settings, { width, height });
  const outline = (share: number) => {
    const points = Array.from({ length: 97 }, (_, i) => {
      const angle = (i / 96) * 2 * Math.PI;
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      const r = share / (Math.abs(c) ** shape.power + Math.abs(s) ** shape.power) ** (1 / shape.power);
      return `${shape.centreX + r * c * shape.halfX},${shape.centreY + r * s * shape.halfY}`;
    });
    return `M${points.join('L')}Z`;
  };
  const move = (path: string[], value: unknown) => {
    latest.current = { path, value };
    set(path, value);
  };
  const rest = () => {
    if (latest.current) set(latest.current.path, latest.current.value, 'oval');
    latest.current = null;
    start.current = null;
  };
  const centreTo = (x: number, y: number) => move(['centre'], { x: clamp(x), y: clamp(y) });
  const sizeTo = (size: number) => move(['size'], clamp(size));
  const press = (event: PointerEvent) => {
    event.stopPropagation();
    (event.target as HTMLElement).setPointerCapture(event.pointerId);
    start.current = { x: event.clientX, y: event.clientY, from: settings };
  };
  const keys = (event: KeyboardEvent, by: (x: number, y: number) => void) => {
    const far = event.shiftKey ? 0.05 : 0.01;
    const step = {
      ArrowLeft: [-far, 0],
      ArrowRight: [far, 0],
      ArrowUp: [0, -far],
      ArrowDown: [0, far],
    }[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    by(step[0], step[1]);
    rest();
  };
  const sizeX = Math.min(shape.centreX + shape.halfX, width + 40);
  return (
    <OverPicture style={onWall}>
      <svg viewBox={`0 0 ${width} ${height}`} aria-hidden="true">
        <path d={outline(1)} />
        <path d={outline(Math.max(0.02, 1 - shape.softness / 2))} strokeDasharray="4 5" opacity="0.8" />
      </svg>
      <Handle
        type="button"
        aria-label="Middle of the vignette. Arrow keys move it."
        style={{ left: shape.centreX, top: shape.centreY }}
        onPointerDown={press}
        onPointerMove={event => {
          const s = start.current;
          if (!s) return;
          centreTo(
            s.from.centre.x + (event.clientX - s.x) / width,
            s.from.centre.y + (event.clientY - s.y) / height,
          );
        }}
        onPointerUp={rest}
        onKeyDown={event => keys(event, (x, y) => centreTo(settings.centre.x + x, settings.centre.y + y))}
      />
      <Handle
        type="button"
        data-size
        aria-label="Size of the vignette. Arrow keys change it."
        style={{ left: sizeX, top: shape.centreY }}
        onPointerDown={press}
        onPointerMove={event => {
          const s = start.current;
          if (!s) return;
          const before = vignetteShape(s.from, { width, height });
          const reach = before.halfX / before.reach;
          sizeTo(s.from.size + (event.clientX - s.x) / reach / 1.25);
        }}
        onPointerUp={rest}
        onKeyDown={event => keys(event, (x, y) => sizeTo(settings.size + x - y))}
      />
    </OverPicture>
  );
}
