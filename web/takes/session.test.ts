import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { MOST_TREATMENT } from '../../contract/limits';
import { addArea, addStroke } from '../../core/treatment/areas';
import type * as Sessions from './session';
import type * as Store from './unsaved';
import { exposureOf, light, OTHER_TAKE, TAKE, TakeServer } from './testing/take-server';
import { breathe, stubWindow } from './testing/window';

vi.mock('../engine/client', () => ({
  giveToEngines: () => Promise.resolve(),
  smallPictures: () => Promise.reject(new Error('no engine here')),
}));

let server: TakeServer;
let said: string[];
let modules: typeof Sessions & typeof Store;

beforeEach(async () => {
  server = new TakeServer();
  said = [];
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'Date'] });
  stubWindow(server.fetch);
  vi.resetModules();
  modules = { ...(await import('./session')), ...(await import('./unsaved')) };
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const open = () => modules.openSession(TAKE, text => said.push(text));
const settle = async (ms = 1000) => {
  await breathe();
  await vi.advanceTimersByTimeAsync(ms);
  await breathe();
};
const shown = (session: { state: () => { treatment: Parameters<typeof exposureOf>[0] } }) =>
  exposureOf(session.state().treatment);

describe('edits', () => {
  it('are saved by themselves once they rest; quick ones of one control as one', async () => {
    const session = await open();
    for (const exposure of [0.1, 0.2, 0.3]) session.commit(light(exposure), 'Light exposure');
    expect(session.state().saving.state).toBe('saving');
    await settle();
    expect(session.state().saving).toEqual({ state: 'saved' });
    expect(server.labels).toEqual(['Light exposure']);
    expect(exposureOf(server.treatment)).toBe(0.3);
    expect(await modules.findUnsaved(TAKE)).toBeNull();
  });

  it('that change nothing are none: there is nothing to undo, and nothing is sent', async () => {
    const session = await open();
    session.commit(light(0.4), 'Exposure');
    await settle();
    session.preview(light(0.7));
    session.commit(light(0.4), 'Exposure');
    expect(session.state()).toMatchObject({ saving: { state: 'saved' }, undo: 'Exposure' });
    await settle();
    expect([shown(session), server.labels]).toEqual([0.4, ['Exposure']]);
    await session.undo();
    expect(shown(session)).toBe(0);
  });

  it('of different names, and those that stand apart, stay apart and in order', async () => {
    const session = await open();
    session.commit(light(0.1), 'Paint', { apart: true });
    session.commit(light(0.2), 'Paint', { apart: true });
    session.commit(light(0.3), 'Exposure');
    session.commit(light(0.4), 'Exposure');
    session.commit(light(0.5), 'Gamma');
    await session.flush();
    expect(server.labels).toEqual(['Paint', 'Paint', 'Exposure', 'Gamma']);
  });

  it('are shown without being saved while a control moves', async () => {
    const session = await open();
    session.preview(light(0.7));
    await settle();
    expect(shown(session)).toBe(0.7);
    expect(server.revision).toBe(1);
  });

  it('for which there is no room are said and not taken; all else goes on', async () => {
    const session = await open();
    session.commit(light(0.5), 'one');
    const { treatment, area } = addArea(light(0.5));
    const points = Array.from({ length: 20_000 }, (_, i) => [i / 1e5, 0.123456, 0.987654]);
    let large = treatment;
    while (JSON.stringify(large).length <= MOST_TREATMENT) {
      const stroke = { radius: 0.02, hardness: 0.5, flow: 1, erase: false, keepEdges: 0 };
      large = addStroke(large, area, { ...stroke, points: points as [number, number, number][] });
    }
    session.commit(large, 'Paint', { apart: true });
    expect(said).toEqual([modules.noRoom('more than 16 MB of steps and strokes')]);
    expect(shown(session)).toBe(0.5);
    session.commit(light(0.6), 'two');
    await settle();
    expect(server.labels).toEqual(['one', 'two']);
  });
});

describe('undo and redo', () => {
  it('move at once, however slow the server: four quick ones are four steps', async () => {
    for (let i = 1; i <= 5; i++) server.save(light(i / 10), `e${i}`);
    const session = await open();
    await breathe();
    server.fates = Array.from({ length: 8 }, () => ({ there: 150, back: 150, what: 'arrives' as const }));
    for (let i = 0; i < 4; i++) void session.undo();
    expect(shown(session)).toBe(0.1);
    void session.redo();
    expect(shown(session)).toBe(0.2);
    expect(session.state()).toMatchObject({ undo: 'e2', redo: 'e3' });
    await settle(5000);
    expect(exposureOf(server.treatment)).toBe(0.2);
    expect(session.state().saving).toEqual({ state: 'saved' });
  });

  it('an edit made while they are under way is an edit of what they show', async () => {
    for (let i = 1; i <= 3; i++) server.save(light(i / 10), `e${i}`);
    const session = await open();
    await breathe();
    server.fates = [{ there: 300, back: 300, what: 'arrives' }];
    void session.undo();
    session.commit(light(0.9), 'mine');
    await settle(5000);
    expect(shown(session)).toBe(0.9);
    expect(exposureOf(server.treatment)).toBe(0.9);
    void session.undo();
    expect(shown(session)).toBe(0.2);
    expect(session.state().redo).toBe('mine');
  });

  it('wait for the history where it has not been told yet, and go on behind what is known', async () => {
    for (let i = 1; i <= 100; i++) server.save(light(i / 100), `e${i}`);
    const session = await open();
    for (let i = 0; i < 3; i++) void session.undo();
    await settle();
    expect(shown(session)).toBe(0.97);
    // More than was told at first: earlier ones are asked for in time.
    for (let i = 0; i < 90; i++) {
      await session.undo();
      if (i % 5 === 0) await breathe();
    }
    expect(shown(session)).toBe(0.07);
    for (let i = 0; i < 20; i++) await session.undo();
    expect(shown(session)).toBe(0);
    expect(session.state().undo).toBeNull();
    await settle(30_000);
    expect(exposureOf(server.treatment)).toBe(0);
  });

  it('work while the server is away, and are brought to it when it is back', async () => {
    server.save(light(0.5), 'one');
    const session = await open();
    await breathe();
    server.isDown = true;
    session.commit(light(0.6), 'two');
    await settle();
    expect(session.state().saving.state).toBe('waiting');
    void session.undo();
    void session.undo();
    expect(shown(session)).toBe(0);
    server.isDown = false;
    await settle(30_000);
    expect(session.state().saving).toEqual({ state: 'saved' });
    expect([exposureOf(server.treatment), server.labels]).toEqual([0, ['one', 'two']]);
  });
});

describe('an edit that must be looked for first', () => {
  /** One that is found after a time, and adds a tenth to the exposure that there is by then. */
  const later = (session: Sessions.TakeSession, ms: number, value = 0.1) =>
    session.editWhenFound('Pull', new Promise(done => setTimeout(() => done(value), ms)), found =>
      session.commit(light(exposureOf(session.state().treatment) + (found as number)), 'Pull', {
        apart: true,
      }),
    );

  it('is not called saved until it is there, and is then one step of undo', async () => {
    const session = await open();
    void later(session, 2000);
    expect(session.state()).toMatchObject({ saving: { state: 'saving' }, undo: 'Pull' });
    expect(session.hasUnsaved).toBe(true);
    await settle(1500);
    expect(session.state().saving.state).toBe('saving');
    await settle(2500);
    expect(session.state().saving).toEqual({ state: 'saved' });
    expect(server.labels).toEqual(['Pull']);
    await session.undo();
    expect(shown(session)).toBe(0);
  });

  it('is laid on what was done meanwhile', async () => {
    const session = await open();
    void later(session, 2000);
    session.commit(light(0.5), 'Exposure');
    await settle(5000);
    expect(shown(session)).toBeCloseTo(0.6);
    expect(server.labels).toEqual(['Exposure', 'Pull']);
  });

  it('is given up by undo, and what came before it stays', async () => {
    const session = await open();
    session.commit(light(0.5), 'Exposure');
    await settle();
    void later(session, 2000);
    await session.undo();
    expect(session.state()).toMatchObject({ saving: { state: 'saved' }, undo: 'Exposure' });
    await settle(5000);
    expect([shown(session), server.labels]).toEqual([0.5, ['Exposure']]);
  });

  it('comes to the server when the take is left before it is found, and before the take is opened again', async () => {
    const session = await open();
    void later(session, 2000);
    session.close();
    const opened = open();
    await settle(5000);
    expect(shown(await opened)).toBeCloseTo(0.1);
    expect(server.labels).toEqual(['Pull']);
  });

  it('keeps nothing else waiting when the take is left: what is there is sent at once', async () => {
    const session = await open();
    session.commit(light(0.5), 'Exposure');
    void later(session, 10_000);
    session.close();
    await settle(50);
    expect(server.labels).toEqual(['Exposure']);
  });

  it('that fails says so to who asked, changes nothing, and holds nothing up', async () => {
    const session = await open();
    const asked = session.editWhenFound('Pull', Promise.reject(new Error('no colour')), () => undefined);
    await expect(asked).rejects.toThrow('no colour');
    expect(session.state()).toMatchObject({ saving: { state: 'saved' }, undo: null });
    expect(session.hasUnsaved).toBe(false);
    // Given up already: nobody waits for the word.
    let fail: (error: Error) => void = () => undefined;
    const given = session.editWhenFound('Pull', new Promise((_, no) => (fail = no)), () => undefined);
    await session.undo();
    fail(new Error('no colour'));
    await expect(given).resolves.toBeUndefined();
  });
});

describe('what is not saved', () => {
  it('is kept in the browser while the server is away, and says so', async () => {
    const session = await open();
    server.isDown = true;
    session.commit(light(0.4), 'one');
    await settle();
    expect(session.state().saving).toMatchObject({ state: 'waiting', kept: true });
    expect(session.hasUnsaved).toBe(true);
    const unsaved = await modules.findUnsaved(TAKE);
    expect(unsaved).toMatchObject({ revision: 1, commands: [{ kind: 'edit', label: 'one' }] });
    server.isDown = false;
    await settle(5000);
    expect(session.state().saving.state).toBe('saved');
    expect(session.hasUnsaved).toBe(false);
    expect(exposureOf(server.treatment)).toBe(0.4);
    expect(await modules.findUnsaved(TAKE)).toBeNull();
  });

  it('says that it is not kept where the browser has no store', async () => {
    vi.stubGlobal('indexedDB', {
      open: () => {
        throw new DOMException('no store', 'SecurityError');
      },
    });
    const session = await open();
    server.isDown = true;
    session.commit(light(0.4), 'one');
    await settle();
    expect(session.state().saving).toMatchObject({ state: 'waiting', kept: false });
  });

  it('is taken up by the next window: edits and steps, each once, also where one had arrived', async () => {
    const session = await open();
    await breathe();
    session.commit(light(0.1), 'one');
    await session.flush();
    // The first arrives, its answer does not; nothing after it leaves.
    server.fates = [{ there: 0, back: 0, what: 'answer is lost' }];
    session.commit(light(0.2), 'two');
    session.commit(light(0.3), 'three');
    void session.undo();
    await settle(500);
    server.isDown = true;
    session.close();
    await breathe();
    expect(server.labels).toEqual(['one', 'two']);
    server.isDown = false;
    const next = await open();
    expect(shown(next)).toBe(0.2);
    await settle(5000);
    expect(server.labels).toEqual(['one', 'two', 'three']);
    expect(exposureOf(server.treatment)).toBe(0.2);
    expect(next.state()).toMatchObject({ redo: 'three', saving: { state: 'saved' } });
  });

  it('and meets a change from elsewhere in the next window, is asked about', async () => {
    const session = await open();
    await breathe();
    server.isDown = true;
    session.commit(light(1), 'mine');
    await settle();
    session.close();
    await breathe();
    server.isDown = false;
    server.save(light(-1), 'theirs');
    const next = await open();
    expect(next.state()).toMatchObject({ conflict: true });
    expect(shown(next)).toBe(1);
    await next.keepMine();
    expect(server.states.map(s => exposureOf(s.treatment))).toEqual([0, -1, 1]);
  });
});

describe('what the version before this kept', () => {
  const keptOf = (revision: number) => ({
    [`lampwash.unsaved.${TAKE}.w1`]: JSON.stringify({ treatment: light(0.8), label: 'left over', revision }),
  });

  it('is saved, and is there no more', async () => {
    const kept = keptOf(1);
    stubWindow(server.fetch, kept);
    const session = await open();
    expect(shown(session)).toBe(0.8);
    await settle();
    expect([server.labels, Object.keys(kept)]).toEqual([['left over'], []]);
  });

  it('is asked about where the take has moved on', async () => {
    server.save(light(-1), 'theirs');
    stubWindow(server.fetch, keptOf(1));
    const session = await open();
    expect(session.state()).toMatchObject({ conflict: true });
    expect(shown(session)).toBe(0.8);
  });
});

describe('a take left and opened again at once', () => {
  it('waits for what was still being sent, instead of taking it for somebody else’s', async () => {
    const session = await open();
    await breathe();
    server.fates = Array.from({ length: 3 }, () => ({ there: 100, back: 100, what: 'arrives' as const }));
    session.commit(light(0.1), 'one');
    session.commit(light(0.2), 'two');
    session.close();
    const again = open();
    await settle(2000);
    const next = await again;
    expect(shown(next)).toBe(0.2);
    expect(next.state()).toMatchObject({ conflict: false, saving: { state: 'saved' } });
    expect(server.labels).toEqual(['one', 'two']);
  });
});

describe('after somebody else saved', () => {
  const conflict = async () => {
    const session = await open();
    await breathe();
    server.save(light(-1), 'theirs');
    session.commit(light(1), 'mine');
    await settle();
    expect(session.state()).toMatchObject({ conflict: true, saving: { state: 'stale' } });
    expect(exposureOf(server.treatment)).toBe(-1);
    return session;
  };

  it('mine can be put on top, theirs one undo away', async () => {
    const session = await conflict();
    await session.keepMine();
    expect(server.states.map(s => exposureOf(s.treatment))).toEqual([0, -1, 1]);
    await session.undo();
    expect(shown(session)).toBe(-1);
  });

  it('theirs can be shown, mine one redo away', async () => {
    const session = await conflict();
    await session.takeTheirs();
    expect(shown(session)).toBe(-1);
    await session.redo();
    expect(shown(session)).toBe(1);
  });

  it('both can be kept, mine as a take of its own', async () => {
    const session = await conflict();
    expect((await session.keepAsNewTake()).id).toBe(OTHER_TAKE);
    expect(server.made.map(exposureOf)).toEqual([1]);
    expect(shown(session)).toBe(-1);
    expect(session.state().saving.state).toBe('saved');
  });

  it('edits made meanwhile are not lost', async () => {
    const session = await conflict();
    session.commit(light(2), 'more');
    await session.keepMine();
    expect(exposureOf(server.treatment)).toBe(2);
  });

  it('a step back with nothing unsaved shows what is there, and says so', async () => {
    const session = await open();
    session.commit(light(0.5), 'one');
    await settle();
    server.save(light(3), 'theirs');
    await session.undo();
    await settle();
    expect(shown(session)).toBe(3);
    expect(said[0]).toContain('changed in another window');
    expect(session.state()).toMatchObject({ saving: { state: 'saved' }, undo: 'theirs' });
  });
});

describe('a refusal that will not pass', () => {
  const refused = async () => {
    const session = await open();
    await breathe();
    session.commit(light(0.1), 'good');
    await settle();
    server.fates = [{ there: 0, back: 0, what: 'is refused' }];
    session.commit(light(0.2), 'bad');
    session.commit(light(0.3), 'after it');
    await settle();
    expect(session.state().saving).toMatchObject({ state: 'refused' });
    const { length } = server.asked;
    await settle(120_000);
    expect(server.asked.length).toBe(length);
    return session;
  };

  it('is not tried again; what is shown can become a take of its own', async () => {
    const session = await refused();
    expect(shown(session)).toBe(0.3);
    await session.keepAsNewTake();
    expect(server.made.map(exposureOf)).toEqual([0.3]);
    expect(shown(session)).toBe(0.1);
    session.commit(light(0.4), 'on');
    await settle();
    expect([exposureOf(server.treatment), session.state().saving.state]).toEqual([0.4, 'saved']);
  });

  it('or be written as a file, or be left for what was saved', async () => {
    const session = await refused();
    expect(JSON.parse(await session.asFile())).toMatchObject({ format: 'lampwash-treatment', tables: {} });
    await session.backToSaved();
    expect(shown(session)).toBe(0.1);
    expect(session.state().saving.state).toBe('saved');
    expect(await modules.findUnsaved(TAKE)).toBeNull();
  });
});

describe('names and putting aside', () => {
  it('go the way of the edits, in order', async () => {
    const session = await open();
    session.commit(light(0.5), 'one');
    session.rename('Warm');
    expect(session.state().take.name).toBe('Warm');
    await session.putAside();
    expect(server.asked.map(a => a.split(' ')[0])).toEqual(['PATCH', 'PATCH', 'DELETE']);
    expect([server.name, server.isGone]).toEqual(['Warm', true]);
  });

  it('putting aside says when it cannot', async () => {
    const session = await open();
    server.isDown = true;
    await expect(session.putAside()).rejects.toThrow('does not answer');
  });
});
