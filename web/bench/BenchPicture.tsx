import { useLayoutEffect, useMemo, useRef } from 'react';
import styled from 'styled-components';
import type { SheetSettings } from '../../contract/sheets';
import { changeStep } from '../../core/treatment/edit';
import type { Treatment } from '../../core/treatment/treatment';
import { wordFor } from '../../words/words';
import { pictureAddress } from '../app/api';
import { useStripSheet } from '../app/queries';
import { PaintBar } from '../areas/PaintBar';
import { boards } from '../boards';
import { nameOf } from '../compare/against';
import { BareLabel } from '../compare/BareLabel';
import { SideLabels } from '../compare/SideLabel';
import { PictureView, type Other } from '../print/PictureView';
import { TryingLabel } from '../print/TryingLabel';
import { StripLabel } from '../teststrip/StripLabel';
import { Boundary } from '../ui/boundary';
import { overlays, type Over } from './overlays';
import { PICTURE_TOLD, PictureTold } from './PictureTold';
import { useBench, useBenchState, useWork } from './work';
import { useAtHand } from './in-hand';

/** What lies over the picture. */
function OverPicture(where: Over) {
  const atHand = useAtHand();
  return overlays.filter(({ when }) => when(atHand)).map(({ name, Show }) => <Show key={name} {...where} />);
}

/** Where the picture hangs, and what is laid over it. */
const Place = styled.div`
  position: relative;
  display: grid;
  min-width: 0;
  min-height: 0;
`;

/** The test strip, and what is done with it: it is laid on paper as well. */
function HungStrip() {
  const { session } = useBench();
  const { strip, chosen } = useAtHand();
  const stripSheet = useStripSheet(session.state().take.id);
  const onPaper = async ({ kind: _, ...settings }: SheetSettings) => {
    await session.flush();
    const pictures = strip.cells.map(cell => [...cell.tried]);
    return stripSheet.mutateAsync({ step: chosen ?? '', pictures, settings });
  };
  return <StripLabel strip={strip} onPaper={onPaper} />;
}

/** What stands below the picture in place of its own labels; nothing at most times. */
function useBelow() {
  const { seen, painting, compare } = useAtHand();
  const tried = useBenchState(s => s.tried);
  if (tried) return <TryingLabel tried={tried} />;
  if (seen.isStrip) return <HungStrip />;
  if (seen.isBare) return compare.shown.kept ? <BareLabel /> : undefined;
  return seen.isAreaOpen ? <PaintBar painting={painting} /> : undefined;
}

/** The other of two pictures that are compared. */
function useOther(): Other | null {
  const { photograph } = useWork();
  const { setLine, layDown, compareSide, swapSides } = useBench();
  const { compare, seen } = useAtHand();
  const { sides, own, shelf, down, line } = compare;
  if (seen.way === null || !seen.theirs) return null;
  const against = sides[1 - own];
  return {
    treatment: seen.theirs,
    title: `${photograph.title}: ${nameOf(against, shelf)}`,
    beside: against.what === 'take' ? 'there' : 'was',
    own,
    split: { way: seen.way, down, line },
    onLine: setLine,
    onTurn: layDown,
    labels: (at, lies) => (
      <SideLabels
        seen={at}
        down={lies}
        sides={sides}
        shelf={shelf}
        onSide={compareSide}
        onSwap={swapSides}
        onTurn={layDown}
      />
    ),
  };
}

/** What is shown at each movement of a control: the picture does not wait for the panel. */
function useFollow(ahead: ((of: Treatment) => Treatment) | null) {
  const { session } = useBench();
  const latest = useRef(ahead);
  useLayoutEffect(() => {
    latest.current = ahead;
  });
  return useMemo(
    () => ({
      subscribe: session.subscribe,
      newest: () => latest.current?.(session.state().treatment) ?? null,
    }),
    [session],
  );
}

/** The choices of the chosen step, laid side by side over the picture. */
function BoardOver() {
  const { picture, bench } = useWork();
  const { treatment, step } = useAtHand();
  const isOpen = useBenchState(s => s.boardOpen);
  const Board = isOpen && step ? boards[step.kind] : undefined;
  if (!Board || !step) return null;
  return (
    <Board.Show
      picture={picture}
      treatment={treatment}
      step={step}
      onChoose={(settings, name) => {
        bench.edits.commit(
          changeStep(treatment, step.id, { settings }),
          `${wordFor(step.kind)}: ${name.toLowerCase()}`,
        );
        bench.closeBoard();
      }}
      onClose={bench.closeBoard}
    />
  );
}

/** The picture that is worked on, with what lies over it and below it. */
export function BenchPicture() {
  const { picture, photograph, beside } = useWork();
  const { session } = useBench();
  const { calm, tool, painting, seen } = useAtHand();
  const tried = useBenchState(s => s.tried);
  const alone = useBenchState(s => s.alone);
  const follow = useFollow(tried ? null : seen.ahead);
  const other = useOther();
  const below = useBelow();
  const triedHere = seen.isBare && !seen.isStrip ? undefined : tried?.treatment;
  return (
    <Place>
      <Boundary what="The picture" resetBy={picture.id}>
        <PictureTold picture={picture} treatment={calm} />
        <PictureView
          picture={picture}
          title={photograph.title}
          describedBy={PICTURE_TOLD}
          treatment={triedHere ?? seen.treatment}
          other={other}
          follow={follow}
          beside={beside}
          small={pictureAddress(session.state().take, 480)}
          tool={tool}
          colouredMarked={painting.area !== null && painting.colouredMarked}
          bar={below}
          alone={alone}
          over={OverPicture}
        />
      </Boundary>
      <BoardOver />
    </Place>
  );
}
