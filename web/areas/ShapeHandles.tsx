import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import styled from 'styled-components';
import { framedSize, geometryOf } from '../../core/frame/geometry';
import { areaOf, changePart } from '../../core/treatment/areas';
import type { MaskPart } from '../../core/masks/parts';
import type { Treatment } from '../../core/treatment/schema';
import type { PictureInfo } from '../engine/tiles';
import type { OnWall } from '../print/tool';

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
  line,
  polygon {
    fill: none;
    stroke: #fff;
    stroke-width: 1.5;
    filter: drop-shadow(0 0 1px rgb(0 0 0 / 0.9));
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
  &:focus-visible {
    background: var(--lamp);
    outline: 2px solid #fff;
  }
`;

type Shape = Extract<MaskPart, { kind: 'linear' | 'oval' }>;
type Point = [number, number];

/** The points by which a shape is held, in fractions of the photograph, and what moving one makes of it. */
function held(
  part: Shape,
  { width, height }: PictureInfo,
): { name: string; at: Point; move: (to: Point) => Shape }[] {
  if (part.kind === 'linear') {
    return [
      { name: 'Full end of the gradient', at: part.from, move: from => ({ ...part, from }) },
      { name: 'Empty end of the gradient', at: part.to, move: to => ({ ...part, to }) },
    ];
  }
  const longEdge = Math.max(width, height);
  const angle = (part.angle * Math.PI) / 180;
  const along: [Point, Point] = [
    [Math.cos(angle), Math.sin(angle)],
    [-Math.sin(angle), Math.cos(angle)],
  ];
  const at = (axis: 0 | 1): Point => [
    part.centre[0] + (along[axis][0] * part.radii[axis] * longEdge) / width,
    part.centre[1] + (along[axis][1] * part.radii[axis] * longEdge) / height,
  ];
  const radius = (to: Point) =>
    Math.min(
      4,
      Math.max(
        0.002,
        Math.hypot((to[0] - part.centre[0]) * width, (to[1] - part.centre[1]) * height) / longEdge,
      ),
    );
  return [
    { name: 'Middle of the oval', at: part.centre, move: centre => ({ ...part, centre }) },
    {
      name: 'Side of the oval',
      at: at(0),
      move: to => ({
        ...part,
        radii: [radius(to), part.radii[1]],
        angle:
          (Math.atan2((to[1] - part.centre[1]) * height, (to[0] - part.centre[0]) * width) * 180) / Math.PI,
      }),
    },
    { name: 'Foot of the oval', at: at(1), move: to => ({ ...part, radii: [part.radii[0], radius(to)] }) },
  ];
}

/** Handles of the straight gradients and ovals of an area, on the picture; dragged or moved by arrow keys. */
export function ShapeHandles({
  picture,
  treatment,
  area,
  onWall,
  onPreview,
  onCommit,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  area: string;
  onWall: OnWall;
  onPreview: (treatment: Treatment) => void;
  onCommit: (treatment: Treatment, label: string) => void;
}) {
  const made = useRef<Treatment | null>(null);
  const mask = areaOf(treatment, area);
  if (!mask) return null;
  const size = framedSize(picture, treatment.frame);
  const { toFramed, toPhotograph } = geometryOf(picture, treatment.frame);
  const out = new Float64Array(2);
  const onPrint = ([x, y]: Point): Point => {
    toFramed(x * picture.width, y * picture.height, out);
    return [(out[0] / size.width) * onWall.width, (out[1] / size.height) * onWall.height];
  };
  const onPhotograph = (left: number, top: number): Point => {
    toPhotograph((left / onWall.width) * size.width, (top / onWall.height) * size.height, out);
    const clamp = (v: number) => Math.min(5, Math.max(-4, v));
    return [clamp(out[0] / picture.width), clamp(out[1] / picture.height)];
  };
  const rest = () => {
    if (made.current) onCommit(made.current, 'Shape of the area');
    made.current = null;
  };
  return (
    <OverPicture style={onWall}>
      {mask.parts.map((part, index) => {
        if (part.kind !== 'linear' && part.kind !== 'oval') return null;
        const points = held(part, picture);
        const [a, b] = points.map(p => onPrint(p.at));
        const around =
          part.kind === 'oval'
            ? Array.from({ length: 48 }, (_, i) => {
                const t = (i / 48) * 2 * Math.PI;
                const c: Point = part.centre;
                const [u, v] = [points[1].at, points[2].at];
                return onPrint([
                  c[0] + Math.cos(t) * (u[0] - c[0]) + Math.sin(t) * (v[0] - c[0]),
                  c[1] + Math.cos(t) * (u[1] - c[1]) + Math.sin(t) * (v[1] - c[1]),
                ]).join(',');
              }).join(' ')
            : '';
        return (
          <div key={index}>
            <svg aria-hidden="true">
              {part.kind === 'linear' ? (
                <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} />
              ) : (
                <polygon points={around} />
              )}
            </svg>
            {points.map(({ name, at, move }) => {
              const [left, top] = onPrint(at);
              const to = (point: Point) => {
                made.current = changePart(treatment, area, index, move(point));
                onPreview(made.current);
              };
              return (
                <Handle
                  key={name}
                  type="button"
                  aria-label={`${name}. Arrow keys move it.`}
                  style={{ left, top }}
                  onPointerDown={(event: PointerEvent<HTMLButtonElement>) => {
                    event.stopPropagation();
                    event.currentTarget.setPointerCapture(event.pointerId);
                  }}
                  onPointerMove={(event: PointerEvent<HTMLButtonElement>) => {
                    if (!(event.buttons & 1)) return;
                    const box = event.currentTarget.parentElement!.parentElement!.getBoundingClientRect();
                    to(onPhotograph(event.clientX - box.left, event.clientY - box.top));
                  }}
                  onPointerUp={rest}
                  onKeyDown={(event: KeyboardEvent) => {
                    const far = event.shiftKey ? 20 : 3;
                    const by = {
                      ArrowLeft: [-far, 0],
                      ArrowRight: [far, 0],
                      ArrowUp: [0, -far],
                      ArrowDown: [0, far],
                    }[event.key];
                    if (!by) return;
                    event.preventDefault();
                    event.stopPropagation();
                    to(onPhotograph(left + by[0], top + by[1]));
                    rest();
                  }}
                />
              );
            })}
          </div>
        );
      })}
    </OverPicture>
  );
}
