import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import styled from 'styled-components';
import { z } from 'zod';
import { messageOf } from '../app/api';
import { healthQuery } from '../app/queries';
import { Bar, Crumbs, Push, WallTones } from '../ui/bar';
import { Find } from '../ui/find';
import { ReadingRoom } from '../ui/reading-room';
import { Wait } from '../ui/wait';
import { exampleOf, groupsOf, type Described } from './described';
import { WaysIn } from './WaysIn';

const Paper = styled.article`
  width: min(900px, calc(100vw - 60px));
  background: var(--paper-high);
  box-shadow: var(--shade-label);
  border-radius: var(--r-label);
  padding: 22px 28px 26px;
  line-height: 1.45;
  h2 {
    font: 400 var(--t-display) / 1 var(--serif);
    letter-spacing: -0.012em;
    margin-bottom: 10px;
  }
  h3 {
    font: 400 24px/1.1 var(--serif);
    margin: 26px 0 4px;
  }
  a {
    text-decoration: underline;
    text-underline-offset: 3px;
  }
  > p {
    max-width: 66ch;
    margin: 0 0 8px;
  }
  pre,
  code {
    font:
      12.5px/1.5 ui-monospace,
      'DejaVu Sans Mono',
      monospace;
  }
  pre {
    background: var(--paper);
    padding: 9px 12px;
    margin: 8px 0;
    overflow-x: auto;
    user-select: text;
    white-space: pre-wrap;
    overflow-wrap: anywhere;
  }
  details {
    border-top: 1px solid var(--rule);
  }
  summary {
    display: grid;
    grid-template-columns: 62px minmax(0, 1fr);
    gap: 2px 12px;
    padding: 8px 4px;
    cursor: pointer;
    list-style: none;
  }
  summary:hover {
    background: var(--paper);
  }
  summary:focus-visible {
    outline: 2px solid var(--lamp-deep);
    outline-offset: -2px;
  }
  summary b {
    font:
      600 11.5px/1.7 ui-monospace,
      'DejaVu Sans Mono',
      monospace;
    letter-spacing: 0.03em;
  }
  summary code {
    overflow-wrap: anywhere;
  }
  summary span {
    grid-column: 2;
    color: var(--ink-2);
    font-size: var(--t-small);
  }
  dl {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr);
    gap: 3px 16px;
    padding: 2px 4px 10px 78px;
  }
  dt {
    color: var(--ink-2);
  }
`;

/** The description as the server gives it; of its schemas no more than is shown. */
const descriptionSchema = z.object({
  paths: z.record(z.string(), z.record(z.string(), z.looseObject({ summary: z.string() }))),
});

async function described(): Promise<z.infer<typeof descriptionSchema>> {
  const answer = await fetch('/api/openapi.json');
  if (!answer.ok) throw new Error(`The server answers ${answer.status}.`);
  return descriptionSchema.parse(await answer.json());
}

function Address({ of, server }: { of: Described; server: string }) {
  return (
    <details>
      <summary>
        <b>{of.method.toUpperCase()}</b>
        <code>{of.path}</code>
        <span>{of.summary}</span>
      </summary>
      <dl>
        {of.takes ? (
          <>
            <dt>Takes</dt>
            <dd>
              <code>{of.takes}</code>
            </dd>
          </>
        ) : null}
        {of.parameters.map(({ name, required, says }) => (
          <div key={name} style={{ display: 'contents' }}>
            <dt>{name}</dt>
            <dd>
              {says}
              {required ? '' : ', may be left out'}
            </dd>
          </div>
        ))}
        <dt>Gives</dt>
        <dd>
          {of.status} <code>{of.gives}</code>
        </dd>
        <dt>So</dt>
        <dd>
          <pre>{exampleOf(of, server)}</pre>
        </dd>
      </dl>
    </details>
  );
}

/** Everything by HTTP, read from the description that the server makes of its own routes. */
export function ApiPage() {
  const description = useQuery({ queryKey: ['openapi'], queryFn: described, staleTime: Infinity });
  const health = useQuery(healthQuery);
  const [wanted, setWanted] = useState('');
  if (description.isError) return <Wait problem={messageOf(description.error)} />;
  if (!description.data) return <Wait />;
  const groups = groupsOf(description.data.paths, wanted.trim());
  return (
    <>
      <Bar>
        <Crumbs here="Without its screens" />
        <Push />
        <Find label="Find an address" value={wanted} onChange={setWanted} width={210} />
        <WallTones />
      </Bar>
      <ReadingRoom>
        <Paper>
          <h2>Without its screens</h2>
          <p>
            All that the screens do they do by these addresses, and so can a program of yours. Answers are
            JSON, problems are told as <code>application/problem+json</code>, changes name the revision that
            they were made from. The same as one file: <a href="/api/openapi.json">openapi.json</a>.
          </p>
          <p>
            From a terminal, without a server: <code>npm run render</code>, <code>sheet</code>,{' '}
            <code>layers</code>, <code>areas</code>, <code>cube</code>, <code>backup</code> and{' '}
            <code>restore</code>; each tells what it takes with <code>--help</code>.
          </p>
          {health.data?.passphrase ? <WaysIn /> : null}
          {groups.map(({ name, routes }) => (
            <section key={name} aria-label={name}>
              <h3>{name}</h3>
              {routes.map(of => (
                <Address key={`${of.method} ${of.path}`} of={of} server={window.location.origin} />
              ))}
            </section>
          ))}
          {groups.length === 0 ? <p>No address has that in it. Fewer letters find more.</p> : null}
        </Paper>
      </ReadingRoom>
    </>
  );
}
