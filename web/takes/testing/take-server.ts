import type { Take } from '../../../contract/takes';
import { patchBetween, patched, type Patch } from '../../../core/treatment/patch';
import type { Treatment } from '../../../core/treatment/treatment';
import { parseTreatment } from '../../../core/treatment/schema';

export const TAKE = '7f0c9a52-1a65-4c4e-9f5c-0d2b6a3c1e01';
export const OTHER_TAKE = '7f0c9a52-1a65-4c4e-9f5c-0d2b6a3c1e02';
const PHOTOGRAPH = '7f0c9a52-1a65-4c4e-9f5c-0d2b6a3c1e03';

/** A treatment that a number tells from others. */
export const light = (exposure: number): Treatment =>
  parseTreatment({
    format: 'lampwash-treatment',
    version: 1,
    steps: exposure ? [{ id: 's1', kind: 'light', settings: { exposure } }] : [],
  });

export const exposureOf = (t: Treatment): number =>
  (t.steps[0]?.settings as { exposure: number } | undefined)?.exposure ?? 0;

interface State {
  parent: number | null;
  label: string;
  treatment: Treatment;
}

/** What becomes of a request on its way. */
export interface Fate {
  /** Milliseconds there and back. */
  there: number;
  back: number;
  what: 'arrives' | 'is lost' | 'answer is lost' | 'answer is cut' | 'fails' | 'is refused' | 'is too large';
}

const arrives: Fate = { there: 0, back: 0, what: 'arrives' };
const sleep = (ms: number) => (ms ? new Promise(done => setTimeout(done, ms)) : Promise.resolve());

/**
 * A stand-in for the server: one take with its tree of states, as the real one keeps it, behind a network that may be
 * slow, lose requests or answers, or fail.
 */
export class TakeServer {
  states: State[] = [{ parent: null, label: '', treatment: light(0) }];
  current = 0;
  tip = 0;
  revision = 1;
  name = '';
  lastCommand: string | null = null;
  /** New takes that were made of treatments. */
  made: Treatment[] = [];
  isGone = false;
  /** What becomes of the requests to come; all arrive at once where nothing is said. */
  fates: Fate[] = [];
  isDown = false;
  /** Requests, by what they change. */
  asked: string[] = [];

  get treatment(): Treatment {
    return this.states[this.current].treatment;
  }

  get labels(): string[] {
    return this.states.slice(1).map(s => s.label);
  }

  private way(from: number): number[] {
    const way = [from];
    for (let at = this.states[from].parent; at !== null; at = this.states[at].parent) way.unshift(at);
    return way;
  }

  private get next(): number | null {
    const way = this.way(this.tip);
    const at = way.indexOf(this.current);
    return at < 0 ? null : (way[at + 1] ?? null);
  }

  view(): Take {
    const { parent, label, treatment } = this.states[this.current];
    return {
      id: TAKE,
      photographId: PHOTOGRAPH,
      letter: 'A',
      name: this.name,
      revision: this.revision,
      state: this.current,
      command: this.lastCommand,
      treatment: structuredClone(treatment),
      undo: parent === null ? null : label,
      redo: this.next === null ? null : this.states[this.next].label,
    };
  }

  /** Somebody else saves. */
  save(treatment: Treatment, label = 'theirs'): void {
    this.states.push({ parent: this.current, label, treatment });
    this.current = this.tip = this.states.length - 1;
    this.revision++;
    this.lastCommand = null;
  }

  private history(state: number, back: number) {
    const way = this.way(state);
    const known = way.slice(-back - 1);
    const made = (numbers: number[]) =>
      numbers.map(n => ({
        state: n,
        label: this.states[n].label,
        patch: patchBetween(this.states[this.states[n].parent!].treatment, this.states[n].treatment),
      }));
    const ahead = this.way(this.tip);
    const at = ahead.indexOf(state);
    return {
      base: {
        state: known[0],
        label: this.states[known[0]].label,
        treatment: this.states[known[0]].treatment,
      },
      more: known.length < way.length,
      past: made(known.slice(1)),
      future: state === this.current && at >= 0 ? made(ahead.slice(at + 1)) : [],
    };
  }

  private answer(method: string, url: string, body: Record<string, unknown>): [number, unknown] {
    const { pathname, searchParams } = new URL(url, 'http://server');
    const [, , kind, , what, which] = pathname.split('/');
    if (kind === 'photographs') {
      this.made.push(body.treatment as Treatment);
      return [201, { ...this.view(), id: OTHER_TAKE, treatment: body.treatment }];
    }
    if (this.isGone) return [404, { title: 'There is no such take.' }];
    if (what === 'history') {
      return [200, this.history(Number(searchParams.get('state')), Number(searchParams.get('back') ?? 60))];
    }
    if (what === 'states') return [200, this.states[Number(which)].treatment];
    if (method === 'GET') return [200, this.view()];
    if (method === 'DELETE') {
      this.isGone = true;
      return [204, null];
    }
    if (what === undefined) {
      this.name = body.name as string;
      return [200, this.view()];
    }
    if (body.command && body.command === this.lastCommand) return [200, this.view()];
    if (body.revision !== this.revision) return [409, { title: 'stale', newest: this.view() }];
    if (what === 'treatment') {
      const treatment = patched(this.treatment, body.patch as Patch);
      this.save(parseTreatment(treatment), body.label as string);
      this.revision--;
    } else if (what === 'undo') this.current = this.states[this.current].parent ?? this.current;
    else if (what === 'redo') this.current = this.next ?? this.current;
    else if (what === 'jump') this.current = body.state as number;
    this.revision++;
    this.lastCommand = (body.command as string) ?? null;
    return [200, this.view()];
  }

  readonly fetch = async (url: string, init: { method?: string; body?: string } = {}): Promise<Response> => {
    const { method = 'GET', body } = init;
    if (method !== 'GET') this.asked.push(`${method} ${url}`);
    const fate = method === 'GET' ? arrives : (this.fates.shift() ?? arrives);
    await sleep(fate.there);
    const problem = (status: number, title: string) => new Response(JSON.stringify({ title }), { status });
    if (this.isDown || fate.what === 'is lost') throw new TypeError('failed to fetch');
    if (fate.what === 'fails') return problem(500, 'Something failed on the server.');
    if (fate.what === 'is refused') return problem(400, 'The treatment is not valid.');
    if (fate.what === 'is too large') return problem(413, 'The request is too large.');
    const [status, value] = this.answer(method, url, body ? JSON.parse(body) : {});
    const text = status === 204 ? null : JSON.stringify(value);
    await sleep(fate.back);
    if (fate.what === 'answer is lost') throw new TypeError('failed to fetch');
    return new Response(fate.what === 'answer is cut' ? text?.slice(0, -5) : text, { status });
  };
}
