import { hold, isAtHand } from '../../core/formats/carried';
import { carriedBy } from '../../core/treatment/carried-by';
import type { Treatment } from '../../core/treatment/treatment';

/** What treatments carry, in a worker: given by the page, or fetched from the server. */

const fetching = new Map<string, Promise<void>>();

async function fetchBytes(sha256: string): Promise<void> {
  const response = await fetch(`/api/carried/${sha256}`);
  if (!response.ok) {
    throw new Error(`A table or an area that this take carries could not be loaded (${response.status}).`);
  }
  hold(sha256, new Uint8Array(await response.arrayBuffer()));
}

/** Has all that a treatment carries at hand; each is fetched once. */
export async function atHand(treatment: Treatment): Promise<void> {
  for (const { reference } of carriedBy(treatment)) {
    const { sha256 } = reference;
    if (isAtHand(sha256)) continue;
    let fetched = fetching.get(sha256);
    if (!fetched) {
      fetched = fetchBytes(sha256).finally(() => fetching.delete(sha256));
      fetching.set(sha256, fetched);
    }
    await fetched;
  }
}
