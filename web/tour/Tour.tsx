import { useQueryClient } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import styled from 'styled-components';
import { getDemoPhotograph } from '../../contract/demo';
import { addressOf } from '../../contract/route';
import { stepKind } from '../../core/steps';
import told from '../../words/tour.json' with { type: 'json' };
import { messageOf } from '../app/api';
import { tell } from '../app/notices';
import { useCreateSeries } from '../app/queries';
import { isDone, screenOf, tourPages, useTour, type TourPage } from '../app/tour';
import { useKeys } from '../app/useKeys';
import { bringIn } from '../import/imports';
import { Button, IconButton } from '../ui/buttons';
import { Ring } from './Ring';

const Card = styled.section`
  position: fixed;
  z-index: 25;
  left: 24px;
  bottom: 24px;
  width: 288px;
  padding: 12px 14px 13px;
  background: var(--paper-high);
  border-radius: var(--r-label);
  box-shadow:
    inset 4px 0 0 var(--lamp),
    var(--shade-float);
  /* Above what stands at the foot of a screen. */
  &[data-screen='series'] {
    bottom: 74px;
  }
  &[data-screen='bench'] {
    left: calc(var(--strip) + 14px);
    top: calc(var(--bar) + 14px);
    bottom: auto;
  }
  header {
    display: flex;
    align-items: center;
    gap: 8px;
    margin: -5px -7px 3px 0;
  }
  h2 {
    font-size: 15px;
    font-weight: 650;
  }
  small {
    color: var(--ink-2);
    font-size: var(--t-small);
    margin-right: auto;
    padding-top: 2px;
    white-space: nowrap;
  }
  p {
    line-height: 1.45;
  }
  .acts {
    display: flex;
    gap: 8px;
    margin-top: 11px;
  }
`;

/** What is to be pressed, the first that is there. */
const around: Record<TourPage, readonly string[]> = {
  bring: ['[data-tour="choose"]'],
  open: ['[role="row"] img', '[role="row"]'],
  convert: ['[data-card="Black and white"]', '[data-card="Light put right"]', '[data-add="mono"]'],
  tone: ['[data-card="Sepia"]', '[data-add="tone"]'],
  tint: ['[data-tour="tint"]:not([aria-pressed="true"])'],
  compare: ['[data-tour="half"]'],
  send: ['[data-tour="send-out"]'],
  write: ['[data-tour="send"]'],
  end: [],
};

/** How long a page that is done stays, so that it is seen what was done. */
const SEEN_MS = 700;

const colours = (kind: string) => stepKind(kind)?.coloursTones === true;

/** The tour that is the work itself: a card that says the next thing to do, and goes on when that is done. */
export function Tour() {
  const { page, facts, goTo, leave, end } = useTour();
  const { pathname } = useLocation();
  useKeys({ giveUp: leave }, page !== null);
  const done = page !== null && isDone(page, facts, pathname, colours);
  useEffect(() => {
    if (!done || page === null) return;
    const timer = setTimeout(() => goTo(tourPages[tourPages.indexOf(page) + 1]), SEEN_MS);
    return () => clearTimeout(timer);
  }, [done, page, goTo]);
  if (page === null) return null;
  const { title, text } = told[page];
  const onBench = pathname.startsWith('/photographs/');
  return (
    <>
      <Ring around={done ? [] : around[page]} />
      <Card
        aria-label="Tour"
        data-screen={onBench ? 'bench' : pathname.startsWith('/series/') ? 'series' : undefined}
      >
        <header>
          <h2>{title}</h2>
          <small>
            {tourPages.indexOf(page) + 1} of {tourPages.length}
          </small>
          <IconButton aria-label="Leave the tour" onPress={leave}>
            <X aria-hidden="true" />
          </IconButton>
        </header>
        <p role="status">{done ? 'Done.' : text}</p>
        <div className="acts">
          {page === 'bring' && !done ? <BringIn /> : null}
          {page === 'end' ? (
            <Button $ink onPress={end}>
              Done
            </Button>
          ) : null}
          <WayBack page={page} onBench={onBench} />
          {page !== 'end' && page !== 'bring' && page !== 'open' && !done ? (
            <Button $small onPress={() => goTo(tourPages[tourPages.indexOf(page) + 1])}>
              Skip
            </Button>
          ) : null}
        </div>
      </Card>
    </>
  );
}

/** Brings in the photograph of the demo as any other file, into a series of its own. */
function BringIn() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const create = useCreateSeries();
  const [isBusy, setBusy] = useState(false);
  const bring = async () => {
    setBusy(true);
    try {
      const answer = await fetch(addressOf(getDemoPhotograph));
      if (!answer.ok) throw new Error('the server has no photograph to begin with. Lay one of yours down');
      const file = new File([await answer.blob()], 'quinces-and-enamel-jug.jpg', { type: 'image/jpeg' });
      const { id } = await create.mutateAsync('First print');
      bringIn([file], id, client);
      await navigate(`/series/${id}`);
    } catch (error) {
      tell({ text: `It could not be brought in: ${messageOf(error)}.`, tone: 'problem' });
    } finally {
      setBusy(false);
    }
  };
  return (
    <Button $ink isDisabled={isBusy} onPress={() => void bring()}>
      {told.bring.act}
    </Button>
  );
}

/** The way to where the tour goes on, when one has gone elsewhere. */
function WayBack({ page, onBench }: { page: TourPage; onBench: boolean }) {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const photograph = useTour(tour => tour.facts.photograph);
  const screen = screenOf(page);
  if (screen === 'shelf' && pathname !== '/') {
    return (
      <Button $small onPress={() => void navigate('/')}>
        To the shelf
      </Button>
    );
  }
  if (screen !== 'bench' || onBench || !photograph) return null;
  return (
    <Button $small onPress={() => void navigate(`/photographs/${photograph}`)}>
      Back to the Bench
    </Button>
  );
}
