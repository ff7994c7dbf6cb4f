import { QueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { userEvent } from 'vitest/browser';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { put } from '../testing/desk';
import { ImportSlip } from './ImportSlip';
import { bringIn, takeInArchives, useImports } from './imports';

/** Files on their way in, over a server that goes and comes back, refuses, and has what they bring put aside. */

type Answer = { status: number; body: object } | 'gone';

/** What the server says to each file that is sent, by its turn. */
let answers: ((turn: number) => Answer | Promise<Answer>) | null;
let turns = 0;
let health: boolean;
const asked: string[] = [];

class Sent {
  upload: { onprogress?: (e: object) => void } = {};
  status = 0;
  response: unknown = null;
  responseType = '';
  onload = () => undefined;
  onerror = () => undefined;
  onabort = () => undefined;
  onloadend = () => undefined;
  open = () => undefined;
  setRequestHeader = () => undefined;
  abort = () => {
    this.onabort();
    this.onloadend();
  };
  send = () => {
    void Promise.resolve(answers!(turns++)).then(answer => {
      if (answer === 'gone') this.onerror();
      else {
        Object.assign(this, { status: answer.status, response: answer.body });
        this.onload();
      }
      this.onloadend();
    });
  };
}

const done: Answer = { status: 201, body: { damage: null, part: null, series: [{ title: 'Low water' }] } };
const files = (count: number, ending = 'jpg') =>
  Array.from({ length: count }, (_, i) => new File(['a'], `print ${i + 1}.${ending}`));

beforeEach(() => {
  turns = 0;
  health = true;
  asked.length = 0;
  useImports.setState({ list: [], away: false });
  vi.stubGlobal('XMLHttpRequest', Sent);
  vi.stubGlobal('fetch', (url: string, init?: RequestInit) => {
    asked.push(`${init?.method ?? 'GET'} ${url}`);
    if (!url.endsWith('/api/health')) return Promise.resolve(new Response(null, { status: 204 }));
    return health ? Promise.resolve(new Response('{}')) : Promise.reject(new TypeError('gone'));
  });
});
afterEach(() => {
  useImports.getState().stop();
  vi.unstubAllGlobals();
});

describe('files on their way in', () => {
  it('wait while the server is away, and go on when it is back', async () => {
    const screen = await put(<ImportSlip />);
    answers = turn => (turn === 1 || turn === 2 ? 'gone' : done);
    health = false;
    bringIn(files(4), 'series', new QueryClient());
    await expect.element(screen.getByRole('status')).toHaveTextContent('Waiting for the server, 1 of 4 done');
    health = true;
    await expect
      .element(screen.getByRole('status'), { timeout: 15_000 })
      .toHaveTextContent('Four photographs brought in');
  });

  it('one that cuts the server off each time is named, and the others come in', async () => {
    const screen = await put(<ImportSlip />);
    answers = turn => (turn < 4 ? 'gone' : done);
    bringIn(files(2), 'series', new QueryClient());
    await expect
      .element(screen.getByRole('status'), { timeout: 18_000 })
      .toHaveTextContent('One photograph brought in, one file not');
  });

  it('that failed are all tried again by one press', async () => {
    const screen = await put(<ImportSlip />);
    const full: Answer = { status: 507, body: { title: 'The disk is full.' } };
    answers = turn => (turn < 3 ? full : done);
    bringIn(files(3), 'series', new QueryClient());
    await userEvent.click(screen.getByRole('button', { name: 'Try all again' }));
    await expect.element(screen.getByRole('status')).toHaveTextContent('Three photographs brought in');
  });

  it('fold to how they stand when a photograph is opened, out of the way of its panel, and open again when asked for', async () => {
    const screen = await put(
      <>
        <Link to="/photographs/one">A photograph</Link>
        <Link to="/photographs/two">The next</Link>
        <Link to="/series/one">The sheet</Link>
        <ImportSlip />
      </>,
    );
    answers = turn => (turn ? done : { status: 422, body: { title: 'It is damaged.' } });
    bringIn(files(2), 'series', new QueryClient());
    const row = screen.getByText('It is damaged.');
    await expect.element(row).toBeVisible();
    await userEvent.click(screen.getByRole('link', { name: 'The sheet' }));
    await expect.element(row).toBeVisible();
    await userEvent.click(screen.getByRole('link', { name: 'A photograph' }));
    await expect.element(row).not.toBeInTheDocument();
    const slip = screen.getByRole('region', { name: 'Bringing in' });
    await expect.element(slip).toHaveTextContent('One photograph brought in, one file not');
    // The panel begins three hundred pixels from the right.
    expect(slip.element().getBoundingClientRect().right).toBeLessThan(window.innerWidth - 300);
    await userEvent.click(screen.getByRole('button', { name: 'Show the files' }));
    await expect.element(row).toBeVisible();
    await userEvent.click(screen.getByRole('link', { name: 'The next' }));
    await expect.element(row).toBeVisible();
    await userEvent.click(screen.getByRole('button', { name: 'Hide the files' }));
    await expect.element(row).not.toBeInTheDocument();
  });

  it('that are stopped add up with those that are done and those that are not', async () => {
    const screen = await put(<ImportSlip />);
    const refused: Answer = { status: 422, body: { title: 'It is damaged.' } };
    answers = turn => (turn === 0 ? done : turn === 1 ? refused : new Promise(() => undefined));
    bringIn(files(6), 'series', new QueryClient());
    await expect.element(screen.getByText('It is damaged.')).toBeVisible();
    await userEvent.click(screen.getByRole('button', { name: 'Stop' }));
    await expect
      .element(screen.getByRole('status'))
      .toHaveTextContent('One photograph brought in, one file not, four files stopped');
  });

  it('a backup of what is put aside offers to restore that, or to delete it and go on', async () => {
    const screen = await put(<ImportSlip />);
    const aside = [{ id: 'one', title: 'Low water' }];
    answers = turn =>
      turn < 2 ? { status: 422, body: { title: '“Low water” is put aside here.', aside } } : done;
    takeInArchives(files(1, 'tar'), new QueryClient());
    await userEvent.click(screen.getByRole('button', { name: 'Restore it' }));
    await expect.element(screen.getByText(/Restored: Low water/)).toBeVisible();
    expect(asked).toContain('POST /api/series/one/restore');

    takeInArchives(files(1, 'tar'), new QueryClient());
    await userEvent.click(screen.getByRole('button', { name: 'Delete for good and import the backup' }));
    await expect.element(screen.getByText('On the shelf: Low water.')).toBeVisible();
    expect(asked).toContain('DELETE /api/put-aside/series/one');
  });
});
