import type { QueryClient } from '@tanstack/react-query';
import { create } from 'zustand';
import type { Photograph } from '../../contract/photographs';
import { problemFrom } from '../app/api';

/** One file on its way in. */
export interface Incoming {
  id: number;
  name: string;
  /** 0..1 of the bytes sent; 1 while the server reads the picture. */
  sent: number;
  state: 'waiting' | 'sending' | 'done' | 'failed' | 'stopped';
  problem: string | null;
}

interface Imports {
  list: Incoming[];
  stop: () => void;
  clear: () => void;
}

let next = 1;
let running = false;
const queue: { id: number; file: File; seriesId: string; client: QueryClient }[] = [];
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
function send(id: number, file: File, seriesId: string): Promise<Photograph> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    requests.set(id, request);
    request.open('POST', `/api/series/${seriesId}/photographs`);
    request.responseType = 'json';
    request.upload.onprogress = e => change(id, { sent: e.lengthComputable ? e.loaded / e.total : 0 });
    request.onload = () =>
      request.status < 300
        ? resolve(request.response as Photograph)
        : reject(problemFrom(request.status, request.response));
    request.onerror = () => reject(new Error('The server does not answer.'));
    request.onabort = () => reject(new DOMException('stopped', 'AbortError'));
    request.onloadend = () => requests.delete(id);
    const form = new FormData();
    form.append('file', file, file.name);
    request.send(form);
  });
}

async function work(): Promise<void> {
  if (running) return;
  const job = queue.shift();
  if (!job) return;
  running = true;
  change(job.id, { state: 'sending' });
  try {
    await send(job.id, job.file, job.seriesId);
    change(job.id, { state: 'done', sent: 1 });
    void job.client.invalidateQueries();
  } catch (error) {
    if ((error as Error).name !== 'AbortError')
      change(job.id, { state: 'failed', problem: (error as Error).message });
  }
  running = false;
  void work();
}

/** Brings files into a series, one after the other so that they keep their order; a broken one is named and the others go on. */
export function bringIn(files: readonly File[], seriesId: string, client: QueryClient): void {
  const jobs = files.map(file => ({ id: next++, file, seriesId, client }));
  useImports.setState(s => ({
    list: [
      ...(s.list.some(f => f.state === 'waiting' || f.state === 'sending')
        ? s.list
        : s.list.filter(f => f.state === 'failed')),
      ...jobs.map(j => ({ id: j.id, name: j.file.name, sent: 0, state: 'waiting' as const, problem: null })),
    ],
  }));
  queue.push(...jobs);
  void work();
}
