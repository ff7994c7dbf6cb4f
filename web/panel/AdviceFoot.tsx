import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { liftBlackBefore, type Advice } from '../../core/analysis/advice';
import { aboutStep } from '../../words/told';
import { smallPictures } from '../engine/client';
import { IconButton, LinkButton } from '../ui/buttons';
import { useTools } from '../controls/tools';
import { adviceInWords } from './advice-words';
import { nameOfStep } from '../../words/step-names';

/** Always as high, so that nothing moves when something is said. */
const Foot = styled.footer`
  flex: none;
  height: 74px;
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: start;
  padding: 8px 6px 6px 16px;
  border-top: 1px solid var(--rule);
  overflow: hidden auto;
  scrollbar-width: thin;
  line-height: 1.4;
  color: var(--ink-2);
  p {
    padding: 1px 10px 0 0;
  }
  &[data-said] {
    color: var(--ink);
    background: var(--paper-low);
    box-shadow: inset 3px 0 0 var(--lamp-deep);
  }
`;

/** How long a step must rest before the picture is asked. */
const REST_MS = 700;

/** What stands for the damage of an original among what has been waved away. */
const DAMAGED = 'damaged';

/** What has been waved away in this visit: the picture and step, and what was said. */
const dismissed = new Set<string>();

/**
 * The foot of the panel: what the step is for, or quiet advice on it, found from the picture, that can be taken or waved
 * away. Nothing is said while a control is held.
 */
export function AdviceFoot({ held }: { held: boolean }) {
  const { picture, treatment, step, commit } = useTools();
  const [found, setFound] = useState<Advice[]>([]);
  const [, setWaved] = useState(0);

  useEffect(() => {
    if (held) return;
    let stale = false;
    const ask = async () => {
      try {
        const { engine } = await smallPictures();
        const advice = await engine.advice(picture, treatment, step.id);
        if (!stale) setFound(advice);
      } catch {
        // Advice is a help; the picture itself says what is wrong.
      }
    };
    const timer = setTimeout(() => void ask(), REST_MS);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [picture, treatment, step.id, held]);

  const keyOf = (what: string) => `${picture.id} ${what === DAMAGED ? '' : step.id} ${what}`;
  const isNew = (what: string) => !dismissed.has(keyOf(what));
  const said = held ? undefined : found.find(advice => isNew(advice.what));
  const words = said
    ? adviceInWords(said, nameOfStep(step))
    : picture.damage && isNew(DAMAGED)
      ? `The original is damaged: ${picture.damage}. Where it cannot be read, the picture is grey.`
      : null;
  if (words === null) {
    return (
      <Foot aria-label="What this step is for">
        <p>{aboutStep(step.kind)}</p>
      </Foot>
    );
  }
  return (
    <Foot as="aside" aria-label="Advice" data-said>
      <p role="status">
        {words}{' '}
        {said?.what === 'solid-black' ? (
          <LinkButton onPress={() => commit(liftBlackBefore(treatment, step.id), 'Lift black')}>
            Lift the black
          </LinkButton>
        ) : null}
      </p>
      <IconButton
        aria-label="Dismiss this advice"
        onPress={() => {
          dismissed.add(keyOf(said?.what ?? DAMAGED));
          setWaved(n => n + 1);
        }}
      >
        <X aria-hidden="true" />
      </IconButton>
    </Foot>
  );
}
