import { useEffect } from 'react';
import styled from 'styled-components';
import { countOf } from '../../words/words';
import { Button, LinkButton } from '../ui/buttons';
import { isArchive } from './gathered';
import { useImports, type Incoming } from './imports';

const Slip = styled.section`
  position: fixed;
  right: 26px;
  bottom: 72px;
  width: 380px;
  max-height: 60vh;
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
    border-bottom: 1px solid var(--rule);
  }
  h2 {
    font-size: var(--t-lead);
    font-weight: 650;
    margin-right: auto;
  }
  ul {
    overflow: auto;
    scrollbar-width: thin;
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
  const { list, stop, clear } = useImports();
  const underway = list.some(f => f.state === 'waiting' || f.state === 'sending');
  const failed = list.filter(f => f.state === 'failed').length;
  const done = list.filter(f => f.state === 'done').length;
  const remarks = list.filter(f => f.remark).length;

  useEffect(() => {
    if (underway || failed || remarks || !list.length) return;
    const timer = setTimeout(clear, DONE_SHOWN_MS);
    return () => clearTimeout(timer);
  }, [underway, failed, remarks, list.length, clear]);

  if (!list.length) return null;
  return (
    <Slip aria-label="Bringing in">
      <header>
        <h2 role="status">
          {underway
            ? `Bringing in, ${done} of ${list.length} done`
            : `${countOf(done, list.some(isArchive) ? 'file' : 'photograph')} brought in${failed ? `, ${countOf(failed, 'file').toLowerCase()} not` : ''}`}
        </h2>
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
      <ul>
        {[...list.filter(f => f.state === 'failed'), ...list.filter(f => f.state !== 'failed')].map(f => (
          <li key={f.id} data-state={f.state}>
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
            {f.offer ? (
              <p>
                <LinkButton onPress={f.offer.take}>{f.offer.text}</LinkButton>
              </p>
            ) : null}
          </li>
        ))}
      </ul>
    </Slip>
  );
}
