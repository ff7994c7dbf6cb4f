import { useSyncExternalStore } from 'react';
import { describe, expect, it } from 'vitest';
import { page, userEvent } from 'vitest/browser';
import { changeSetting } from '../../core/treatment/edit';
import { desk, treated } from '../testing/desk';
import { StatesBoard } from './StatesBoard';

/** The history of a take, gone along by a press on a state. */

async function history(changes: number) {
  const at = await desk(treated([{ id: 'l', kind: 'light' }]), ({ session }) => {
    useSyncExternalStore(session.subscribe, session.state);
    return (
      <div style={{ width: 300, height: 700, display: 'flex', flexDirection: 'column' }}>
        <StatesBoard
          line={session.moments}
          isTold={session.moments.earlierThan === null}
          onEarlier={session.earlier}
          onTry={() => undefined}
          onGo={session.goBy}
          onAct={() => undefined}
          onClose={() => undefined}
        />
      </div>
    );
  });
  const { session } = at;
  const set = (name: string, value: number) =>
    session.commit(changeSetting(session.state().treatment, 'l', [name], value), `Light ${name}`);
  for (let i = 0; i < changes; i++) set(i % 2 ? 'contrast' : 'exposure', (i + 1) / 60);
  const state = (by: number) => document.querySelector<HTMLElement>(`[data-state="${by}"]`)!;
  const saved = () => expect.poll(() => session.state().saving.state).toBe('saved');
  await saved();
  return { ...at, state, saved };
}

describe('the history', () => {
  it('goes fifty states back at once and on again, and the server is led there', async () => {
    const { now, server, session, state, saved } = await history(50);
    const last = now();
    await expect.poll(() => state(-50)).toBeTruthy();
    await userEvent.click(state(-50));
    expect(now().steps[0].settings).toMatchObject({ exposure: 0, contrast: 0 });
    expect(session.state().undo).toBeNull();
    await saved();
    expect(server.treatment).toEqual(now());
    await userEvent.click(state(50));
    expect(now()).toEqual(last);
    expect(session.state().redo).toBeNull();
    await saved();
    expect(server.treatment).toEqual(last);
  });

  it('marks where the take stands, and keeps what lies ahead', async () => {
    const { state, saved } = await history(3);
    await userEvent.click(state(-2));
    await saved();
    expect(document.querySelectorAll('[data-later]')).toHaveLength(2);
    await expect.element(page.getByRole('button', { name: /^Light/ }).first()).toBeVisible();
    expect(document.querySelector('[data-now]')).toBeTruthy();
  });
});
