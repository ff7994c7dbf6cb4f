import { memo, useId, useMemo, type ReactNode } from 'react';
import styled from 'styled-components';
import { framedSize } from '../../../core/frame/geometry';
import { gradientOf } from '../../../core/colour/gradient';
import { toHex } from '../../../core/colour/srgb';
import type { Pigment } from '../../../core/colour/pigments';
import { stepKind, type Settings } from '../../../core/steps';
import type { Face } from '../../../core/steps/define';
import type { Mask } from '../../../core/masks/mask';
import { beneathPart } from '../../../core/masks/parts';
import { foundUpon } from '../../../core/treatment/areas';
import type { Step, Treatment } from '../../../core/treatment/treatment';
import type { PictureInfo } from '../../engine/tiles';
import { SmallPicture } from '../../print/SmallPicture';
import { BASIN } from '../trays';
import { outlineOf, type Shape } from './outline';
import { hues, ramp, toneLines } from './sampled';

/** What a tray shows: its step, drawn from the settings. */

const { width: W, height: H } = BASIN;

const Drawn = ({ children }: { children: ReactNode }) => (
  <svg viewBox={`0 0 ${W} ${H}`} width={W} height={H} aria-hidden="true">
    {children}
  </svg>
);

function Ramp({ colours, id }: { colours: readonly string[]; id: string }) {
  return (
    <linearGradient id={id} x1="0" x2="1" y1="0" y2="0">
      {colours.map((paint, i) => (
        <stop key={i} offset={i / (colours.length - 1)} stopColor={paint} />
      ))}
    </linearGradient>
  );
}

/** Tones over tones, on a grid. */
function CurveFace({ step }: { step: Step }) {
  const lines = toneLines(step, 33);
  const d = (tones: readonly number[]) =>
    `M${tones.map((t, i) => `${((i / (tones.length - 1)) * W).toFixed(1)},${(H - 3 - t * (H - 6)).toFixed(1)}`).join('L')}`;
  return (
    <Drawn>
      <rect width={W} height={H} fill="#fafafa" />
      <path
        d={`M${W / 3},0V${H}M${(2 * W) / 3},0V${H}M0,${H / 3}H${W}M0,${(2 * H) / 3}H${W}`}
        stroke="#dcdcdc"
        fill="none"
      />
      {lines.map(({ paint, tones }, i) => (
        <path key={i} d={d(tones)} fill="none" stroke={paint ?? '#161616'} strokeWidth="1.9" />
      ))}
    </Drawn>
  );
}

/** Hues as pennants, and what becomes of each. */
function HuesFace({ step }: { step: Step }) {
  const all = hues(step);
  const wide = W / all.length;
  return (
    <Drawn>
      {all.map(({ before, after }, i) => (
        <g key={i}>
          <rect x={i * wide} width={wide + 0.5} height={H} fill={after} />
          <path d={`M${i * wide},0h${wide + 0.2}v17l${-wide / 2},7l${-wide / 2},-7z`} fill={before} />
        </g>
      ))}
    </Drawn>
  );
}

/** What becomes of greys, dark to light. */
function RampFace({ step }: { step: Step }) {
  const id = useId();
  const stops = step.kind === 'gradient-map' ? (step.settings as Settings<'gradient-map'>).stops : [];
  return (
    <Drawn>
      <Ramp id={id} colours={ramp(step, 13)} />
      <rect width={W} height={H} fill={`url(#${id})`} />
      {stops.slice(0, 12).map((stop, i) => (
        <path
          key={i}
          d={`M${4 + stop.at * (W - 8)},${H - 8}l4,6h-8z`}
          fill="#fff"
          stroke="#333"
          strokeWidth="0.8"
        />
      ))}
    </Drawn>
  );
}

/** A dish of the bath: what it makes of a print that lies in it. */
function DishFace({ step }: { step: Step }) {
  const id = useId();
  const colours = ramp(step, 9);
  return (
    <Drawn>
      <Ramp id={id} colours={colours.slice(2).reverse()} />
      <rect width={W} height={H} fill={`url(#${id})`} />
      <path
        d={`M0,11c12,-5 20,4 32,1s18,-5 30,-1s18,3 30,-1`}
        fill="none"
        stroke="#fff"
        strokeOpacity="0.75"
        strokeWidth="1.4"
      />
      <path d={`M0,38c14,-6 26,5 46,0s30,-4 46,1V${H}H0z`} fill={colours[2]} fillOpacity="0.3" />
    </Drawn>
  );
}

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
function AreaFace({ step, picture, upTo }: { step: Step; picture: PictureInfo; upTo: Treatment }) {
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

/** Corners that fall away. */
function CornersFace({ step }: { step: Step }) {
  const id = useId();
  const { amount, size, feather } = step.settings as Settings<'vignette'>;
  const corner = amount < 0 ? '#1c1c1c' : '#ffffff';
  const from = Math.max(0.05, size * (1 - feather * 0.7));
  return (
    <Drawn>
      <radialGradient id={id} cx="0.5" cy="0.5" r="0.72">
        <stop offset={from} stopColor={corner} stopOpacity="0" />
        <stop
          offset={Math.min(1, from + 0.2 + feather * 0.5)}
          stopColor={corner}
          stopOpacity={Math.abs(amount)}
        />
      </radialGradient>
      <rect width={W} height={H} fill="#c4c4c4" />
      <rect width={W} height={H} fill={`url(#${id})`} />
      <ellipse
        cx={W / 2}
        cy={H / 2}
        rx={(W / 2) * size}
        ry={(H / 2) * size}
        fill="none"
        stroke="#fff"
        strokeOpacity="0.8"
        strokeDasharray="2 2.5"
      />
    </Drawn>
  );
}

/** Grains as large as they are set; of a seed the same ones each time. */
function grains(size: number, seed: number) {
  let state = (seed || 1) >>> 0;
  const next = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
  return Array.from({ length: 150 }, () => ({
    x: next() * W,
    y: next() * H,
    r: 0.35 + next() * (0.35 + size),
    dark: next() < 0.55,
  }));
}

/** Grains, as large and as many as they are set. */
function GrainFace({ step }: { step: Step }) {
  const { amount, size, seed } = step.settings as Settings<'grain'>;
  const dots = useMemo(() => grains(size, seed), [size, seed]);
  const seen = Math.min(1, 0.15 + amount * 1.6);
  return (
    <Drawn>
      <rect width={W} height={H} fill="#bdbdbd" />
      {amount > 0
        ? dots.map(({ x, y, r, dark }, i) => (
            <circle key={i} cx={x} cy={y} r={r} fill={dark ? '#3b3b3b' : '#fff'} opacity={seen} />
          ))
        : null}
    </Drawn>
  );
}

/** A light that spreads. */
function GlowFace({ step }: { step: Step }) {
  const id = useId();
  const { amount, radius, halation } = step.settings as Settings<'glow'>;
  const warm = halation > amount ? '#ffb48a' : '#ffffff';
  return (
    <Drawn>
      <radialGradient id={id} cx="0.5" cy="0.5" r="0.5">
        <stop offset="0.12" stopColor="#fff" />
        <stop
          offset={0.2 + Math.min(0.5, radius * 6)}
          stopColor={warm}
          stopOpacity={Math.max(amount, halation) * 0.8}
        />
        <stop offset="1" stopColor={warm} stopOpacity="0" />
      </radialGradient>
      <rect width={W} height={H} fill="#6d6d6d" />
      <rect x={W / 2 - H} width={2 * H} height={H} fill={`url(#${id})`} />
      <circle cx={W / 2} cy={H / 2} r="7" fill="#fff" />
    </Drawn>
  );
}

/** An edge made steeper, with what that leaves on both sides. */
function EdgesFace({ step }: { step: Step }) {
  const { amount } = step.settings as Settings<'sharpen'>;
  const over = Math.min(9, amount * 6);
  return (
    <Drawn>
      <rect width={W} height={H} fill="#fafafa" />
      <path
        d={`M0,40H34c6,0 6,${over} 9,${over}S44,${11 - over} 48,${11 - over}s4,${over} 10,${over}H${W}`}
        fill="none"
        stroke="#161616"
        strokeWidth="1.9"
      />
      <path d={`M0,40H30c16,0 16,-29 32,-29H${W}`} fill="none" stroke="#b9b9b9" />
    </Drawn>
  );
}

/** Waves of three widths, each as strong as its scale is raised. */
function TextureFace({ step }: { step: Step }) {
  const { coarse, medium, fine } = step.settings as Settings<'local-contrast'>;
  const wave = (y: number, length: number, raised: number) => {
    const high = 5 * (1 + raised);
    const count = Math.ceil(W / length);
    return `M0,${y}${Array.from({ length: count }, () => `q${length / 4},${-high} ${length / 2},0t${length / 2},0`).join('')}`;
  };
  return (
    <Drawn>
      <rect width={W} height={H} fill="#fafafa" />
      {(
        [
          [12, 46, coarse],
          [27, 20, medium],
          [41, 8, fine],
        ] as const
      ).map(([y, length, raised]) => (
        <path
          key={y}
          d={wave(y, length, raised)}
          fill="none"
          stroke="#161616"
          strokeWidth={raised === 0 ? 0.8 : 1.7}
          strokeOpacity={raised === 0 ? 0.5 : 1}
        />
      ))}
    </Drawn>
  );
}

const faceOf = (step: Step): Face => stepKind(step.kind)!.face ?? 'picture';

const drawn: Record<Exclude<Face, 'area' | 'picture'>, (props: { step: Step }) => ReactNode> = {
  curve: CurveFace,
  hues: HuesFace,
  ramp: RampFace,
  dish: DishFace,
  corners: CornersFace,
  grain: GrainFace,
  glow: GlowFace,
  edges: EdgesFace,
  texture: TextureFace,
};

/** A step, drawn from its settings and the area that it lies on. */
export const StepFace = memo(
  function StepFace({ step, picture, upTo }: { step: Step; picture: PictureInfo; upTo: Treatment }) {
    const face = faceOf(step);
    if (face === 'picture') return <SmallPicture picture={picture} treatment={upTo} {...BASIN} />;
    if (face === 'area') return <AreaFace step={step} picture={picture} upTo={upTo} />;
    const Drawn = drawn[face];
    return <Drawn step={step} />;
  },
  (before, after) => {
    const face = faceOf(after.step);
    if (before.step.kind !== after.step.kind || before.step.settings !== after.step.settings) return false;
    if (face === 'picture') return before.upTo === after.upTo && before.picture === after.picture;
    return (
      face !== 'area' ||
      (before.step.mask === after.step.mask &&
        before.upTo.masks === after.upTo.masks &&
        before.upTo.frame === after.upTo.frame)
    );
  },
);
