import { use, useCallback, useId } from 'react';
import styled from 'styled-components';
import type { NamedPigment } from '../../core/colour/pigments';
import { areaOf } from '../../core/treatment/areas';
import { isNameOfPigment } from '../../words/pigment-names';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { recoloured } from '../../core/treatment/tinting';
import type { PictureInfo } from '../engine/tiles';
import { useTrying } from '../print/useTrying';
import type { Tried } from '../takes/tried';
import { PigmentWell } from './PigmentWell';
import { SeriesContext } from './tools';
import { useSuggestions } from './useSuggestions';

const Frame = styled.div`
  h4 {
    font-size: var(--t-small);
    font-weight: 400;
    color: var(--ink-2);
    line-height: 24px;
    overflow: hidden;
    white-space: nowrap;
    text-overflow: ellipsis;
  }
  > div {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(76px, 1fr));
    align-content: start;
    gap: 4px 5px;
    /* As high before they have come: what lies below stays where it is. */
    height: 96px;
    padding-bottom: 4px;
  }
`;

const NONE: readonly NamedPigment[] = [];

/** Pigments that suit the area of a wash, where it lies on one: each shows in the print while it is pointed at or has the focus, a press lays it. */
export function SuitingPigments({
  picture,
  treatment,
  step,
  isHere,
  onTry,
  onLay,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  step: Step;
  isHere: (named: NamedPigment) => boolean;
  /** Must stay the same function. */
  onTry: (tried: Tried | null) => void;
  onLay: (named: NamedPigment) => void;
}) {
  const id = useId();
  const found = useSuggestions(picture, treatment, step, use(SeriesContext));
  // None as long as the area is being looked at.
  const pigments = found ?? NONE;
  const triedOf = useCallback(
    (name: string) => {
      const named = pigments.find(p => p.name === name);
      return named ? { name, treatment: recoloured(treatment, step.id, named), then: 'lays it' } : null;
    },
    [pigments, treatment, step.id],
  );
  const { point } = useTrying(triedOf, onTry);
  if (!found) return null;
  const suits = areaOf(treatment, step.mask)?.name;
  return (
    <Frame>
      <h4 id={id}>{suits && !isNameOfPigment(suits) ? `Suits ${suits}` : 'Suits this area'}</h4>
      <div role="group" aria-labelledby={id} aria-busy={!pigments.length}>
        {pigments.map(p => (
          <PigmentWell
            key={p.name}
            named={p}
            isHere={isHere(p)}
            title={p.name}
            // By the hand's own movement: what comes to lie under a resting pointer is not pointed at.
            onPointerMove={() => point(p.name, true)}
            onPointerLeave={() => point(p.name, false)}
            onFocus={event => event.currentTarget.matches(':focus-visible') && point(p.name, true)}
            onBlur={() => point(p.name, false)}
            onClick={() => {
              point(p.name, false);
              onLay(structuredClone(p));
            }}
          />
        ))}
      </div>
    </Frame>
  );
}
