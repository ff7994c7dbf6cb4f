import { vi } from 'vitest';
import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';

/** What a module of the interface finds about it, in a test without a browser. */
export function stubWindow(fetch: unknown): void {
  const stored = new Map<string, string>();
  vi.stubGlobal('fetch', fetch);
  vi.stubGlobal('indexedDB', new IDBFactory());
  vi.stubGlobal('sessionStorage', {
    getItem: (key: string) => stored.get(key) ?? null,
    setItem: (key: string, value: string) => void stored.set(key, value),
  });
  vi.stubGlobal('localStorage', {
    length: 0,
    key: () => null,
    getItem: () => null,
    removeItem: () => undefined,
  });
  vi.stubGlobal('navigator', {});
}

/** Lets what waits for the browser's store, or for nothing at all, go on. */
export async function breathe(): Promise<void> {
  for (let i = 0; i < 6; i++) await new Promise(done => setImmediate(done));
}
