import { useId, useMemo } from 'react';
import styled from 'styled-components';
import { framedSize } from '../../../core/frame/geometry';
import { gradientOf } from '../../../core/colour/gradient';
import { toHex } from '../../../core/colour/srgb';
import type { Pigment } from '../../../core/colour/pigments';
import type { Settings } from '../../../core/steps';
import type { Mask } from '../../../core/masks/mask';
import { beneathPart } from '../../../core/masks/parts';
import { foundUpon } from '../../../core/treatment/areas';
import type { PictureInfo } from '../../engine/tiles';
import { SmallPicture } from '../../print/SmallPicture';
import { BASIN } from '../trays';
import type { Step, Treatment } from '../../../core/treatment/treatment';
import { Drawn, H, Ramp, W } from './Drawn';
import { outlineOf, type Shape } from './outline';
import { hues, ramp } from './sampled';

const pigmentColours = (pigment: Pigment): string[] => {
  if (pigment.kind === 'flat') return [pigment.colour, pigment.colour];
  const at = gradientOf(pigment.stops, { interpolation: 'oklab' });
  const c = new Float64Array(3);
  return [0.15, 0.35, 0.55, 0.75, 0.92].map(t => {
    at(t, c);
    return toHex(c[0], c[1], c[2]);
  });
};

/** What lies on an area: the colours of it, across. */
function layOf(step: Step): string[] {
  if (step.kind === 'wash') return pigmentColours((step.settings as Settings<'wash'>).pigment);
  if (step.kind === 'keep-colour') return hues(step).map(h => h.before);
  if (step.kind === 'local-light') {
    const { exposure, contrast } = step.settings as Settings<'local-light'>;
    const light = 0.5 + 0.35 * Math.tanh(exposure + 0.3 * contrast);
    return Array<string>(2).fill(toHex(light, light, light));
  }
  return ramp(step, 7);
}

function Part({ shape, paint }: { shape: Shape; paint: string }) {
  switch (shape.kind) {
    case 'line':
      return (
        <polyline
          points={shape.points}
          fill="none"
          stroke={paint}
          strokeWidth={shape.width}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      );
    case 'oval':
      return shape.outside ? (
        <path
          d={`M0,0H${W}V${H}H0zM${shape.x - shape.rx},${shape.y}a${shape.rx},${shape.ry} 0 1 0 ${2 * shape.rx},0a${shape.rx},${shape.ry} 0 1 0 ${-2 * shape.rx},0z`}
          fillRule="evenodd"
          fill={paint}
        />
      ) : (
        <ellipse
          cx={shape.x}
          cy={shape.y}
          rx={shape.rx}
          ry={shape.ry}
          transform={`rotate(${shape.angle} ${shape.x} ${shape.y})`}
          fill={paint}
        />
      );
    case 'fade': {
      const [[x, y], [u, v]] = [shape.from, shape.to];
      // The side on which it is full, up to the middle of its way.
      const [mx, my] = [(x + u) / 2, (y + v) / 2];
      const [dx, dy] = [x - u, y - v];
      const long = Math.hypot(dx, dy) || 1;
      const [nx, ny] = [(-dy / long) * 200, (dx / long) * 200];
      const [fx, fy] = [(dx / long) * 200, (dy / long) * 200];
      return (
        <polygon
          points={`${mx + nx},${my + ny} ${mx - nx},${my - ny} ${mx - nx + fx},${my - ny + fy} ${mx + nx + fx},${my + ny + fy}`}
          fill={paint}
        />
      );
    }
    case 'all':
      return <rect width={W} height={H} fill={paint} />;
  }
}

/** The paper of a tray. */
const PAPER = '#c9c9c9';

const Upon = styled.span`
  display: grid;
  place-items: center;
  width: ${W}px;
  height: ${H}px;
  background: ${PAPER};
  canvas {
    width: auto;
    height: auto;
    max-width: 100%;
    max-height: 100%;
  }
`;

/** An area that is found in the photograph, in the colour that lies on it; where none is found, drawn by the outline of what it is made of. */
export function AreaFace({ step, picture, upTo }: { step: Step; picture: PictureInfo; upTo: Treatment }) {
  const area = upTo.masks.find(m => m.id === step.mask) ?? null;
  const { frame, masks } = upTo;
  // What lies on other areas alone does not make it anew.
  const isAlone = area?.parts.every(part => beneathPart(part) === undefined);
  const others = isAlone ? null : masks;
  const colours = layOf(step);
  const colour = colours[Math.floor(colours.length / 2)];
  const found = useMemo(
    () => area && foundUpon({ frame }, area, others ?? [area], PAPER, colour),
    [frame, area, others, colour],
  );
  if (found) {
    // All of the picture is seen, upright or not, on the paper of the tray.
    const { width, height } = framedSize(picture, frame);
    const scale = Math.min(W / width, H / height);
    const size = { width: Math.round(width * scale), height: Math.round(height * scale) };
    return (
      <Upon>
        <SmallPicture picture={picture} treatment={found} {...size} />
      </Upon>
    );
  }
  return <AreaOutline step={step} area={area} masks={masks} ratio={picture.width / picture.height} />;
}

/** An area in the colour that lies on it. */
function AreaOutline({
  step,
  area,
  masks,
  ratio,
}: {
  step: Step;
  area: Mask | null;
  masks: readonly Mask[];
  ratio: number;
}) {
  const id = useId();
  const shapes = area ? outlineOf(area, masks, BASIN, ratio) : [{ kind: 'all', takes: false } as const];
  return (
    <Drawn>
      <Ramp id={`${id}p`} colours={layOf(step)} />
      <mask id={`${id}m`}>
        <rect width={W} height={H} fill={area?.invert ? '#fff' : '#000'} />
        {shapes.map((shape, i) => (
          <Part key={i} shape={shape} paint={shape.takes === (area?.invert ?? false) ? '#fff' : '#000'} />
        ))}
      </mask>
      <rect width={W} height={H} fill={PAPER} />
      <path d={`M0,40c20,-8 40,4 92,-6V${H}H0z`} fill="#b5b5b5" />
      <rect width={W} height={H} fill={`url(#${id}p)`} mask={`url(#${id}m)`} />
      {shapes.length === 0 ? (
        <rect
          x="30"
          y="13"
          width="32"
          height="26"
          rx="8"
          fill="none"
          stroke="#6b6b6b"
          strokeDasharray="3 3"
        />
      ) : null}
    </Drawn>
  );
}
