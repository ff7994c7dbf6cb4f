import { Download, RotateCcw, X } from 'lucide-react';
import styled from 'styled-components';
import type { SendOut } from '../../contract/send-outs';
import { pictureAddress } from '../app/api';
import { useSendOutAction } from '../app/queries';
import { sizeInWords } from '../app/words';
import { Button, IconButton } from '../ui/buttons';

const Column = styled.aside`
  background: var(--paper);
  border-left: 1px solid #b5b5b5;
  display: flex;
  flex-direction: column;
  min-height: 0;
  header {
    display: flex;
    align-items: baseline;
    gap: 12px;
    padding: 22px 20px 12px;
    height: auto;
  }
  h2 {
    font-size: 15px;
    font-weight: 650;
  }
  header span {
    color: var(--ink-2);
  }
  > p {
    padding: 0 20px;
    color: var(--ink-2);
    line-height: 1.45;
  }
  ul {
    overflow: hidden auto;
    scrollbar-width: thin;
    min-height: 0;
  }
  li {
    display: grid;
    grid-template-columns: 60px 1fr auto;
    column-gap: 13px;
    align-items: center;
    min-height: 62px;
    padding: 8px 16px 8px 20px;
    border-top: 1px solid var(--rule);
  }
  li > img {
    width: 60px;
    height: 40px;
    object-fit: cover;
  }
  li b {
    display: block;
    font: 400 17px/20px var(--serif);
  }
  li small {
    font-size: var(--t-small);
    color: var(--ink-2);
    overflow-wrap: anywhere;
  }
  li[data-state='waiting'] img {
    opacity: 0.55;
  }
  li[data-state='waiting'] b {
    color: var(--ink-2);
  }
  li[data-state='running'] {
    background: var(--paper-high);
  }
  li[data-state='failed'] {
    background: var(--paper-high);
    box-shadow: inset 4px 0 0 var(--ink);
  }
  li[data-state='failed'] small {
    color: var(--ink);
  }
  li > span {
    display: flex;
    align-items: center;
    gap: 2px;
    font-weight: 600;
  }
  footer {
    margin-top: auto;
    display: flex;
    gap: 10px;
    padding: 14px 20px 18px;
    border-top: 1px solid var(--rule);
    background: var(--paper-high);
  }
`;

const Wedge = styled.i`
  display: block;
  height: 10px;
  margin-top: 4px;
  clip-path: polygon(0 44%, 100% 0, 100% 100%, 0 56%);
`;

const Get = styled.a`
  width: 30px;
  height: 30px;
  display: grid;
  place-items: center;
  border-radius: var(--r-field);
  color: var(--ink-2);
  &:hover {
    background: #fff;
  }
  svg {
    width: 16px;
    height: 16px;
    stroke-width: 1.75;
  }
`;

function stateInWords(s: SendOut): string {
  switch (s.state) {
    case 'waiting':
      return 'Waiting';
    case 'running':
      return '';
    case 'done':
      return `Done, ${sizeInWords(s.size ?? 0)}`;
    case 'stopped':
      return 'Stopped';
    case 'failed':
      return `Failed: ${s.problem ?? 'no reason given'}`;
  }
}

function Entry({ item: s }: { item: SendOut }) {
  const act = useSendOutAction();
  const over = s.state === 'failed' || s.state === 'stopped';
  return (
    <li data-state={s.state} data-send-out={s.id}>
      <img src={pictureAddress({ id: s.takeId, revision: s.revision }, 160)} alt="" />
      <div>
        <b>{s.title}</b>
        {s.state === 'running' ? (
          <Wedge
            role="progressbar"
            aria-label={`${s.title} going out`}
            aria-valuenow={Math.round(s.progress * 100)}
            style={{ background: `linear-gradient(90deg, var(--lamp-deep) ${s.progress * 100}%, #b2b2b2 0)` }}
          />
        ) : (
          <small>
            {stateInWords(s)}
            {s.state === 'done' ? <br /> : null}
            {s.state === 'done' ? s.fileName : null}
          </small>
        )}
      </div>
      <span>
        {s.state === 'running' ? `${Math.round(s.progress * 100)}%` : null}
        {s.state === 'done' ? (
          <Get
            href={`/api/send-outs/${s.id}/file`}
            download={s.fileName}
            aria-label={`Download ${s.fileName}`}
          >
            <Download aria-hidden="true" />
          </Get>
        ) : null}
        {over ? (
          <IconButton
            aria-label={`Try ${s.title} again`}
            onPress={() => act.mutate({ id: s.id, action: 'retry' })}
          >
            <RotateCcw aria-hidden="true" />
          </IconButton>
        ) : null}
        {s.state === 'waiting' || s.state === 'running' ? (
          <IconButton aria-label={`Stop ${s.title}`} onPress={() => act.mutate({ id: s.id, action: 'stop' })}>
            <X aria-hidden="true" />
          </IconButton>
        ) : (
          <IconButton
            aria-label={`Clear ${s.title} from the list`}
            onPress={() => act.mutate({ id: s.id, action: 'clear' })}
          >
            <X aria-hidden="true" />
          </IconButton>
        )}
      </span>
    </li>
  );
}

/** What goes out, with its progress. */
export function Queue({ list }: { list: SendOut[] }) {
  const act = useSendOutAction();
  const count = (...states: SendOut['state'][]) => list.filter(s => states.includes(s.state)).length;
  const failed = count('failed');
  const over = list.filter(s => s.state !== 'waiting' && s.state !== 'running');
  return (
    <Column aria-label="Going out">
      <header>
        <h2>Going out</h2>
        {list.length ? (
          <span role="status">
            {count('done')} of {list.length} done{failed ? `, ${failed} failed` : ''}
          </span>
        ) : null}
      </header>
      {list.length === 0 ? (
        <p>Nothing is going out. What you send appears here and can be downloaded when it is done.</p>
      ) : null}
      <ul>
        {list.map(s => (
          <Entry key={s.id} item={s} />
        ))}
      </ul>
      {over.length ? (
        <footer>
          <Button
            onPress={() => {
              for (const s of over) act.mutate({ id: s.id, action: 'clear' });
            }}
          >
            Clear the finished
          </Button>
        </footer>
      ) : null}
    </Column>
  );
}
