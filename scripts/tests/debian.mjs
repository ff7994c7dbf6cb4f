import { ensurePostgres } from '../cluster/binaries.mjs';
import { ensurePerl, ensureReaders } from '../ensure.mjs';
import { ensureChromium } from '../temporary.mjs';
import { PlainError } from '../plain-error.mjs';

/** What the tests need of Debian, installed while npm fetches the packages. */
try {
  for (const ensure of [ensurePostgres, ensureChromium, ensurePerl, ensureReaders]) ensure();
} catch (error) {
  if (!(error instanceof PlainError)) throw error;
  console.error(error.message);
  process.exitCode = 1;
}
