import { getCarried, putCarried } from '../../contract/carried';
import { addressOf } from '../../contract/route';
import { bytesOf, hold, isAtHand, MOST_CARRIED_BYTES, type CarriedKind } from '../../core/formats/carried';
import type { Reference } from '../../core/settings/fields';
import { carriedBy } from '../../core/treatment/carried-by';
import type { Treatment } from '../../core/treatment/treatment';
import { call } from '../app/api';
import { browserStore } from '../app/browser-store';
import { giveToEngines, letGo, smallPictures } from './client';

/**
 * What treatments carry, in this window: colour tables and pictures of areas. What comes in here lies in this browser
 * until the server has it; what the server has is fetched when it is needed.
 */

interface Unsent {
  kind: CarriedKind;
  bytes: Uint8Array;
}

const unsent = new Map<string, Unsent>();

async function hexHash(bytes: Uint8Array): Promise<string> {
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes as BufferSource));
  return Array.from(digest, byte => byte.toString(16).padStart(2, '0')).join('');
}

/**
 * Takes bytes in that a treatment is to refer to; the reference. Throws an Error that says what is wrong with them. They
 * are read by a worker.
 */
export async function takeIn(kind: CarriedKind, bytes: Uint8Array): Promise<Reference> {
  if (bytes.length > MOST_CARRIED_BYTES) {
    throw new Error(`is larger than ${MOST_CARRIED_BYTES / 1024 ** 2} MB`);
  }
  const sha256 = await hexHash(bytes);
  const { engine } = await smallPictures();
  const problem = await engine.check(kind, sha256, bytes);
  if (problem !== null) throw new Error(problem);
  hold(sha256, bytes);
  unsent.set(sha256, { kind, bytes });
  await giveToEngines(sha256, bytes);
  // A treatment that refers to it may be kept in this browser before the server has it.
  await browserStore()
    .then(store => store.put('unsent', { sha256, kind, bytes }))
    .catch(() => undefined);
  return { sha256 };
}

/** Takes up what an earlier window took in and did not send. */
export async function takeUpUnsent(): Promise<void> {
  const left = await browserStore()
    .then(store => store.getAll('unsent'))
    .catch(() => []);
  for (const { sha256, kind, bytes } of left) {
    if (unsent.has(sha256)) continue;
    hold(sha256, bytes);
    unsent.set(sha256, { kind, bytes });
    await giveToEngines(sha256, bytes);
  }
}

/** Sends what a treatment refers to and the server does not have. Throws an ApiError. */
export async function sendCarried(treatment: Treatment): Promise<void> {
  for (const { reference } of carriedBy(treatment)) await sendReference(reference);
}

/** Sends one thing that was taken in here, unless the server has it. */
export async function sendReference({ sha256 }: Reference): Promise<void> {
  const found = unsent.get(sha256);
  if (!found) return;
  await call(putCarried, { params: { kind: found.kind, sha256 } }, { bytes: found.bytes });
  unsent.delete(sha256);
  letGo(sha256);
  await browserStore()
    .then(store => store.delete('unsent', sha256))
    .catch(() => undefined);
}

/** The bytes of a reference, fetched where they are not at hand. */
async function fetchCarried(reference: Reference): Promise<Uint8Array> {
  if (!isAtHand(reference.sha256)) {
    const response = await fetch(addressOf(getCarried, { params: { sha256: reference.sha256 } }));
    if (!response.ok) throw new Error(`What the treatment carries could not be loaded (${response.status}).`);
    hold(reference.sha256, new Uint8Array(await response.arrayBuffer()));
  }
  return bytesOf(reference);
}

/** Has all that a treatment carries at hand in this window. */
export async function fetchAllCarried(treatment: Treatment): Promise<void> {
  for (const { reference } of carriedBy(treatment)) await fetchCarried(reference);
}
