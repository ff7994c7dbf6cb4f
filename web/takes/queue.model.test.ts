import fc from 'fast-check';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type * as Sessions from './session';
import { exposureOf, light, TAKE, TakeServer, type Fate } from './testing/take-server';
import { breathe, stubWindow } from './testing/window';

vi.mock('../engine/client', () => ({
  giveToEngines: () => Promise.resolve(),
  smallPictures: () => Promise.reject(new Error('no engine here')),
}));

/**
 * Any sequence of edits, steps along the history, pauses, windows closed and opened again and saves by somebody else,
 * over a network that is slow, loses requests and answers, fails and refuses. What must hold: the screen is what a plain
 * list of states says; "saved" is never said of what the server has not; what was acknowledged stays; once all is quiet,
 * screen and server are one.
 */

/** What a person believes to have on the screen: a plain list of states. */
interface Belief {
  past: number[];
  now: number;
  future: number[];
  /** Somebody else, or a refusal, has come between: until the window has been asked, it is not known. */
  isUnsure: boolean;
}

interface World {
  server: TakeServer;
  session: Sessions.TakeSession;
  openSession: (typeof Sessions)['openSession'];
  said: string[];
  count: number;
}

const wait = async (ms: number) => {
  await breathe();
  await vi.advanceTimersByTimeAsync(ms);
  await breathe();
};

/** Waits for something for as long as the network needs: time passes until it is there. */
async function arriving<T>(promise: Promise<T>): Promise<T> {
  let isSettled = false;
  const done = promise.finally(() => (isSettled = true));
  done.catch(() => undefined);
  while (!isSettled) await wait(100);
  return done;
}

const shown = ({ session }: World) => exposureOf(session.state().treatment);

/** Holds at every moment. */
function check(belief: Belief, world: World): void {
  const { server, session } = world;
  const { saving, take } = session.state();
  if (!belief.isUnsure) expect(shown(world)).toBe(belief.now);
  // What is called saved is on the server: as its current state, unless somebody else has gone on from it.
  if (saving.state === 'saved' && !session.hasUnsaved) {
    const known = server.states.map(s => exposureOf(s.treatment));
    expect(known).toContain(exposureOf(session.state().treatment));
    if (take.revision === server.revision) {
      expect(exposureOf(server.treatment)).toBe(exposureOf(session.state().treatment));
    }
  }
  if (session.hasUnsaved) expect(saving.state).not.toBe('saved');
}

type Command = fc.AsyncCommand<Belief, World>;

class Edit implements Command {
  constructor(readonly apart: boolean) {}
  check = () => true;
  async run(belief: Belief, world: World) {
    const value = ++world.count / 1000;
    world.session.commit(light(value), `e${world.count}`, { apart: this.apart });
    belief.past.push(belief.now);
    belief.now = value;
    belief.future = [];
    check(belief, world);
  }
  toString = () => `edit${this.apart ? ' apart' : ''}`;
}

class Step implements Command {
  constructor(readonly direction: 'undo' | 'redo') {}
  check = () => true;
  async run(belief: Belief, world: World) {
    const { saving } = world.session.state();
    const done = world.session[this.direction]();
    await breathe();
    await arriving(done);
    // While somebody must choose, steps wait.
    if (saving.state !== 'stale' && saving.state !== 'refused') {
      const [from, to] =
        this.direction === 'undo' ? [belief.past, belief.future] : [belief.future, belief.past];
      const next = this.direction === 'undo' ? from.pop() : from.shift();
      if (next !== undefined) {
        if (this.direction === 'undo') to.unshift(belief.now);
        else to.push(belief.now);
        belief.now = next;
      }
    }
    check(belief, world);
  }
  toString = () => this.direction;
}

class Wait implements Command {
  constructor(readonly ms: number) {}
  check = () => true;
  async run(belief: Belief, world: World) {
    await wait(this.ms);
    const { saving } = world.session.state();
    if (saving.state === 'refused' || saving.state === 'stale') belief.isUnsure = true;
    check(belief, world);
  }
  toString = () => `wait ${this.ms}`;
}

class Network implements Command {
  constructor(readonly fates: Fate[]) {}
  check = () => true;
  async run(_belief: Belief, world: World) {
    world.server.fates.push(...this.fates);
  }
  toString = () => `network ${this.fates.map(f => `${f.what} ${f.there}+${f.back}`).join(', ')}`;
}

/** The window closes without waiting, and another opens the take. */
class Reopen implements Command {
  check = () => true;
  async run(belief: Belief, world: World) {
    const before = world.session.state();
    world.session.close();
    await breathe();
    // What was on its way arrives, or is lost.
    await wait(3000);
    // A window that was left may still be sending: the next one opens when it is through.
    world.session = await arriving(world.openSession(TAKE, text => world.said.push(text)));
    await wait(20);
    if (before.saving.state === 'refused' || before.saving.state === 'stale') belief.isUnsure = true;
    if (world.session.state().saving.state === 'stale') belief.isUnsure = true;
    check(belief, world);
  }
  toString = () => 'reopen';
}

class SomebodyElse implements Command {
  check = () => true;
  async run(belief: Belief, world: World) {
    world.server.save(light(-++world.count / 1000), 'theirs');
    belief.isUnsure = true;
  }
  toString = () => 'somebody else saves';
}

/** All becomes quiet: the network is well, and who must choose does. */
async function settled(belief: Belief, world: World, choice: 'mine' | 'theirs' | 'new'): Promise<void> {
  const { server } = world;
  server.fates = [];
  for (let i = 0; i < 12; i++) {
    await wait(40_000);
    const { session } = world;
    const { saving, conflict } = session.state();
    const before = shown(world);
    if (conflict) {
      if (choice === 'mine') {
        await arriving(session.keepMine());
        expect(exposureOf(server.treatment)).toBe(before);
      } else if (choice === 'theirs') {
        await arriving(session.takeTheirs());
        expect(server.states.map(s => exposureOf(s.treatment))).toContain(before);
      } else {
        await arriving(session.keepAsNewTake());
        expect(server.made.map(exposureOf)).toContain(before);
      }
      belief.isUnsure = true;
    } else if (saving.state === 'refused') {
      await arriving(session.keepAsNewTake());
      expect(server.made.map(exposureOf)).toContain(before);
      belief.isUnsure = true;
    }
  }
  expect(world.session.state().saving).toEqual({ state: 'saved' });
  expect(world.session.hasUnsaved).toBe(false);
  const { take } = world.session.state();
  if (take.revision === server.revision) expect(shown(world)).toBe(exposureOf(server.treatment));
  if (!belief.isUnsure) {
    expect(shown(world)).toBe(belief.now);
    expect(exposureOf(server.treatment)).toBe(belief.now);
  }
}

const fate: fc.Arbitrary<Fate> = fc.record({
  there: fc.constantFrom(0, 30, 150, 900),
  back: fc.constantFrom(0, 30, 150, 900),
  what: fc.oneof<fc.WeightedArbitrary<Fate['what']>[]>(
    { weight: 6, arbitrary: fc.constant('arrives' as const) },
    { weight: 2, arbitrary: fc.constantFrom('is lost', 'answer is lost', 'answer is cut') },
    { weight: 1, arbitrary: fc.constant('fails' as const) },
  ),
});
const refusal: fc.Arbitrary<Fate> = fc.record({
  there: fc.constant(0),
  back: fc.constant(0),
  what: fc.constantFrom('is refused' as const, 'is too large' as const),
});

const passing: fc.Arbitrary<Command>[] = [
  fc.boolean().map(apart => new Edit(apart)),
  fc.boolean().map(apart => new Edit(apart)),
  fc.constantFrom('undo' as const, 'undo' as const, 'redo' as const).map(d => new Step(d)),
  fc.constantFrom(0, 20, 200, 800, 3000).map(ms => new Wait(ms)),
  fc.array(fate, { minLength: 1, maxLength: 4 }).map(fates => new Network(fates)),
  fc.constant(new Reopen()),
];
const failing: fc.Arbitrary<Command>[] = [
  fc.constant(new SomebodyElse()),
  refusal.map(each => new Network([each])),
];

beforeEach(() => void vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'Date'] }));
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** Runs commands; what the person believes at the end. */
async function run(commands: Iterable<Command>, choice: 'mine' | 'theirs' | 'new'): Promise<Belief> {
  const server = new TakeServer();
  server.save(light(0.5), 'before');
  stubWindow(server.fetch);
  vi.resetModules();
  const { openSession } = await import('./session');
  const said: string[] = [];
  const world: World = {
    server,
    session: await openSession(TAKE, text => said.push(text)),
    openSession,
    said,
    count: 0,
  };
  const belief: Belief = { past: [0], now: 0.5, future: [], isUnsure: false };
  await fc.asyncModelRun(() => ({ model: belief, real: world }), commands);
  await settled(belief, world, choice);
  world.session.close();
  return belief;
}

it('over a bad network nothing is lost, doubled or called saved before it is, and quick undo counts', async () => {
  await fc.assert(
    fc.asyncProperty(fc.commands(passing, { maxCommands: 25 }), async commands => {
      expect((await run(commands, 'mine')).isUnsure).toBe(false);
    }),
    { numRuns: 80 },
  );
}, 120_000);

it('nor where somebody else saves, or the server refuses: then both sides are kept until one is chosen', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.commands([...passing, ...failing], { maxCommands: 20 }),
      fc.constantFrom('mine' as const, 'theirs' as const, 'new' as const),
      async (commands, choice) => void (await run(commands, choice)),
    ),
    { numRuns: 80 },
  );
}, 120_000);
