import { Download, RotateCcw, X } from 'lucide-react';
import { useState } from 'react';
import styled from 'styled-components';
import { eachOnce } from '../../contract/file-name';
import type { SendOut } from '../../contract/send-outs';
import { pictureAddress } from '../app/api';
import { useSendOutAction, useSendOutsAction } from '../app/queries';
import { countOf, numberInWords, sizeInWords } from '../../words/words';
import { Button, IconButton } from '../ui/buttons';
import { canWriteFolders, intoFolder } from './folder';

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
    flex: 1;
  }
  header button {
    align-self: center;
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
    grid-template-columns: 60px minmax(0, 1fr) auto;
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
  li > div {
    min-width: 0;
  }
  li em {
    display: block;
    font-style: normal;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  li[data-state='waiting'] img,
  li[data-state='paused'] img {
    opacity: 0.55;
  }
  li[data-state='waiting'] b,
  li[data-state='paused'] b {
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
    flex-wrap: wrap;
    align-items: center;
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

/** A link that looks like a button. */
const GetAll = styled.a`
  display: flex;
  align-items: center;
  gap: 7px;
  height: 32px;
  padding: 0 12px;
  border: 1px solid var(--edge);
  border-radius: var(--r-field);
  background: var(--paper-high);
  font-weight: 550;
  &:hover {
    background: #fff;
  }
  svg {
    width: 15px;
    height: 15px;
  }
`;

function stateInWords(s: SendOut): string {
  switch (s.state) {
    case 'waiting':
      return 'Waiting';
    case 'paused':
      return 'Held';
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
      <img
        key={`${s.takeId} ${s.revision}`}
        src={pictureAddress({ id: s.takeId, revision: s.revision }, 160)}
        alt=""
      />
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
            {s.state === 'done' ? <em title={s.fileName}>{s.fileName}</em> : null}
            {s.state === 'done' && s.note ? <span>{s.note}</span> : null}
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
        {s.state === 'waiting' || s.state === 'paused' || s.state === 'running' ? (
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
export function Queue({ seriesId, list }: { seriesId: string; list: SendOut[] }) {
  const all = useSendOutsAction(seriesId);
  const count = (...states: SendOut['state'][]) => list.filter(s => states.includes(s.state)).length;
  const failed = count('failed');
  const done = list.filter(s => s.state === 'done');
  return (
    <Column aria-label="Going out">
      <header>
        <h2>Going out</h2>
        {list.length ? (
          <span role="status">
            {count('done')} of {list.length} done{failed ? `, ${failed} failed` : ''}
          </span>
        ) : null}
        {count('waiting') ? <Button onPress={() => all.mutate('pause')}>Pause</Button> : null}
        {count('paused') && !count('waiting') ? (
          <Button onPress={() => all.mutate('resume')}>Go on</Button>
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
      {done.length || count('stopped') ? (
        <footer>
          {done.length > 1 ? (
            <GetAll href={`/api/series/${seriesId}/sent-files`} download>
              <Download aria-hidden="true" />
              {capital(numberInWords(done.length))} as one zip
            </GetAll>
          ) : null}
          {done.length && canWriteFolders() ? <IntoFolder done={done} /> : null}
          <Button isDisabled={all.isPending} onPress={() => all.mutate('clear')}>
            Clear the done
          </Button>
        </footer>
      ) : null}
    </Column>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** Writes all that is done into a folder of the disk. */
function IntoFolder({ done }: { done: SendOut[] }) {
  const [said, setSaid] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const names = eachOnce(done.map(s => s.fileName));
  const write = async () => {
    setBusy(true);
    try {
      const files = done.map((s, i) => ({ id: s.id, fileName: names[i] }));
      const count = await intoFolder(files, n => setSaid(`${n} of ${files.length} written`));
      if (count !== null) setSaid(`${countOf(count, 'file')} written`);
    } catch (error) {
      setSaid(`Not all could be written: ${error instanceof Error ? error.message : String(error)}`);
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <Button isDisabled={isBusy} onPress={() => void write()}>
        Into a folder
      </Button>
      {said ? <small role="status">{said}</small> : null}
    </>
  );
}
