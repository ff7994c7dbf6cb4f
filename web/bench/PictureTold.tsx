import { useEffect, useRef, useState } from 'react';
import type { Treatment } from '../../core/treatment/treatment';
import { movesInWords, pictureInWords } from '../../words/picture-told';
import { smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import { Unseen } from '../ui/unseen';

/** For whoever does not see the picture: what it is by its tones, and what the last change did. */

/** By this the picture is described. */
export const PICTURE_TOLD = 'picture-told';

/** How long a treatment rests before it is told of: one change is told once, however many movements it took. */
const REST_MS = 1200;

export function PictureTold({ picture, treatment }: { picture: PictureInfo; treatment: Treatment }) {
  const [told, setTold] = useState<{ is: string; moved: string }>({ is: '', moved: '' });
  const before = useRef<Treatment | null>(null);
  useEffect(() => {
    let isStale = false;
    const ask = async () => {
      const { engine } = await smallPictures();
      const reading = await engine.seenAs(picture, treatment);
      const was = before.current;
      const moves = was && was !== treatment ? await engine.moves(picture, was, treatment) : null;
      if (isStale) return;
      before.current = treatment;
      setTold({ is: pictureInWords(reading), moved: moves ? movesInWords(moves) : '' });
    };
    // Words are a help; the picture itself says what is wrong.
    const timer = setTimeout(() => void ask().catch(() => undefined), REST_MS);
    return () => {
      isStale = true;
      clearTimeout(timer);
    };
  }, [picture, treatment]);
  return (
    <Unseen>
      {/* Read out with the picture, not by itself. */}
      <p id={PICTURE_TOLD} hidden>
        {told.is}
      </p>
      <p role="status" aria-label="What changed">
        {told.moved}
      </p>
    </Unseen>
  );
}
