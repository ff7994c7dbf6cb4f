import { useEffect, useMemo } from 'react';
import { createPortal } from 'react-dom';
import styled, { keyframes } from 'styled-components';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { controlTold } from '../../words/less-and-more';
import type { PictureInfo } from '../engine/tiles';
import { smallPicture } from '../engine/client';
import { SmallPicture } from '../print/SmallPicture';
import { useTold } from './useTold';
import { useSame } from '../app/useSame';

const appear = keyframes`from { visibility: hidden; } to { visibility: visible; }`;

/** How long the pointer rests on a name before it is told of; its pictures are made meanwhile. */
const REST_MS = 80;

/** A paper-white label on the wall beside the panel. */
const Card = styled.div`
  position: fixed;
  z-index: 6;
  width: 300px;
  padding: 9px 11px 10px;
  background: var(--paper-high);
  border-radius: var(--r-label);
  box-shadow: var(--shade-float);
  pointer-events: none;
  line-height: 1.4;
  animation: ${appear} 1ms ${REST_MS}ms both;
  b {
    font-weight: 650;
  }
  p + p {
    color: var(--ink-2);
    margin-top: 2px;
  }
  ul {
    display: flex;
    gap: 7px;
    margin-top: 8px;
  }
  li {
    width: 88px;
    font-size: var(--t-small);
    color: var(--ink-2);
    white-space: nowrap;
  }
  li[data-now] {
    color: var(--ink);
    font-weight: 600;
  }
  canvas {
    display: block;
    width: 88px;
    height: 62px;
    margin-bottom: 3px;
    background: #d2d2d2;
  }
  li[data-now] canvas {
    box-shadow: 0 0 0 2px var(--lamp);
  }
`;

/** How high the card is at most, about: it stays inside the window. */
const MOST_HIGH = 190;
const WIDE = 300;
const GAP = 10;

/** Of a small picture, in CSS pixels. */
const [WIDTH, HEIGHT] = [88, 62];
/** How long a step is at rest before what its pictures have in common is made. */
const READY_MS = 600;

/** Makes what the pictures of a step have in common before they are asked for, so that the first of them comes as quickly as others. */
function useReadyFor(picture: PictureInfo, treatment: Treatment, shared: number): void {
  const of = useSame(treatment, treatment.steps[shared - 1]);
  useEffect(() => {
    const abort = new AbortController();
    const ratio = Math.min(2, window.devicePixelRatio || 1);
    const make = async () => {
      const made = await smallPicture(picture, of, WIDTH * ratio, HEIGHT * ratio, abort.signal, shared);
      made.close();
    };
    // Only a help: what is asked for is made then.
    const timer = setTimeout(() => void make().catch(() => undefined), READY_MS);
    return () => {
      abort.abort();
      clearTimeout(timer);
    };
  }, [picture, of, shared]);
}

/** What a control does, in a sentence and in small pictures of this photograph with less, as now, and with more of it. */
export function ControlTold({
  picture,
  treatment,
  step,
}: {
  picture: PictureInfo;
  /** What less and more are made of. */
  treatment: Treatment;
  step: Step;
}) {
  const asked = useTold();
  const name = asked?.name ?? null;
  const told = useMemo(
    () => (name === null ? null : controlTold(treatment, step, name, picture)),
    [name, treatment, step, picture],
  );
  // The steps before this one are the same in all three.
  const shared = Math.max(
    0,
    treatment.steps.findIndex(s => s.id === step.id),
  );
  useReadyFor(picture, treatment, shared);
  if (!asked || !told) return null;
  const top = Math.max(8, Math.min(asked.top - 12, window.innerHeight - MOST_HIGH));
  return createPortal(
    <Card role="status" data-told={told.name} style={{ top, left: Math.max(8, asked.left - WIDE - GAP) }}>
      <p>
        <b>{told.name}.</b> {told.sentences[0]}
      </p>
      {told.sentences.slice(1).map(sentence => (
        <p key={sentence}>{sentence}</p>
      ))}
      {told.shown.length ? (
        <ul>
          {told.shown.map(({ said, treatment: of, isNow }) => (
            <li key={said} data-now={isNow || undefined}>
              <SmallPicture picture={picture} treatment={of} width={WIDTH} height={HEIGHT} shared={shared} />
              {isNow ? `Now ${said}` : said}
            </li>
          ))}
        </ul>
      ) : null}
    </Card>,
    document.body,
  );
}
