import { useEffect, useMemo, useRef, useState, type CSSProperties } from 'react';
import styled from 'styled-components';
import { framedSize } from '../../core/frame/geometry';
import { beneathStep, withStep } from '../../core/treatment/beneath';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { useKeys } from '../app/useKeys';
import { smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import { Button } from '../ui/buttons';

type Settings = Step<'mono'>['settings'];

/** The conversions, in words: what each does to a picture. */
const ways: { method: Settings['method']; name: string; says: string }[] = [
  { method: 'luminance', name: 'Luminance', says: 'Each colour as bright as the eye sees it.' },
  {
    method: 'response',
    name: 'Response by hue',
    says: 'Found for this picture: what colour keeps apart stays apart.',
  },
  {
    method: 'local-contrast',
    name: 'Local contrast',
    says: 'Colours of equal brightness are parted from their surroundings.',
  },
  {
    method: 'channels',
    name: 'Channel weights',
    says: 'Red and green strong, blue weak: skies fall, skin rises.',
  },
  { method: 'luma', name: 'Luma', says: 'Weighted screen numbers: deep colours a little lighter.' },
  { method: 'average', name: 'Average', says: 'All three alike: blues light, yellows heavy.' },
  {
    method: 'lightness',
    name: 'Lightness',
    says: 'Half way between strongest and weakest: colours flatten.',
  },
];

const Board = styled.section`
  position: absolute;
  inset: 0;
  background: linear-gradient(var(--wall-edge), var(--wall) 14px);
  z-index: 1;
  container-type: size;
  .large,
  .small {
    background: #fafafa;
    box-shadow: var(--shade-print);
    padding: 6px;
  }
  canvas {
    display: block;
    width: 100%;
  }
  .label {
    background: var(--paper-high);
    box-shadow: var(--shade-label);
    border-radius: var(--r-label);
    padding: 8px 10px 8px 14px;
    margin-top: 12px;
    display: flex;
    align-items: center;
    gap: 12px;
  }
  .label div {
    margin-right: auto;
  }
  .label p {
    color: var(--ink-2);
    font-size: var(--t-small);
  }
  .label h2 {
    font-size: var(--t-body);
    font-weight: 650;
  }
  .beside {
    display: grid;
    gap: 12px;
    align-content: start;
  }
  .beneath {
    display: grid;
    grid-template-columns: repeat(3, minmax(0, 1fr));
    gap: 12px;
    margin-top: 12px;
  }
  .small {
    display: block;
    text-align: left;
    width: 100%;
    font-weight: 500;
  }
  .small span {
    display: block;
    padding: 5px 3px 0;
    line-height: 17px;
  }
  .small:disabled {
    color: var(--ink-2);
  }
  .small small {
    color: var(--ink-2);
    font-size: var(--t-small);
  }
  .small[aria-pressed='true'] {
    outline: 3px solid var(--lamp);
    box-shadow:
      0 0 0 4px var(--lamp-deep),
      var(--shade-print);
    font-weight: 650;
  }
  .small:focus-visible {
    outline: 3px solid var(--ink);
    outline-offset: 3px;
  }
`;

/** One print large, the others beside and beneath it; of an upright or square picture all beside it, so that none hangs below the wall. */
const Hung = styled.div`
  height: 100%;
  overflow: auto;
  display: grid;
  place-content: safe center;
  grid-template-columns: minmax(0, min(560px, 66%, 0.75 * ((100cqh - 172px) * var(--shape) + 20px))) 160px;
  gap: 12px;
  padding: 16px;
  &[data-tall] {
    --most: min(50cqw, (100cqh - 130px) * var(--shape));
    --row: (100cqh - 32px - (var(--rows) - 1) * 12px) / var(--rows);
    --across: (100cqw - 44px - var(--most) - (var(--columns) - 1) * 12px) / var(--columns);
    grid-template-columns: var(--most) auto;
  }
  &[data-tall] .beside {
    grid-template-columns: repeat(var(--columns), min(var(--across), (var(--row) - 58px) * var(--shape)));
    align-content: center;
  }
`;

/** How many prints stand beside the large one, across and down, by the shape of the picture (width by height). */
function besideOf(shape: number): { columns: number; rows: number } | null {
  if (shape < 0.85) return { columns: 4, rows: 2 };
  return shape < 1.2 ? { columns: 3, rows: 3 } : null;
}

/** A treatment of the photograph drawn to fill a width. */
function Print({ picture, treatment, width }: { picture: PictureInfo; treatment: Treatment; width: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const size = framedSize(picture, treatment.frame);
  const height = Math.round((width * size.height) / size.width);
  useEffect(() => {
    let stale = false;
    const draw = async () => {
      const ratio = Math.min(2, window.devicePixelRatio || 1);
      const { engine } = await smallPictures();
      if (stale) return;
      const bitmap = await engine.picture(picture, treatment, width * ratio, height * ratio);
      const target = canvas.current;
      if (!stale && target) {
        target.width = bitmap.width;
        target.height = bitmap.height;
        target.getContext('2d')?.drawImage(bitmap, 0, 0);
      }
      bitmap.close();
    };
    void draw().catch(() => undefined);
    return () => {
      stale = true;
    };
  }, [picture, treatment, width, height]);
  return (
    <canvas
      ref={canvas}
      width={width}
      height={height}
      style={{ aspectRatio: `${width} / ${height}` }}
      aria-hidden="true"
    />
  );
}

const LARGE = 540;
const SMALL = 148;

/** All conversions side by side on the photographer's own picture; one click takes one. */
export function MonoBoard({
  picture,
  treatment,
  step,
  onChoose,
  onClose,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  step: Step;
  onChoose: (settings: Settings, name: string) => void;
  onClose: () => void;
}) {
  const now = step.settings as Settings;
  const [found, setFound] = useState<Settings['response'] | null>(null);
  const [shown, setShown] = useState<Settings['method']>(now.method);
  const beneath = useMemo(() => beneathStep(treatment, step.id), [treatment, step.id]);

  useEffect(() => {
    let stale = false;
    const find = async () => {
      const { engine } = await smallPictures();
      const { settings } = await engine.automatic(picture, beneath, step.kind);
      if (!stale) setFound((settings as Pick<Settings, 'response'>).response);
    };
    void find().catch(() => undefined);
    return () => {
      stale = true;
    };
  }, [picture, beneath, step.kind]);

  useKeys({ giveUp: onClose });

  const settingsOf = useMemo(() => {
    const of = (method: Settings['method']): Settings => ({
      ...now,
      method,
      response: method === 'response' && now.method !== 'response' && found ? found : now.response,
    });
    return new Map(ways.map(w => [w.method, of(w.method)]));
  }, [now, found]);
  const treatments = useMemo(
    () =>
      new Map(
        ways.map(({ method }) => {
          const alone = { ...step, enabled: true, settings: settingsOf.get(method)! } as Step;
          return [method, withStep(treatment, alone)];
        }),
      ),
    [treatment, step, settingsOf],
  );
  const way = ways.find(w => w.method === shown)!;
  const says =
    shown === 'response' && now.method === 'response' ? 'The eight families as they are set.' : way.says;
  /** The automatic response is still being looked for. */
  const waits = (method: Settings['method']) =>
    method === 'response' && now.method !== 'response' && found === null;
  const small = (w: (typeof ways)[number]) => (
    <button
      key={w.method}
      className="small"
      aria-pressed={w.method === now.method}
      disabled={waits(w.method)}
      onMouseEnter={() => setShown(w.method)}
      onFocus={() => setShown(w.method)}
      onClick={() => onChoose(settingsOf.get(w.method)!, w.name)}
    >
      <Print picture={picture} treatment={treatments.get(w.method)!} width={SMALL} />
      <span>
        {w.name}{' '}
        {w.method === 'response' && now.method !== 'response' ? (
          <small>{waits(w.method) ? 'looking …' : 'auto'}</small>
        ) : null}
      </span>
    </button>
  );
  const { width, height } = framedSize(picture, treatment.frame);
  const tall = besideOf(width / height);
  const beneathLarge = tall ? 0 : 3;
  const style = { '--shape': width / height, '--columns': tall?.columns, '--rows': tall?.rows };
  return (
    <Board aria-label="Choose a mono">
      <Hung data-tall={tall ? '' : undefined} style={style as CSSProperties}>
        <div>
          <div className="large">
            <Print picture={picture} treatment={treatments.get(shown)!} width={LARGE} />
          </div>
          <div className="label">
            <div>
              <h2>{way.name}</h2>
              <p>{says}</p>
            </div>
            <Button onPress={onClose}>Leave as it is</Button>
          </div>
          {tall ? null : <div className="beneath">{ways.slice(-beneathLarge).map(small)}</div>}
        </div>
        <div className="beside">{ways.slice(0, ways.length - beneathLarge).map(small)}</div>
      </Hung>
    </Board>
  );
}
