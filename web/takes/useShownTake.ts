import { useState } from 'react';
import { shownTake, type OpenedTakes } from './shown-take';

/** What of a photograph says where it stands. */
interface Standing {
  currentTakeId: string;
  takes: readonly { id: string }[];
}

/**
 * The take of a photograph that is on the Bench: the one that it stood at when it was opened, then whichever is opened here.
 * @param isAsked what is known of the photograph may be long past, and is being asked for: until the answer it is followed
 */
export function useShownTake(
  photograph: Standing,
  isAsked: boolean,
): { current: string; chosenHere: boolean; open: (id: string) => void } {
  const { currentTakeId } = photograph;
  const [opened, setOpened] = useState<OpenedTakes>({ id: currentTakeId, before: currentTakeId });
  const [chosenHere, setChosenHere] = useState(false);
  const [isKnown, setKnown] = useState(!isAsked);
  if (!isKnown && !isAsked) {
    setKnown(true);
    if (!chosenHere) setOpened({ id: currentTakeId, before: currentTakeId });
  }
  const current = shownTake(opened, photograph);
  return {
    current,
    chosenHere,
    open: id => {
      setOpened({ id, before: current });
      setChosenHere(true);
    },
  };
}
