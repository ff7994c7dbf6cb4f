import type { QueryClient } from '@tanstack/react-query';
import { create } from 'zustand';
import { ARCHIVE_TYPE, takeInArchive, type TakenIn } from '../../contract/archives';
import { bringInPhotograph, restorePhotograph, type Photograph } from '../../contract/photographs';
import { removeForGood } from '../../contract/put-aside';
import { addressOf } from '../../contract/route';
import { restoreSeries } from '../../contract/series';
import { ApiError, call, messageOf, problemFrom } from '../app/api';
import type { Refused } from './gathered';

/** One file on its way in. */
export interface Incoming {
  id: number;
  name: string;
  /** 0..1 of the bytes sent; 1 while the server reads the picture. */
  sent: number;
  state: 'waiting' | 'sending' | 'done' | 'failed' | 'stopped';
  problem: string | null;
  /** What is to be known of one that was brought in: that it is damaged, or only a part of its file. */
  remark: string | null;
  /** What can be done about a problem: what it is called, and how. */
  offers: Offer[];
}

export interface Offer {
  text: string;
  take: () => void;
  /** It asks for the same once more: that can be done for all at once. */
  again?: true;
}

interface Imports {
  list: Incoming[];
  /** The server does not answer: what is left waits for it. */
  away: boolean;
  stop: () => void;
  /** Asks once more for all for which that may help. */
  tryAll: () => void;
  clear: () => void;
}

let next = 1;
let running = false;
interface Job {
  id: number;
  file: File;
  /** The series that a picture comes into; null for an archive, which brings its own. */
  seriesId: string | null;
  client: QueryClient;
  /** It is wanted though the series has it. */
  again?: boolean;
  /** How often it has been cut off. */
  cut?: number;
}

/** A file that is cut off so often is what cuts it off. */
const MOST_CUT = 3;
/** How often it is looked whether the server is back, and for how long that is waited for, in milliseconds. */
const LOOK_MS = 2000;
const AWAY_MS = 15 * 60_000;
const queue: Job[] = [];
const requests = new Map<number, XMLHttpRequest>();

export const useImports = create<Imports>((set, get) => ({
  list: [],
  away: false,
  stop: () => {
    queue.length = 0;
    for (const request of requests.values()) request.abort();
    set({
      list: get().list.map(f =>
        f.state === 'waiting' || f.state === 'sending' ? { ...f, state: 'stopped' } : f,
      ),
    });
  },
  tryAll: () => {
    for (const { offers } of get().list) offers.find(offer => offer.again)?.take();
  },
  clear: () => set({ list: get().list.filter(f => f.state === 'waiting' || f.state === 'sending') }),
}));

const change = (id: number, part: Partial<Incoming>) =>
  useImports.setState(s => ({ list: s.list.map(f => (f.id === id ? { ...f, ...part } : f)) }));

/** The request was not answered. */
class Unanswered extends Error {}

/** Sends one file; fetch cannot tell how much has been sent, so this is the older way. */
function send<A>({ id, file }: Job, address: string, body: FormData | File): Promise<A> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    requests.set(id, request);
    request.open('POST', address);
    if (body === file) request.setRequestHeader('Content-Type', ARCHIVE_TYPE);
    request.responseType = 'json';
    request.upload.onprogress = e => change(id, { sent: e.lengthComputable ? e.loaded / e.total : 0 });
    request.onload = () =>
      request.status < 300
        ? resolve(request.response as A)
        : reject(problemFrom(request.status, request.response));
    request.onerror = () => reject(new Unanswered('The server does not answer.'));
    request.onabort = () => reject(new DOMException('stopped', 'AbortError'));
    request.onloadend = () => requests.delete(id);
    request.send(body);
  });
}

/** Sends a picture; what is to be known of it. */
async function sendPicture(job: Job, seriesId: string): Promise<string | null> {
  const query = job.again ? { again: '1' } : {};
  const form = new FormData();
  form.append('file', job.file, job.file.name);
  const address = addressOf(bringInPhotograph, { params: { id: seriesId }, query });
  const { damage, part } = await send<Photograph>(job, address, form);
  return (
    [damage && `It is damaged: ${damage}.`, part && `This is ${part}.`].filter(Boolean).join(' ') || null
  );
}

/** Sends a backup or a package; what came with it. */
async function sendArchive(job: Job): Promise<string> {
  const { series } = await send<TakenIn>(job, addressOf(takeInArchive), job.file);
  return `On the shelf: ${series.map(s => s.title).join(', ') || 'no series'}.`;
}

/** Asks for a file once more, in its own place of the list. */
function again(job: Job): void {
  change(job.id, { state: 'waiting', sent: 0, problem: null, offers: [] });
  queue.push(job);
  void work();
}

const tryAgain = (job: Job): Offer => ({
  text: 'Try again',
  again: true,
  take: () => again({ ...job, cut: 0 }),
});

/** Does something that makes a problem go away. */
function mending(job: Job, text: string, mend: () => Promise<void>): Offer {
  const take = async () => {
    change(job.id, { offers: [] });
    try {
      await mend();
      void job.client.invalidateQueries();
    } catch (failure) {
      change(job.id, { problem: messageOf(failure), offers: [tryAgain(job)] });
    }
  };
  return { text, take: () => void take() };
}

const isDone = (job: Job, remark: string | null = null) =>
  change(job.id, { state: 'done', sent: 1, problem: null, remark, offers: [] });

/** What can be done about a file that was not brought in. */
function offersFor(job: Job, error: unknown): Offer[] {
  if (!(error instanceof ApiError)) return [tryAgain(job)];
  const aside = error.body.aside as { id: string; title: string }[] | undefined;
  if (aside) {
    const isOne = aside.length === 1;
    return [
      mending(job, isOne ? 'Restore it' : 'Restore them', async () => {
        for (const { id } of aside) await call(restoreSeries, { params: { id } });
        isDone(job, `Restored: ${aside.map(s => s.title).join(', ')}. The backup was not imported.`);
      }),
      mending(job, 'Delete for good and import the backup', async () => {
        for (const { id } of aside) await call(removeForGood, { params: { kind: 'series', id } });
        again(job);
      }),
    ];
  }
  const existing = error.body.existing as { id: string; isAside: boolean } | undefined;
  if (existing?.isAside) {
    return [
      mending(job, 'Bring it back', async () => {
        await call(restorePhotograph, { params: { id: existing.id } });
        isDone(job);
      }),
    ];
  }
  if (existing) return [{ text: 'Bring it in again', take: () => again({ ...job, again: true }) }];
  // What the server had no room or no time for may go another time.
  return error.status >= 500 || error.status === 0 ? [tryAgain(job)] : [];
}

/** Whether the server was not there, and not whether it refused. */
const isGap = (error: unknown) =>
  error instanceof Unanswered || (error instanceof ApiError && [502, 503, 504].includes(error.status));

const isBack = () =>
  fetch('/api/health').then(
    ({ ok }) => ok,
    () => false,
  );

/** Waits until the server is back, or too long, or all is stopped; whether it is. */
async function waitForServer(): Promise<boolean> {
  useImports.setState({ away: true });
  const until = Date.now() + AWAY_MS;
  let back = false;
  while (queue.length && Date.now() < until && !back) {
    await new Promise(done => setTimeout(done, LOOK_MS));
    back = await isBack();
  }
  useImports.setState({ away: false });
  return back;
}

/** What was not brought in is told of, with what can be done. */
function fail(job: Job, error: unknown): void {
  change(job.id, { state: 'failed', problem: messageOf(error), offers: offersFor(job, error) });
}

async function work(): Promise<void> {
  if (running) return;
  const job = queue.shift();
  if (!job) return;
  running = true;
  change(job.id, { state: 'sending' });
  try {
    const remark = job.seriesId === null ? await sendArchive(job) : await sendPicture(job, job.seriesId);
    isDone(job, remark);
    void job.client.invalidateQueries();
  } catch (error) {
    if (isGap(error) && (job.cut ?? 0) < MOST_CUT) {
      // A gap is waited out: in its place it goes on.
      change(job.id, { state: 'waiting', sent: 0 });
      queue.unshift({ ...job, cut: (job.cut ?? 0) + 1 });
      if (!(await waitForServer())) for (const left of queue.splice(0)) fail(left, error);
    } else if ((error as Error).name !== 'AbortError') fail(job, error);
  }
  running = false;
  void work();
}

/** Tells of files that are not brought in, among those that are. */
export function refuse(refused: readonly Refused[]): void {
  if (!refused.length) return;
  useImports.setState(s => ({
    list: [
      ...s.list,
      ...refused.map(({ name, why }) => ({
        id: next++,
        name,
        sent: 0,
        state: 'failed' as const,
        problem: why,
        remark: null,
        offers: [],
      })),
    ],
  }));
}

/** Takes in backups and packages, which bring their own series. */
export const takeInArchives = (files: readonly File[], client: QueryClient): void =>
  start(files, null, client);

/** Brings files into a series, one after the other so that they keep their order; a broken one is named and the others go on. */
export const bringIn = (files: readonly File[], seriesId: string, client: QueryClient): void =>
  start(files, seriesId, client);

function start(files: readonly File[], seriesId: string | null, client: QueryClient): void {
  const jobs = files.map(file => ({ id: next++, file, seriesId, client }));
  useImports.setState(s => ({
    list: [
      ...(s.list.some(f => f.state === 'waiting' || f.state === 'sending')
        ? s.list
        : s.list.filter(f => f.state === 'failed')),
      ...jobs.map(j => ({
        id: j.id,
        name: j.file.name,
        sent: 0,
        state: 'waiting' as const,
        problem: null,
        remark: null,
        offers: [],
      })),
    ],
  }));
  queue.push(...jobs);
  void work();
}
