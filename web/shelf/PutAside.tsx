import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import styled from 'styled-components';
import { KEPT_ASIDE_DAYS, type PutAside as Aside } from '../../contract/put-aside';
import { messageOf } from '../app/api';
import { putAsideQuery, useBringBack, useRemoveForGood } from '../app/queries';
import { countOf, whenInWords } from '../../words/words';
import { Bar, Crumbs, Push, WallTones } from '../ui/bar';
import { Button, LinkButton } from '../ui/buttons';
import { Dialog, DialogActions } from '../ui/overlays';
import { TakePicture } from '../ui/TakePicture';
import { ReadingRoom } from '../ui/reading-room';
import { Wait } from '../ui/wait';

const Paper = styled.section`
  width: min(940px, calc(100vw - 60px));
  background: var(--paper-high);
  box-shadow: var(--shade-label);
  border-radius: var(--r-label);
  padding: 16px 20px 12px;
  h2 {
    font: 400 var(--t-display) / 1 var(--serif);
    letter-spacing: -0.012em;
  }
  > p {
    color: var(--ink-2);
    line-height: 1.45;
    margin: 8px 0 10px;
  }
  li {
    display: grid;
    grid-template-columns: 84px minmax(0, 1fr) minmax(0, 310px) 80px 142px;
    gap: 4px 18px;
    align-items: center;
    padding: 8px 0;
    border-top: 1px solid var(--rule);
  }
  li i {
    display: grid;
    justify-items: center;
    min-height: 36px;
    align-items: center;
  }
  li img {
    max-width: 84px;
    max-height: 58px;
    box-shadow: var(--shade-label);
  }
  li b {
    font: 400 19px/1.2 var(--serif);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  li span {
    color: var(--ink-2);
    font-size: var(--t-small);
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  li span:last-child {
    display: flex;
    gap: 14px;
    justify-content: end;
    overflow: visible;
  }
`;

const kinds: Record<Aside['kind'], string> = {
  series: 'Series',
  photograph: 'Photograph',
  take: 'Take',
  table: 'Colour table',
  pigment: 'Pigment',
  look: 'Look',
};

const DAY_MS = 86_400_000;
const daysLeft = ({ goes }: Aside) => Math.max(0, Math.ceil((Date.parse(goes) - Date.now()) / DAY_MS));

/** What stands beside a name: what it is, where it was, when it went. */
const about = (each: Aside) =>
  [kinds[each.kind], each.within && `of ${each.within}`, whenInWords(each.at)].filter(Boolean).join(', ');

/** What has been put aside: to be brought back, or removed for good by hand. */
export function PutAside() {
  const aside = useQuery(putAsideQuery);
  const bringBack = useBringBack();
  const removeForGood = useRemoveForGood();
  const [going, setGoing] = useState<Aside[]>([]);

  if (aside.isError) return <Wait problem={messageOf(aside.error)} />;
  if (!aside.data) return <Wait />;
  const list = aside.data;
  return (
    <>
      <Bar>
        <Crumbs here="Put aside" />
        <Push />
        <WallTones />
      </Bar>
      <ReadingRoom>
        <Paper aria-label="Put aside">
          <h2>{list.length ? 'What can be brought back' : 'Nothing is put aside'}</h2>
          {list.length ? (
            <p>
              All of it can be brought back for {KEPT_ASIDE_DAYS} days; then it goes for good, and its space
              with it. <LinkButton onPress={() => setGoing(list)}>Remove all of it now</LinkButton>
            </p>
          ) : (
            <p>
              What is taken off the shelf, out of a series or out of the boxes comes here for{' '}
              {KEPT_ASIDE_DAYS} days.
            </p>
          )}
          <ul>
            {list.map(each => (
              <li key={each.id}>
                <i>{each.take ? <TakePicture take={each.take} edge={160} /> : null}</i>
                <b title={each.name}>{each.name}</b>
                <span title={about(each)}>{about(each)}</span>
                <span>{countOf(daysLeft(each), 'day')} left</span>
                <span>
                  <LinkButton aria-label={`Bring ${each.name} back`} onPress={() => bringBack.mutate(each)}>
                    Bring back
                  </LinkButton>
                  <LinkButton aria-label={`Remove ${each.name} for good`} onPress={() => setGoing([each])}>
                    Remove
                  </LinkButton>
                </span>
              </li>
            ))}
          </ul>
        </Paper>
      </ReadingRoom>
      {going.length ? (
        <Dialog
          title={going.length === 1 ? `Remove ${going[0].name} for good?` : 'Remove all of it for good?'}
          onClose={() => setGoing([])}
        >
          <p>It cannot be brought back then, by anybody; what was sent out of it goes too.</p>
          <DialogActions>
            <Button onPress={() => setGoing([])}>Keep it here</Button>
            <Button
              $ink
              onPress={() => {
                removeForGood.mutate(going);
                setGoing([]);
              }}
            >
              Remove for good
            </Button>
          </DialogActions>
        </Dialog>
      ) : null}
    </>
  );
}
