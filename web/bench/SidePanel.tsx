import { Suspense, useCallback, useEffect, useRef } from 'react';
import styled from 'styled-components';
import { nameOfStep } from '../../words/step-names';
import { whenNothingWaits } from '../engine/first-picture';
import { Boundary } from '../ui/boundary';
import { sides, sidesAhead } from './sides';
import { useKeptFocus } from './useKeptFocus';
import { useAtHand } from './in-hand';

const Panel = styled.aside`
  background: var(--paper);
  border-left: 1px solid #b5b5b5;
  display: flex;
  flex-direction: column;
  min-height: 0;
  /* Too low for parts that scroll by themselves: all of it does. */
  @media (max-height: 560px) {
    display: block;
    overflow: hidden auto;
  }
`;

/**
 * What stands beside the picture.
 * @param isThere it is shown: the picture is asked for first
 */
export function SidePanel({ isThere }: { isThere: boolean }) {
  const { side, step } = useAtHand();
  const panel = useRef<HTMLElement>(null);
  // What was just added is gone on with.
  const toFocus = useRef(false);
  const goOn = useCallback(() => {
    toFocus.current = true;
  }, []);
  useEffect(() => {
    if (!toFocus.current || side.what !== 'step') return;
    toFocus.current = false;
    panel.current?.querySelector<HTMLElement>('h2')?.focus();
  }, [side, step?.id]);
  useKeptFocus(panel, step?.id ?? null);
  useEffect(() => {
    if (isThere) void whenNothingWaits(sidesAhead);
  }, [isThere]);
  const { name, Show } = sides[side.what];
  const ofStep = side.what === 'step' ? step : undefined;
  return (
    <Panel ref={panel} data-step={ofStep?.id} aria-label={ofStep ? nameOfStep(ofStep) : name}>
      <Boundary what="This panel" resetBy={`${side.what} ${step?.id}`}>
        <Suspense>{isThere ? <Show onGoOn={goOn} /> : null}</Suspense>
      </Boundary>
    </Panel>
  );
}
