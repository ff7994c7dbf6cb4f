import styled from 'styled-components';
import {
  againOn,
  besideArea,
  onTheRest,
  recoloured,
  washesOf,
  type Tinted,
} from '../../core/treatment/tinting';
import { areaOf } from '../../core/treatment/areas';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { useKeys } from '../app/useKeys';
import { countOf } from '../../words/words';
import { PigmentBox } from '../controls/PigmentBox';
import { pigmentPaint } from '../controls/paint';
import { SuitingPigments } from '../controls/SuitingPigments';
import type { PictureInfo } from '../engine/tiles';
import type { Tried } from '../takes/tried';
import { nameOfStep } from '../../words/step-names';
import { BoardHead } from '../ui/board-head';
import { Button, Segments } from '../ui/buttons';
import { SHARE_OF_ALL, Slider } from '../ui/slider';
import type { Tinting } from './useTinting';

const Body = styled.div`
  flex: 1;
  min-height: 0;
  overflow: hidden auto;
  scrollbar-width: thin;
  --wells: clamp(118px, 100vh - 680px, 360px);
  > .ways {
    padding: 2px 16px 6px;
  }
  > .sizes {
    padding: 0 16px 4px;
  }
  p {
    padding: 2px 16px 8px;
    color: var(--ink-2);
    font-size: var(--t-small);
    line-height: 1.4;
  }
  .leave {
    padding: 0 16px 8px;
  }
`;

const Washes = styled.section`
  padding: 8px 16px 12px;
  border-top: 1px solid var(--rule);
  h3 {
    font-size: var(--t-body);
    font-weight: 600;
    line-height: 26px;
  }
  ul {
    list-style: none;
    margin: 0 -8px;
    padding: 0;
  }
  li button {
    display: grid;
    grid-template-columns: 26px minmax(0, 1fr) auto;
    align-items: center;
    gap: 9px;
    width: 100%;
    height: 32px;
    padding: 0 8px;
    border-radius: var(--r-field);
    text-align: left;
    font-weight: 500;
    i {
      height: 20px;
      border-radius: 4px;
      box-shadow:
        0 0 0 1.5px var(--paper-high),
        0 1px 3px rgb(0 0 0 / 0.5);
    }
    span {
      overflow: hidden;
      white-space: nowrap;
      text-overflow: ellipsis;
    }
    small {
      color: var(--ink-2);
      font-size: var(--t-small);
      font-weight: 400;
    }
  }
  li button:hover {
    background: var(--paper-low);
  }
  li button[aria-current] {
    background: var(--paper-high);
    box-shadow: 0 1px 3px rgb(0 0 0 / 0.28);
    font-weight: 650;
  }
  li button:focus-visible {
    outline: 2px solid var(--lamp-deep);
    outline-offset: -2px;
  }
  .acts {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 6px;
    padding-top: 8px;
  }
`;

const about = {
  thing:
    'Draw roughly on a thing, or just press on it: it is found and tinted. More strokes of the same pigment add to it.',
  edges: 'Paint: the colour stops at the edges of what the stroke begins on.',
  spread:
    'Lay a few strokes of several pigments: each spreads to the edges of what it lies on, up to the others.',
} as const;

/** Pigments and washes: a pigment is taken, a stroke laid on the picture, and there is a wash. */
export function TintPanel({
  picture,
  treatment,
  tinting,
  chosen,
  onChoose,
  onTinted,
  onTry,
  onClose,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  tinting: Tinting;
  chosen: string | null;
  onChoose: (step: string) => void;
  onTinted: (treatment: Treatment, label: string, step: string) => void;
  /** Shows something in the print; must stay the same function. */
  onTry: (tried: Tried | null) => void;
  onClose: () => void;
}) {
  useKeys({ giveUp: onClose });
  const { named, way, radius, keepEdges, leaving, set } = tinting;
  const washes = washesOf(treatment);
  const current = washes.find(s => s.id === chosen);
  const act = (made: Tinted | null, label: string) => {
    if (made) onTinted(made.treatment, label, made.step);
  };
  const least = 0.002;
  const most = way === 'edges' ? 0.12 : 0.04;
  const size = Math.min(1, Math.max(0, Math.log(radius / least) / Math.log(most / least)));
  return (
    <>
      <BoardHead
        title="Tint"
        says={washes.length ? countOf(washes.length, 'wash', 'washes') : ''}
        close="Back to the step"
        onClose={onClose}
      />
      <Body>
        <div className="ways">
          <Segments
            label="What a stroke does"
            value={way}
            options={[
              { value: 'thing', text: 'Finds it' },
              { value: 'spread', text: 'Spreads' },
              { value: 'edges', text: 'Keeps edges' },
            ]}
            onChange={next => set({ way: next, leaving: false })}
          />
        </div>
        <p>{about[way]}</p>
        <div className="sizes">
          <Slider
            label="Size"
            name="Stroke size"
            value={size}
            {...SHARE_OF_ALL}
            standard={0.5}
            onChange={v => set({ radius: least * (most / least) ** v })}
            onChangeEnd={() => undefined}
          />
          {way === 'edges' ? (
            <Slider
              label="Edges"
              name="Keep to edges"
              value={keepEdges}
              {...SHARE_OF_ALL}
              min={0.05}
              standard={0.6}
              onChange={v => set({ keepEdges: v })}
              onChangeEnd={() => undefined}
            />
          ) : null}
        </div>
        <PigmentBox
          pigment={named.pigment}
          depth={named.depth}
          above={isHere =>
            current && (
              <SuitingPigments
                key={current.id}
                picture={picture}
                treatment={treatment}
                step={current}
                isHere={isHere}
                onTry={onTry}
                onLay={taken => {
                  set({ named: taken, leaving: false });
                  const label = `Pigment ${taken.name.toLowerCase()}`;
                  onTinted(recoloured(treatment, current.id, taken), label, current.id);
                }}
              />
            )
          }
          onTake={taken => set({ named: structuredClone(taken), leaving: false })}
        />
        {way === 'spread' ? (
          <div className="leave">
            <Button aria-pressed={leaving} isDisabled={!current} onPress={() => set({ leaving: !leaving })}>
              Leave as it is
            </Button>
          </div>
        ) : null}
        <Washes aria-label="Washes">
          <h3>Washes</h3>
          {washes.length ? (
            <ul>
              {washes.map(step => (
                <li key={step.id}>
                  <button
                    type="button"
                    aria-current={step.id === chosen ? 'true' : undefined}
                    onClick={() => {
                      tinting.takeUp(treatment, step.id);
                      onChoose(step.id);
                    }}
                  >
                    <i style={{ background: pigmentPaint((step as Step<'wash'>).settings.pigment) }} />
                    <span>{nameOfStep(step)}</span>
                    <small>{areaOf(treatment, step.mask)?.name}</small>
                  </button>
                </li>
              ))}
            </ul>
          ) : (
            <p style={{ padding: 0 }}>None yet.</p>
          )}
          <div className="acts">
            <Button
              $small
              isDisabled={!current}
              onPress={() => act(againOn(treatment, current!.id), 'The same wash again')}
            >
              Same again
            </Button>
            <Button
              $small
              isDisabled={!current}
              onPress={() => act(besideArea(treatment, current!.id, named), 'Its inverse')}
            >
              Its inverse
            </Button>
            <Button
              $small
              isDisabled={!washes.length}
              onPress={() => act(onTheRest(treatment, named), 'The rest of the picture')}
            >
              The rest
            </Button>
          </div>
        </Washes>
      </Body>
    </>
  );
}
