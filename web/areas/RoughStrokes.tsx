import { useMemo } from 'react';
import styled from 'styled-components';
import { framedSize, geometryOf } from '../../core/frame/geometry';
import type { Stroke } from '../../core/settings/fields';
import { areaOf } from '../../core/treatment/areas';
import type { Treatment } from '../../core/treatment/treatment';
import type { PictureInfo } from '../engine/tiles';
import type { OnWall } from '../print/tool';
import type { Rough } from './rough-drag';

const Over = styled.svg`
  position: absolute;
  pointer-events: none;
  overflow: visible;
  polyline {
    fill: none;
    stroke-linecap: round;
    stroke-linejoin: round;
    vector-effect: non-scaling-stroke;
  }
  .in {
    stroke: #fff;
  }
  .out {
    stroke: #151515;
  }
  .middle {
    stroke-width: 1.5px;
  }
  .in.middle {
    stroke: #151515;
  }
  .out.middle {
    stroke: #fff;
    stroke-dasharray: 4 4;
  }
`;

/** What the area finder was told: light where it is meant, dark and dashed where it is not. */
export function RoughStrokes({
  picture,
  treatment,
  area,
  drawn,
  onWall,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  area: string | null;
  /** The one that is under way. */
  drawn: Rough | null;
  onWall: OnWall;
}) {
  const { frame } = treatment;
  const size = useMemo(() => framedSize(picture, frame), [picture, frame]);
  const toPoints = useMemo(() => {
    const { toFramed } = geometryOf(picture, frame);
    const out = new Float64Array(2);
    return ({ points }: Stroke) => {
      const places = points.length === 1 ? [points[0], points[0]] : points;
      return places
        .map(([x, y]) => {
          toFramed(x * picture.width, y * picture.height, out);
          return `${out[0].toFixed(1)},${out[1].toFixed(1)}`;
        })
        .join(' ');
    };
  }, [picture, frame]);
  const parts = areaOf(treatment, area)?.parts ?? [];
  const strokes: Rough[] = parts.flatMap(part =>
    part.kind === 'found'
      ? [
          ...part.strokesIn.map(stroke => ({ stroke, isOut: false })),
          ...part.strokesOut.map(stroke => ({ stroke, isOut: true })),
        ]
      : [],
  );
  const scale = onWall.width / size.width;
  const long = Math.max(picture.width, picture.height) * scale;
  const line = ({ stroke, isOut }: Rough, key: string, opacity: number) => {
    const points = toPoints(stroke);
    const side = isOut ? 'out' : 'in';
    return (
      <g key={key} data-rough={side}>
        <polyline
          className={side}
          points={points}
          style={{ strokeWidth: Math.max(3, 2 * stroke.radius * long), strokeOpacity: opacity }}
        />
        <polyline className={`${side} middle`} points={points} />
      </g>
    );
  };
  return (
    <Over
      viewBox={`0 0 ${size.width} ${size.height}`}
      style={{ left: onWall.left, top: onWall.top, width: onWall.width, height: onWall.height }}
      aria-hidden="true"
    >
      {strokes.map((rough, i) => line(rough, `${i}`, 0.22))}
      {drawn ? line(drawn, 'drawn', 0.5) : null}
    </Over>
  );
}
