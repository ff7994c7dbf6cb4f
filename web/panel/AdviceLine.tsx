import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { liftBlackBefore, type Advice } from '../../core/analysis/advice';
import { wordFor } from '../app/words';
import { smallPictures } from '../engine/client';
import { IconButton, LinkButton } from '../ui/buttons';
import { useTools } from '../controls/tools';

const Line = styled.aside`
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: start;
  padding: 7px 6px 7px 16px;
  border-top: 1px solid var(--rule);
  background: var(--paper-low);
  line-height: 1.45;
  p {
    padding-top: 4px;
  }
`;

/** How long a step must rest before the picture is asked. */
const REST_MS = 700;

/** What has been waved away in this visit: `take's step` and what was said. */
const dismissed = new Set<string>();

const percent = (share: number) => `${Math.max(1, Math.round(share * 100))} %`;

function wordsOf(advice: Advice, name: string): string {
  switch (advice.what) {
    case 'solid-black':
      return `${percent(advice.share)} of the picture is solid black, which takes no tone.`;
    case 'clips-lights':
      return `${name} turns ${percent(advice.share)} of the picture pure white.`;
    case 'does-nothing':
      return `${name} changes nothing in this picture.`;
  }
}

/** Quiet advice on the chosen step, found from the picture; it can be taken or waved away. */
export function AdviceLine() {
  const { picture, treatment, step, commit } = useTools();
  const [found, setFound] = useState<{ of: typeof treatment; advice: Advice[] } | null>(null);
  const [, setWaved] = useState(0);

  useEffect(() => {
    let stale = false;
    const ask = async () => {
      try {
        const { engine } = await smallPictures();
        const advice = await engine.advice(picture, treatment, step.id);
        if (!stale) setFound({ of: treatment, advice });
      } catch {
        // Advice is a help; the picture itself says what is wrong.
      }
    };
    const timer = setTimeout(() => void ask(), REST_MS);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [picture, treatment, step.id]);

  const keyOf = (advice: Advice) => `${picture.id} ${step.id} ${advice.what}`;
  const said = found?.advice.find(advice => !dismissed.has(keyOf(advice)));
  if (!said) return null;
  const name = step.name || wordFor(step.kind);
  return (
    <Line aria-label="Advice">
      <p role="status">
        {wordsOf(said, name)}{' '}
        {said.what === 'solid-black' ? (
          <LinkButton onPress={() => commit(liftBlackBefore(treatment, step.id), 'Lift black')}>
            Lift the black
          </LinkButton>
        ) : null}
      </p>
      <IconButton
        aria-label="Dismiss this advice"
        onPress={() => {
          dismissed.add(keyOf(said));
          setWaved(n => n + 1);
        }}
      >
        <X aria-hidden="true" />
      </IconButton>
    </Line>
  );
}
