import type { QueryClient } from '@tanstack/react-query';
import { create } from 'zustand';
import { ARCHIVE_TYPE, takeInArchive, type TakenIn } from '../../contract/archives';
import { bringInPhotograph, restorePhotograph, type Photograph } from '../../contract/photographs';
import { addressOf } from '../../contract/route';
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
  /** Something can be done about a problem: what it is called, and how. */
  offer: { text: string; take: () => void } | null;
}

interface Imports {
  list: Incoming[];
  stop: () => void;
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
}
const queue: Job[] = [];
const requests = new Map<number, XMLHttpRequest>();

export const useImports = create<Imports>((set, get) => ({
  list: [],
  stop: () => {
    queue.length = 0;
    for (const request of requests.values()) request.abort();
    set({
      list: get().list.map(f =>
        f.state === 'waiting' || f.state === 'sending' ? { ...f, state: 'stopped' } : f,
      ),
    });
  },
  clear: () => set({ list: get().list.filter(f => f.state === 'waiting' || f.state === 'sending') }),
}));

const change = (id: number, part: Partial<Incoming>) =>
  useImports.setState(s => ({ list: s.list.map(f => (f.id === id ? { ...f, ...part } : f)) }));

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
    request.onerror = () => reject(new Error('The server does not answer.'));
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
  change(job.id, { state: 'waiting', sent: 0, problem: null, offer: null });
  queue.push(job);
  void work();
}

/** What can be done about a file that was not brought in. */
function offerFor(job: Job, error: unknown): Incoming['offer'] {
  if (!(error instanceof ApiError)) return { text: 'Try again', take: () => again(job) };
  const existing = error.body.existing as { id: string; isAside: boolean } | undefined;
  if (existing?.isAside) {
    const take = async () => {
      try {
        await call(restorePhotograph, { params: { id: existing.id } });
        change(job.id, { state: 'done', sent: 1, problem: null, offer: null });
        void job.client.invalidateQueries();
      } catch (failure) {
        change(job.id, { problem: messageOf(failure) });
      }
    };
    return { text: 'Bring it back', take: () => void take() };
  }
  if (existing) return { text: 'Bring it in again', take: () => again({ ...job, again: true }) };
  // What the server had no room or no time for may go another time.
  return error.status >= 500 || error.status === 0 ? { text: 'Try again', take: () => again(job) } : null;
}

async function work(): Promise<void> {
  if (running) return;
  const job = queue.shift();
  if (!job) return;
  running = true;
  change(job.id, { state: 'sending' });
  try {
    const remark = job.seriesId === null ? await sendArchive(job) : await sendPicture(job, job.seriesId);
    change(job.id, { state: 'done', sent: 1, remark });
    void job.client.invalidateQueries();
  } catch (error) {
    if ((error as Error).name !== 'AbortError')
      change(job.id, { state: 'failed', problem: messageOf(error), offer: offerFor(job, error) });
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
        offer: null,
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
        offer: null,
      })),
    ],
  }));
  queue.push(...jobs);
  void work();
}
