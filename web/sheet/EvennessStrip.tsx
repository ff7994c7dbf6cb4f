import { memo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import type { Evenness, Placed, ToneZone } from '../../core/analysis/evenness';
import type { SeriesEvenness } from '../../contract/evenness';
import type { Photograph } from '../../contract/photographs';
import { currentTake } from '../app/api';
import { countOf } from '../../words/words';
import { Button } from '../ui/buttons';
import { Dialog, DialogActions } from '../ui/overlays';
import { TakePicture } from '../ui/TakePicture';
import { useBringTowards, type Towards } from './useBringTowards';
import type { SheetDeeds } from './useSheetDeeds';
import { evennessInWords, fallInWords, nearestToMiddle } from './evenness-words';

const Strip = styled.section`
  background: var(--paper);
  border-top: 1px solid #a9a9a9;
  display: grid;
  grid-template-columns: 238px minmax(0, 1fr);
  height: 120px;
  .says {
    padding: 13px 14px 8px 26px;
    overflow: auto;
  }
  h2 {
    font-size: var(--t-lead);
    font-weight: 650;
    margin-bottom: 5px;
  }
  p {
    color: var(--ink-2);
    line-height: 1.4;
  }
  .scroll {
    overflow: auto hidden;
    scrollbar-width: thin;
  }
  .rows {
    position: relative;
    height: 119px;
    margin: 0 26px 0 12px;
  }
  .rail {
    position: absolute;
    left: 66px;
    right: 0;
    height: 14px;
    background: #d3d3d3;
    border-radius: 1px;
  }
  .rail::after {
    content: '';
    position: absolute;
    inset: 6px 0 auto;
    border-top: 2px dotted #b4b4b4;
  }
  .zone {
    position: absolute;
    width: 58px;
    text-align: right;
    font-size: var(--t-small);
    color: var(--ink-2);
    line-height: 14px;
  }
`;

const Column = styled.button`
  position: absolute;
  top: 0;
  bottom: 0;
  transform: translateX(-50%);
  outline: none;
  .dot {
    position: absolute;
    left: 50%;
    width: 12px;
    height: 12px;
    margin: -6px;
    border-radius: 50%;
    border: 1px solid var(--ink);
    z-index: 1;
  }
  .dot[data-out] {
    width: 16px;
    height: 16px;
    margin: -8px;
    border-width: 2px;
  }
  .dot[data-bare] {
    border: 2px dotted #7a7a7a;
    background: none;
  }
  .stem {
    position: absolute;
    left: 50%;
    width: 1px;
    background: var(--ink);
  }
  .way {
    position: absolute;
    left: calc(50% + 13px);
    line-height: 14px;
    margin-top: -7px;
    font-size: var(--t-small);
    font-weight: 600;
    white-space: nowrap;
    z-index: 1;
  }
  &[data-last] .way {
    left: auto;
    right: calc(50% + 13px);
  }
  .number {
    position: absolute;
    bottom: 5px;
    left: 0;
    right: 0;
    text-align: center;
    font-size: var(--t-small);
    color: var(--ink-2);
    line-height: 16px;
  }
  &[data-out] .number {
    color: var(--ink);
    font-weight: 650;
  }
  &:hover .number {
    text-decoration: underline;
    text-underline-offset: 3px;
  }
  &:focus-visible .number {
    outline: 2px solid var(--lamp-deep);
    border-radius: 2px;
  }
`;

const Pair = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 14px;
  margin-top: 12px;
  align-items: end;
  img {
    display: block;
    max-width: 100%;
    max-height: 260px;
    margin: 0 auto;
  }
  figcaption {
    padding-top: 7px;
    font-size: var(--t-small);
    color: var(--ink-2);
    line-height: 1.35;
  }
`;

/** The two rows of the strip: where each lies, and the lightness that its dots are drawn with. */
const ROWS: { zone: ToneZone; name: string; y: number; L: number }[] = [
  { zone: 'lights', name: 'Highlights', y: 26, L: 82 },
  { zone: 'shadows', name: 'Shadows', y: 74, L: 33 },
];
/** The farthest that a dot leaves its rail, and how far one goes that only just falls out. */
const FARTHEST = 17;
const OUT = 10;
/** Left of the first, and between two at the least. */
const LEAD = 96;
const LEAST_GAP = 26;

/** How far a dot lies off its rail: up where it is warmer, down where it is cooler. */
function offRail(placed: Placed, zone: ToneZone): { by: number; way: string | null } {
  const fall = placed.falls.find(f => f.what === zone);
  if (!fall) return { by: 0, way: null };
  const isUp = fall.way === 'warmer' || fall.way === 'redder';
  return { by: (isUp ? -1 : 1) * Math.min(FARTHEST, OUT * fall.far), way: fall.way };
}

/** How even a series is: a dot for the lights and one for the shadows of each photograph, and what falls out in words. */
export const EvennessStrip = memo(function EvennessStrip({
  data,
  even,
  photographs,
  deeds,
}: {
  data: SeriesEvenness;
  even: Evenness;
  photographs: readonly Photograph[];
  deeds: SheetDeeds;
}) {
  const navigate = useNavigate();
  const [shown, setShown] = useState<string | null>(null);
  const bring = useBringTowards(deeds);
  /** The photograph that is being brought towards the series, unless that was left. */
  const wanted = useRef<string | null>(null);
  const close = () => {
    wanted.current = null;
    setShown(null);
  };
  const isBare = data.photographs.map(p => p.bare);
  const byId = new Map(photographs.map(p => [p.id, p]));
  const middle = nearestToMiddle(even);
  const at = data.photographs.findIndex(p => p.id === shown);
  const count = data.photographs.length;
  const share = (i: number) => (i + 0.5) / count;
  const column = (i: number) => {
    const { id, bare } = data.photographs[i];
    const placed = even.placed[i];
    const out = Boolean(placed?.falls.length);
    const says = bare
      ? 'bare'
      : out
        ? placed!.falls.map(fallInWords).join(', ')
        : placed
          ? 'sits with the series'
          : data.photographs[i].measures
            ? 'nothing to compare it with'
            : data.waiting
              ? 'being measured'
              : 'could not be measured';
    return (
      <Column
        key={id}
        type="button"
        tabIndex={out || bare ? 0 : -1}
        aria-label={`No. ${i + 1}, ${byId.get(id)?.title ?? ''}: ${says}`}
        title={`${byId.get(id)?.title ?? ''}: ${says}`}
        data-out={out || bare || undefined}
        data-last={i > 0.85 * count || undefined}
        style={{
          left: `calc(${LEAD - 20}px + (100% - ${LEAD - 20}px) * ${share(i)})`,
          width: `max(${LEAST_GAP}px, ${90 / count}%)`,
        }}
        onClick={() => setShown(id)}
      >
        {ROWS.map(({ zone, y, L }) => {
          const colour = placed?.measures.zones[zone];
          if (bare) return <span key={zone} className="dot" data-bare style={{ top: y }} />;
          if (!placed || !colour) return null;
          const { by, way } = offRail(placed, zone);
          return (
            <span key={zone}>
              {by ? (
                <span className="stem" style={{ top: Math.min(y, y + by), height: Math.abs(by) }} />
              ) : null}
              <span
                className="dot"
                data-out={way ?? undefined}
                style={{ top: y + by, background: `lab(${L} ${colour.a} ${colour.b})` }}
              />
              {way ? (
                <span className="way" style={{ top: y + by }}>
                  {way}
                </span>
              ) : null}
            </span>
          );
        })}
        <span className="number">{i + 1}</span>
      </Column>
    );
  };
  const figure = (i: number, says: string) => {
    const photograph = byId.get(data.photographs[i].id);
    if (!photograph) return null;
    return (
      <figure style={{ margin: 0 }}>
        <TakePicture take={currentTake(photograph)} edge={480} />
        <figcaption>
          No. {i + 1}, {photograph.title}: {says}
        </figcaption>
      </figure>
    );
  };
  const bringIt = (towards: Towards) => {
    wanted.current = towards.photograph.id;
    const isWanted = () => wanted.current === towards.photograph.id;
    bring.mutate({ ...towards, isWanted }, { onSuccess: () => (isWanted() ? close() : undefined) });
  };
  const photographAt = (i: number) => byId.get(data.photographs[i]?.id ?? '');
  const [fallen, model] = [photographAt(at), photographAt(middle)];
  const fallsAt = at >= 0 ? (even.placed[at]?.falls ?? []) : [];
  return (
    <Strip aria-labelledby="how-even">
      <div className="says">
        <h2 id="how-even">How even is this series?</h2>
        <p aria-live="polite">
          {data.waiting && !even.middle ? '' : evennessInWords(even, isBare)}
          {data.waiting ? ` ${countOf(data.waiting, 'photograph')} still being measured …` : ''}
        </p>
      </div>
      <div className="scroll" tabIndex={-1}>
        <div className="rows" style={{ minWidth: LEAD + count * LEAST_GAP }}>
          {ROWS.map(({ zone, name, y }) => (
            <span key={zone}>
              <span className="zone" style={{ top: y - 7 }}>
                {name}
              </span>
              <span className="rail" style={{ top: y - 7 }} />
            </span>
          ))}
          {data.photographs.map((_, i) => column(i))}
        </div>
      </div>
      {at >= 0 ? (
        <Dialog title={`No. ${at + 1} beside the middle of the series`} wide onClose={close}>
          <Pair>
            {figure(
              at,
              isBare[at]
                ? 'still bare.'
                : fallsAt.length
                  ? `${fallsAt.map(fallInWords).join(', ')}.`
                  : 'sits with the series.',
            )}
            {middle >= 0 && middle !== at ? figure(middle, 'nearest to the middle.') : null}
          </Pair>
          <DialogActions>
            <Button onPress={close}>{bring.isPending ? 'Leave it' : 'Close'}</Button>
            <Button onPress={() => void navigate(`/photographs/${data.photographs[at].id}`)}>
              Open it on the Bench
            </Button>
            {fallen && model && fallen !== model && (isBare[at] || fallsAt.length) ? (
              <>
                {isBare[at] ? null : (
                  <Button
                    isDisabled={bring.isPending}
                    onPress={() => bringIt({ photograph: fallen, by: 'fitting' })}
                  >
                    {bring.isPending ? 'Fitting …' : 'Fit its own tone'}
                  </Button>
                )}
                <Button
                  $ink
                  isDisabled={bring.isPending}
                  onPress={() => bringIt({ photograph: fallen, by: 'carrying', middle: model })}
                >
                  Bring it towards the series
                </Button>
              </>
            ) : null}
          </DialogActions>
        </Dialog>
      ) : null}
    </Strip>
  );
});
