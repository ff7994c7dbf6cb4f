import { FlipHorizontal2, RotateCcw, RotateCw } from 'lucide-react';
import styled from 'styled-components';
import { framedSize } from '../../core/frame/geometry';
import { turnedBy } from '../../core/frame/crop';
import { mirrored, turned } from '../../core/frame/turn';
import type { PictureInfo } from '../engine/tiles';
import { Button, LinkButton } from '../ui/buttons';
import { Picker } from '../ui/overlays';
import { AMOUNT, Slider } from '../ui/slider';
import type { Framing } from './useFraming';

const Head = styled.div`
  padding: 8px 16px 7px;
  display: flex;
  align-items: center;
  gap: 9px;
  height: 50px;
  h2 {
    font-size: 15px;
    font-weight: 650;
  }
  small {
    color: var(--ink-2);
    font-size: var(--t-small);
    padding-top: 2px;
    margin-right: auto;
    font-variant-numeric: tabular-nums;
  }
`;

const Section = styled.section`
  padding: 8px 16px 10px;
  border-top: 1px solid var(--rule);
  h3 {
    font-size: var(--t-body);
    font-weight: 600;
    height: 24px;
    display: flex;
    align-items: center;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    padding: 3px 0;
    align-items: center;
  }
  .choice {
    display: grid;
    grid-template-columns: 72px 1fr;
    column-gap: 10px;
    align-items: center;
    height: 34px;
    color: var(--ink-2);
  }
  p {
    color: var(--ink-2);
    line-height: 1.45;
    padding: 4px 0 2px;
  }
  svg {
    width: 16px;
    height: 16px;
  }
`;

const ratios = [
  { value: 'free', text: 'Free' },
  { value: 'own', text: 'As photographed' },
  { value: '1', text: 'Square' },
  { value: '1.25', text: '5 : 4' },
  { value: '1.3333', text: '4 : 3' },
  { value: '1.4', text: '7 : 5' },
  { value: '1.5', text: '3 : 2' },
  { value: '1.7778', text: '16 : 9' },
] as const;

/** The numbers behind the words: exact, so that a crop of 4 : 3 is one. */
const exact: Record<string, number> = { '1.3333': 4 / 3, '1.7778': 16 / 9 };

/** Crop, straighten, converging lines, turn, mirror. */
export function FramePanel({ framing, picture }: { framing: Framing; picture: PictureInfo }) {
  const { frame, drawing, ratio } = framing;
  const size = framedSize(picture, frame);
  const whole = turnedBy(picture, frame);
  const own = whole.width / whole.height;
  const near = (a: number, b: number) => Math.abs(a / b - 1) < 0.002;
  const upright = ratio !== null && ratio < 1;
  const shownRatio =
    ratio === null
      ? 'free'
      : near(ratio, own)
        ? 'own'
        : (ratios.find(r => near(Number(r.value), upright ? 1 / ratio : ratio))?.value ?? 'free');
  const choose = (value: string) => {
    if (value === 'free') return framing.setRatio(null);
    if (value === 'own') return framing.setRatio(own);
    const long = exact[value] ?? Number(value);
    framing.setRatio(whole.height > whole.width ? 1 / long : long);
  };
  const turn = (to: 'left' | 'right') => framing.change(turned(frame, to), `turn ${to}`);
  return (
    <>
      <Head>
        <h2>Frame</h2>
        <small>{`${size.width} × ${size.height}`}</small>
        <Button $small $ink onPress={() => framing.setOpen(false)}>
          Done
        </Button>
      </Head>
      <Section aria-label="Crop">
        <h3>Crop</h3>
        <div className="choice">
          <span aria-hidden="true">Ratio</span>
          <Picker label="Ratio" value={shownRatio} options={[...ratios]} onChange={choose} />
        </div>
        <div className="row">
          {ratio !== null && !near(ratio, 1) ? (
            <Button $small onPress={() => framing.setRatio(1 / ratio)}>
              {upright ? 'Make it lie' : 'Make it stand'}
            </Button>
          ) : null}
          <LinkButton onPress={() => framing.reset()}>As photographed</LinkButton>
        </div>
      </Section>
      <Section aria-label="Turn">
        <div className="row">
          <Button $small onPress={() => turn('left')}>
            <RotateCcw aria-hidden="true" /> Left
          </Button>
          <Button $small onPress={() => turn('right')}>
            <RotateCw aria-hidden="true" /> Right
          </Button>
          <Button
            $small
            aria-pressed={frame.mirror}
            onPress={() => framing.change(mirrored(frame), 'mirror')}
          >
            <FlipHorizontal2 aria-hidden="true" /> Mirror
          </Button>
        </div>
      </Section>
      <Section aria-label="Straighten">
        <h3>Straighten</h3>
        <Slider
          label="Angle"
          value={frame.angle}
          min={-45}
          max={45}
          step={0.1}
          standard={0}
          unit="°"
          decimals={1}
          onChange={angle => framing.change({ angle })}
          onChangeEnd={angle => framing.change({ angle }, 'angle')}
        />
        <div className="row">
          <Button
            $small
            aria-pressed={drawing === 'level'}
            onPress={() => framing.draw(drawing === 'level' ? null : 'level')}
          >
            Draw a level line
          </Button>
        </div>
        {drawing === 'level' ? <p>Draw along something that should be level or upright.</p> : null}
      </Section>
      <Section aria-label="Converging lines">
        <h3>Converging lines</h3>
        {(['vertical', 'horizontal'] as const).map(which => (
          <Slider
            key={which}
            label={which === 'vertical' ? 'Verticals' : 'Horizontals'}
            value={frame.keystone[which]}
            {...AMOUNT}
            onChange={v => framing.change({ keystone: { ...frame.keystone, [which]: v } })}
            onChangeEnd={v =>
              framing.change({ keystone: { ...frame.keystone, [which]: v } }, 'converging lines')
            }
          />
        ))}
        <div className="row">
          <Button
            $small
            aria-pressed={drawing === 'parallel'}
            onPress={() => framing.draw(drawing === 'parallel' ? null : 'parallel')}
          >
            Draw two lines
          </Button>
        </div>
        {drawing === 'parallel' ? (
          <p>
            {framing.lines.length === 0
              ? 'Draw along one edge that should be upright or level.'
              : 'And now along a second one.'}
          </p>
        ) : null}
      </Section>
    </>
  );
}
