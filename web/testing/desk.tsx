import { QueryClientProvider } from '@tanstack/react-query';
import { useSyncExternalStore, type ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import { vi } from 'vitest';
import { userEvent } from 'vitest/browser';
import { render } from 'vitest-browser-react';
import type { Treatment } from '../../core/treatment/treatment';
import { parseTreatment } from '../../core/treatment/schema';
import { createQueryClient } from '../app/queries';
import { GlobalStyle } from '../app/theme';
import { TakeSession } from '../takes/session';
import { TakeServer } from '../takes/testing/take-server';
import type { Edits } from '../takes/edits';
import { createBench, type Bench } from '../bench/bench-store';
import { BenchContext, useBenchState } from '../bench/work';

const client = createQueryClient();

/** A component with what stands about every component of the application. */
export const standing = (what: ReactNode) => (
  <QueryClientProvider client={client}>
    <GlobalStyle />
    <MemoryRouter>{what}</MemoryRouter>
  </QueryClientProvider>
);

/** A component on the page. */
export async function put(what: ReactNode) {
  client.clear();
  return render(standing(what));
}

export const treated = (steps: readonly object[], more: object = {}): Treatment =>
  parseTreatment({ format: 'lampwash-treatment', version: 1, steps, ...more });

/** What of the Bench is tried is given: the newest treatment, and what can be done to it. */
export interface DeskProps {
  treatment: Treatment;
  session: TakeSession;
  edits: Edits;
  chosen: string | null;
  choose: (id: string | null) => void;
}

/** What a test holds of a desk: the treatment as it stands, and as the stand-in for the server has it. */
export interface OnDesk {
  now: () => Treatment;
  server: TakeServer;
  session: TakeSession;
  bench: Bench;
  screen: Awaited<ReturnType<typeof put>>;
}

/**
 * A take on a session of its own, whose commands go to a stand-in for the server.
 * @param Show what of the Bench is tried
 */
export async function desk(treatment: Treatment, Show: (at: DeskProps) => ReactNode): Promise<OnDesk> {
  const server = new TakeServer();
  server.states[0].treatment = treatment;
  vi.stubGlobal('fetch', server.fetch);
  const session = new TakeSession(server.view());
  const bench = createBench(session);
  bench.follow();
  const { edits, choose } = bench;
  function Desk() {
    const { treatment: newest } = useSyncExternalStore(session.subscribe, session.state);
    const chosen = useBenchState(s => s.picked);
    return <Show treatment={newest} session={session} edits={edits} chosen={chosen} choose={choose} />;
  }
  const screen = await put(
    <BenchContext value={bench}>
      <Desk />
    </BenchContext>,
  );
  return { now: () => session.state().treatment, server, session, bench, screen };
}

/**
 * Moves the pointer through places of an element, in fractions of it, the button down from the first to the last; a key among them
 * is pressed on the way.
 */
export async function drag(
  on: Element,
  first: readonly [number, number],
  ...ways: (readonly [number, number] | 'Escape')[]
): Promise<void> {
  const box = on.getBoundingClientRect();
  const at = ([u, v]: readonly [number, number]) => ({
    clientX: box.left + u * box.width,
    clientY: box.top + v * box.height,
  });
  const send = (type: string, point: readonly [number, number]) =>
    document.elementFromPoint(at(point).clientX, at(point).clientY)!.dispatchEvent(
      new PointerEvent(type, {
        ...at(point),
        bubbles: true,
        pointerId: 1,
        isPrimary: true,
        buttons: 1,
        cancelable: true,
      }),
    );
  const frame = () => new Promise(requestAnimationFrame);
  let last = first;
  send('pointerdown', first);
  for (const way of ways) {
    await frame();
    if (way === 'Escape') await userEvent.keyboard('{Escape}');
    else send('pointermove', (last = way));
  }
  await frame();
  send('pointerup', last);
}
