import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { parseTreatment, type Treatment } from '../../core/treatment/schema';
import type { Take } from '../app/api';
import type { TakeSession } from './session';
import type { findUnsaved } from './unsaved';

/** A stand-in for the server: one take with revisions, that can be cut off or moved on by somebody else. */
class Server {
  down = false;
  revision = 1;
  states: Treatment[] = [light(0)];
  at = 0;
  labels: string[] = [];
  made: Treatment[] = [];

  view(): Take {
    return {
      id: 't1',
      photographId: 'p1',
      letter: 'A',
      name: '',
      revision: this.revision,
      treatment: this.states[this.at],
      undo: this.at > 0 ? 'x' : null,
      redo: this.at < this.states.length - 1 ? 'x' : null,
    };
  }

  save(treatment: Treatment, label = '') {
    this.states = [...this.states.slice(0, this.at + 1), treatment];
    this.at++;
    this.revision++;
    this.labels.push(label);
  }

  readonly fetch = async (path: string, init: { method: string; body?: string }) => {
    if (this.down) throw new TypeError('failed to fetch');
    const body = init.body ? JSON.parse(init.body) : {};
    const answer = (status: number, value: unknown) => new Response(JSON.stringify(value), { status });
    if (path.endsWith('/takes')) {
      this.made.push(body.treatment);
      return answer(201, { ...this.view(), id: 't2', treatment: body.treatment });
    }
    if (body.revision !== this.revision) return answer(409, { title: 'stale', newest: this.view() });
    if (path.endsWith('/treatment')) this.save(body.treatment, body.label);
    else {
      this.at += path.endsWith('/undo') ? -1 : 1;
      this.revision++;
    }
    return answer(200, this.view());
  };
}

function light(exposure: number): Treatment {
  return parseTreatment({
    format: 'lampwash-treatment',
    version: 1,
    steps: exposure ? [{ kind: 'light', settings: { exposure } }] : [],
  });
}

const stored = new Map<string, string>();
const storage = {
  getItem: (key: string) => stored.get(key) ?? null,
  setItem: (key: string, value: string) => void stored.set(key, value),
  removeItem: (key: string) => void stored.delete(key),
};
let server: Server;
let modules: { TakeSession: typeof TakeSession; findUnsaved: typeof findUnsaved };

beforeEach(async () => {
  stored.clear();
  server = new Server();
  vi.useFakeTimers();
  vi.stubGlobal('fetch', server.fetch);
  // Object.keys(localStorage) lists the kept entries, as a browser's does.
  const proxy = new Proxy(storage, {
    ownKeys: () => [...stored.keys()],
    getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }),
  });
  vi.stubGlobal('localStorage', proxy);
  vi.stubGlobal('sessionStorage', storage);
  vi.stubGlobal('navigator', {});
  vi.resetModules();
  modules = { ...(await import('./session')), ...(await import('./unsaved')) };
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const open = () => new modules.TakeSession(server.view());
const exposureOf = (t: Treatment) =>
  (t.steps[0]?.settings as { exposure: number } | undefined)?.exposure ?? 0;
const settle = () => vi.advanceTimersByTimeAsync(1000);

describe('a session on a take', () => {
  it('keeps apart what stands apart: strokes of one label are undone one by one', async () => {
    const session = new modules.TakeSession(server.view());
    session.commit(light(0.1), 'Paint', { apart: true });
    session.commit(light(0.2), 'Paint', { apart: true });
    session.commit(light(0.3), 'Exposure');
    session.commit(light(0.4), 'Exposure');
    await session.flush();
    expect(server.labels).toEqual(['Paint', 'Paint', 'Exposure']);
  });

  it('tells at once what moves, and what rests only when it rests or is set', async () => {
    const session = open();
    session.preview(light(0.1));
    session.preview(light(0.2));
    expect(exposureOf(session.state().treatment)).toBe(0.2);
    expect(exposureOf(session.rested().treatment)).toBe(0);
    await vi.advanceTimersByTimeAsync(200);
    expect(exposureOf(session.rested().treatment)).toBe(0.2);
    session.preview(light(0.3));
    session.commit(light(0.4), 'Light exposure');
    expect(exposureOf(session.rested().treatment)).toBe(0.4);
    await settle();
    expect(session.rested()).toBe(session.state());
  });

  it('tells the panel of a slider that glides ten times a second, and all when it rests', async () => {
    const session = open();
    const shown = new Set<number>();
    for (let i = 1; i <= 30; i++) {
      await vi.advanceTimersByTimeAsync(16);
      session.glide(light(i / 100));
      expect(exposureOf(session.state().treatment)).toBe(i / 100);
      shown.add(exposureOf(session.paced().treatment));
    }
    expect(shown.size).toBeGreaterThanOrEqual(4);
    expect(shown.size).toBeLessThanOrEqual(7);
    expect(exposureOf(session.rested().treatment)).toBe(0);
    await vi.advanceTimersByTimeAsync(200);
    expect(session.paced()).toBe(session.state());
    expect(session.rested()).toBe(session.state());
  });

  it('shows everywhere what is on its way before something acts on it', () => {
    const session = open();
    session.glide(light(0.1));
    session.glide(light(0.2));
    session.settle();
    expect(exposureOf(session.paced().treatment)).toBe(0.2);
    expect(session.rested()).toBe(session.state());
  });

  it('builds nothing while the pen is down, whatever is committed and saved, and all when it is up', async () => {
    const session = open();
    session.pen(true);
    session.commit(light(0.1), 'Paint', { apart: true });
    await settle();
    expect(server.labels).toEqual(['Paint']);
    session.settle();
    expect(exposureOf(session.paced().treatment)).toBe(0);
    expect(exposureOf(session.rested().treatment)).toBe(0);
    session.pen(false);
    await vi.advanceTimersByTimeAsync(200);
    expect(session.paced()).toBe(session.state());
    expect(session.rested()).toBe(session.state());
    expect(exposureOf(session.state().treatment)).toBe(0.1);
  });

  it('saves at once what the browser has no room to keep', async () => {
    const session = open();
    const full = vi.spyOn(storage, 'setItem').mockImplementation(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
    session.commit(light(0.4), 'Paint', { apart: true });
    full.mockRestore();
    await vi.advanceTimersByTimeAsync(20);
    expect(server.labels).toEqual(['Paint']);
    expect(session.state().saving).toEqual({ state: 'saved' });
  });

  it('saves an edit by itself once it rests, and quick edits of one control as one', async () => {
    const session = open();
    for (const exposure of [0.1, 0.2, 0.3]) session.commit(light(exposure), 'Light exposure');
    expect(session.state().saving.state).toBe('saving');
    await settle();
    expect(session.state().saving).toEqual({ state: 'saved' });
    expect(server.labels).toEqual(['Light exposure']);
    expect(exposureOf(server.states[server.at])).toBe(0.3);
    expect(stored.size).toBe(1); // the window's own id alone
  });

  it('keeps different edits apart, in order', async () => {
    const session = open();
    session.commit(light(0.1), 'one');
    session.commit(light(0.2), 'two');
    session.commit(light(0.3), 'three');
    await settle();
    expect(server.labels).toEqual(['one', 'two', 'three']);
  });

  it('shows a preview without saving it', async () => {
    const session = open();
    session.preview(light(0.7));
    await settle();
    expect(exposureOf(session.state().treatment)).toBe(0.7);
    expect(server.revision).toBe(1);
  });

  it('saves before it undoes, and redoes', async () => {
    const session = open();
    session.commit(light(0.5), 'one');
    await session.undo();
    expect(server.labels).toEqual(['one']);
    expect(exposureOf(session.state().treatment)).toBe(0);
    await session.redo();
    expect(exposureOf(session.state().treatment)).toBe(0.5);
  });

  it('keeps an edit in the browser while the server is away, and saves it when it is back', async () => {
    const session = open();
    server.down = true;
    session.commit(light(0.4), 'one');
    await settle();
    expect(session.state().saving.state).toBe('waiting');
    expect(await modules.findUnsaved('t1')).toMatchObject({ label: 'one', revision: 1 });
    server.down = false;
    await vi.advanceTimersByTimeAsync(5000);
    expect(session.state().saving.state).toBe('saved');
    expect(exposureOf(server.states[server.at])).toBe(0.4);
  });

  it('takes up what an earlier window could not save', async () => {
    const unsaved = { treatment: light(0.9), label: 'left over', revision: 1 };
    const session = new modules.TakeSession(server.view(), unsaved);
    await settle();
    expect(session.state().saving.state).toBe('saved');
    expect(server.labels).toEqual(['left over']);
  });

  describe('after somebody else saved', () => {
    const conflict = async () => {
      const session = open();
      server.save(light(-1), 'theirs');
      session.commit(light(1), 'mine');
      await settle();
      expect(session.state().saving.state).toBe('conflict');
      expect(exposureOf(server.states[server.at])).toBe(-1);
      return session;
    };

    it('mine can be put on top, theirs one undo away', async () => {
      const session = await conflict();
      await session.keepMine();
      expect(server.states.map(exposureOf)).toEqual([0, -1, 1]);
      await session.undo();
      expect(exposureOf(session.state().treatment)).toBe(-1);
    });

    it('theirs can be shown, mine one redo away', async () => {
      const session = await conflict();
      await session.takeTheirs();
      expect(exposureOf(session.state().treatment)).toBe(-1);
      await session.redo();
      expect(exposureOf(session.state().treatment)).toBe(1);
    });

    it('both can be kept, mine as a take of its own', async () => {
      const session = await conflict();
      const made = await session.keepBoth();
      expect(made?.id).toBe('t2');
      expect(server.made.map(exposureOf)).toEqual([1]);
      expect(exposureOf(session.state().treatment)).toBe(-1);
      expect(session.state().saving.state).toBe('saved');
    });

    it('edits made meanwhile are not lost', async () => {
      const session = await conflict();
      session.commit(light(2), 'more');
      await session.keepMine();
      expect(exposureOf(server.states[server.at])).toBe(2);
    });

    it('left over from a closed window, it is asked again', () => {
      server.save(light(-1), 'theirs');
      const session = new modules.TakeSession(server.view(), {
        treatment: light(1),
        label: 'mine',
        revision: 1,
      });
      expect(session.state().saving.state).toBe('conflict');
      expect(exposureOf(session.state().treatment)).toBe(1);
    });
  });

  it('an undo on a take that moved on shows the newer state', async () => {
    const session = open();
    session.commit(light(0.5), 'one');
    await settle();
    server.save(light(3), 'theirs');
    await session.undo();
    expect(exposureOf(session.state().treatment)).toBe(3);
  });
});
