import { ChevronDown, ChevronUp } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useLocation } from 'react-router';
import styled from 'styled-components';
import { countOf } from '../../words/words';
import { Button, IconButton, LinkButton } from '../ui/buttons';
import { isArchive } from './gathered';
import { useImports, type Incoming } from './imports';

const Slip = styled.section`
  position: fixed;
  right: 26px;
  bottom: 72px;
  width: 380px;
  /* Beside a photograph over the wall, not over its panel and trays. */
  &[data-at='photograph'] {
    right: auto;
    left: 92px;
    bottom: 142px;
    width: 356px;
  }
  display: flex;
  flex-direction: column;
  background: var(--paper-high);
  border-radius: var(--r-label);
  box-shadow: var(--shade-float);
  z-index: 25;
  header {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 10px 12px 10px 16px;
  }
  header + ul {
    border-top: 1px solid var(--rule);
  }
  h2 {
    font-size: var(--t-lead);
    font-weight: 650;
    margin-right: auto;
  }
  ul {
    overflow: auto;
    scrollbar-width: thin;
    /* So low that the sheet beneath it can be worked on. */
    max-height: min(220px, 40vh);
  }
  p > button + button {
    margin-left: 14px;
  }
  li {
    padding: 7px 16px;
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 2px 12px;
  }
  li + li {
    border-top: 1px solid var(--rule);
  }
  li b {
    font-weight: 500;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  li span {
    color: var(--ink-2);
    font-size: var(--t-small);
  }
  li[data-state='failed'] {
    box-shadow: inset 4px 0 0 var(--ink);
  }
  li p {
    grid-column: 1 / -1;
    font-size: var(--t-small);
    line-height: 1.35;
  }
`;

const Wedge = styled.i`
  grid-column: 1 / -1;
  height: 8px;
  clip-path: polygon(0 44%, 100% 0, 100% 100%, 0 56%);
`;

const DONE_SHOWN_MS = 4000;

function stateInWords(f: Incoming): string {
  if (f.state === 'waiting') return 'Waiting';
  if (f.state === 'done') return 'Done';
  if (f.state === 'stopped') return 'Stopped';
  if (f.state === 'failed') return 'Not brought in';
  return f.sent < 1 ? `${Math.round(f.sent * 100)} %` : 'Reading';
}

/** The files on their way in, each with its progress or its problem. */
export function ImportSlip() {
  const isThere = useImports(({ list }) => list.length > 0);
  return isThere ? <Files /> : null;
}

const isAtPhotograph = (pathname: string) => pathname.startsWith('/photographs/');

/** Open where they were brought in; who goes on to a photograph sees how they stand, until the list is asked for. */
function Files() {
  const { list, away, stop, tryAll, clear } = useImports();
  const { pathname } = useLocation();
  const [at, setAt] = useState(pathname);
  const [open, setOpen] = useState(true);
  if (at !== pathname) {
    setAt(pathname);
    if (isAtPhotograph(pathname) && !isAtPhotograph(at)) setOpen(false);
  }
  const under = useRef<HTMLLIElement>(null);
  const underway = list.some(f => f.state === 'waiting' || f.state === 'sending');
  const sending = list.find(f => f.state === 'sending')?.id;
  const failed = list.filter(f => f.state === 'failed').length;
  const stopped = list.filter(f => f.state === 'stopped').length;
  const again = list.filter(f => f.offers.some(offer => offer.again)).length;
  const done = list.filter(f => f.state === 'done').length;
  const remarks = list.filter(f => f.remark).length;

  useEffect(() => {
    if (underway || failed || remarks || !list.length) return;
    const timer = setTimeout(clear, DONE_SHOWN_MS);
    return () => clearTimeout(timer);
  }, [underway, failed, remarks, list.length, clear]);

  // The list follows what is being read.
  useEffect(() => {
    void under.current?.scrollIntoView({ block: 'nearest' });
  }, [sending]);

  const left = [
    failed ? `${countOf(failed, 'file').toLowerCase()} not` : '',
    stopped ? `${countOf(stopped, 'file').toLowerCase()} stopped` : '',
  ].filter(Boolean);
  const kind = list.some(isArchive) ? 'file' : 'photograph';
  return (
    <Slip aria-label="Bringing in" data-at={isAtPhotograph(pathname) ? 'photograph' : undefined}>
      <header>
        <h2 role="status">
          {underway
            ? `${away ? 'Waiting for the server' : 'Bringing in'}, ${done} of ${list.length} done`
            : [`${countOf(done, kind)} brought in`, ...left].join(', ')}
        </h2>
        <IconButton
          aria-label={open ? 'Hide the files' : 'Show the files'}
          aria-expanded={open}
          onPress={() => setOpen(!open)}
        >
          {open ? <ChevronDown aria-hidden="true" /> : <ChevronUp aria-hidden="true" />}
        </IconButton>
        {again > 1 && !underway ? (
          <Button $small onPress={tryAll}>
            Try all again
          </Button>
        ) : null}
        {underway ? (
          <Button $small onPress={stop}>
            Stop
          </Button>
        ) : (
          <Button $small onPress={clear}>
            Close
          </Button>
        )}
      </header>
      {open ? (
        <ul>
          {[...list.filter(f => f.state === 'failed'), ...list.filter(f => f.state !== 'failed')].map(f => (
            <li key={f.id} data-state={f.state} ref={f.id === sending ? under : undefined}>
              <b title={f.name}>{f.name}</b>
              <span>{stateInWords(f)}</span>
              {f.state === 'sending' ? (
                <Wedge
                  role="progressbar"
                  aria-label={f.name}
                  aria-valuenow={Math.round(f.sent * 100)}
                  style={{
                    background: `linear-gradient(90deg, var(--lamp-deep) ${f.sent * 100}%, #b2b2b2 0)`,
                  }}
                />
              ) : null}
              {f.problem || f.remark ? <p>{f.problem ?? f.remark}</p> : null}
              {f.offers.length ? (
                <p>
                  {f.offers.map(({ text, take }) => (
                    <LinkButton key={text} onPress={take}>
                      {text}
                    </LinkButton>
                  ))}
                </p>
              ) : null}
            </li>
          ))}
        </ul>
      ) : null}
    </Slip>
  );
}
