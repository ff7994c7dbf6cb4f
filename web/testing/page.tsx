import '@fontsource-variable/instrument-sans';
import { afterEach, vi } from 'vitest';
import { cleanup } from 'vitest-browser-react';

/** The page that components are tried on: nothing of one test is left to the next. */
afterEach(async () => {
  await cleanup();
  vi.unstubAllGlobals();
});
