import { vi } from 'vitest';
import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';

/** A local storage with something in it: its entries are listed as a browser lists them. */
function localStore(kept: Record<string, string>) {
  return Object.create(
    {
      getItem: (key: string) => kept[key] ?? null,
      removeItem: (key: string) => delete kept[key],
    },
    Object.fromEntries(Object.keys(kept).map(key => [key, { value: kept[key], enumerable: true }])),
  ) as object;
}

/** What a module of the interface finds about it, in a test without a browser. */
export function stubWindow(fetch: unknown, kept: Record<string, string> = {}): void {
  const stored = new Map<string, string>();
  vi.stubGlobal('fetch', fetch);
  vi.stubGlobal('indexedDB', new IDBFactory());
  vi.stubGlobal('sessionStorage', {
    getItem: (key: string) => stored.get(key) ?? null,
    setItem: (key: string, value: string) => void stored.set(key, value),
  });
  vi.stubGlobal('localStorage', localStore(kept));
  vi.stubGlobal('navigator', {});
}

/** Lets what waits for the browser's store, or for nothing at all, go on. */
export async function breathe(): Promise<void> {
  for (let i = 0; i < 6; i++) await new Promise(done => setImmediate(done));
}
