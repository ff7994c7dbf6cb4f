import { useCallback, useEffect, useMemo, useState } from 'react';
import styled from 'styled-components';
import type { FirstMove } from '../../core/analysis/first-moves';
import { parseTreatment } from '../../core/treatment/schema';
import type { Treatment } from '../../core/treatment/treatment';
import { smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import { LinkButton } from '../ui/buttons';
import { PictureCard } from '../print/PictureCard';
import { useTrying } from '../print/useTrying';
import type { Tried } from '../takes/tried';
import { useSame } from '../app/useSame';

/** Four ways to begin on a bare photograph, as pictures of it. */

const Frame = styled.section`
  padding: 20px 16px;
  overflow: hidden auto;
  scrollbar-width: thin;
  h2 {
    font-size: 15px;
    font-weight: 650;
    margin-bottom: 6px;
  }
  p {
    color: var(--ink-2);
    line-height: 1.45;
    margin-bottom: 14px;
  }
  .or {
    margin: 16px 0 0;
  }
  > div {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px 10px;
  }
`;

const PLAIN = 'Start plain';

/** What a move is called, and what is done. */
function wordsFor({ what, tinted }: FirstMove): { name: string; says: string } {
  switch (what) {
    case 'light':
      return { name: 'Light put right', says: 'still grey' };
    case 'conversion':
      return { name: 'Black and white', says: 'its colours kept apart' };
    case 'toned':
      return { name: 'Darkroom toned', says: 'sepia, then selenium' };
    case 'tinted':
      return tinted === 'middles'
        ? { name: 'Tinted', says: 'warm middle tones' }
        : { name: 'One thing tinted', says: `the ${tinted ?? 'colour'}` };
  }
}

/** A way to begin, with its treatment. */
type Move = FirstMove & { treatment: Treatment };

/** The moves of a photograph; none until it has been looked at, or where that failed. */
function useMoves(picture: PictureInfo, bare: Treatment): Move[] {
  const [moves, setMoves] = useState<Move[]>([]);
  // A bare treatment differs by its frame alone.
  const same = useSame(bare, JSON.stringify(bare.frame));
  useEffect(() => {
    let isStale = false;
    void smallPictures()
      .then(({ engine }) => engine.beginnings(picture, same))
      .then(
        found =>
          !isStale && setMoves(found.map(move => ({ ...move, treatment: parseTreatment(move.written) }))),
        () => undefined,
      );
    return () => {
      isStale = true;
    };
  }, [picture, same]);
  return moves;
}

export function FirstMoves({
  picture,
  bare,
  onTry,
  onTake,
  onPlain,
  onMethods,
}: {
  picture: PictureInfo;
  bare: Treatment;
  onTry: (tried: Tried | null) => void;
  /** Lays a move on, and goes on with its step. */
  onTake: (treatment: Treatment, label: string, step: string) => void;
  /** Begins with nothing. */
  onPlain: () => void;
  /** Opens the methods. */
  onMethods: () => void;
}) {
  const moves = useMoves(picture, bare);
  const named = useMemo(() => moves.map(move => ({ move, ...wordsFor(move) })), [moves]);
  const triedOf = useCallback(
    (key: string): Tried | null => {
      const found = named.find(({ name }) => name === key);
      return found ? { name: found.name, treatment: found.move.treatment, then: 'begins with it' } : null;
    },
    [named],
  );
  const { at, point } = useTrying(triedOf, onTry);
  return (
    <Frame aria-label="Ways to begin">
      <h2>The bare photograph</h2>
      <p>
        Begin with one of these, set for this picture: each is ordinary steps, open to change, and one undo.
        Or add steps with a plus on the line below, from left to right: light first, then mono, then tone.
      </p>
      <div>
        {named.map(({ move, name, says }) => (
          <PictureCard
            key={name}
            name={name}
            says={says}
            picture={picture}
            treatment={move.treatment}
            isTried={name === at}
            onTry={on => point(name, on)}
            onTake={() => onTake(move.treatment, name, move.step)}
          />
        ))}
        <PictureCard
          name={PLAIN}
          says="no step yet"
          picture={picture}
          treatment={bare}
          isTried={false}
          onTake={onPlain}
        />
      </div>
      <p className="or">
        Or let a <LinkButton onPress={onMethods}>method</LinkButton> do it with you, page by page.
      </p>
    </Frame>
  );
}
