import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { LRUCache } from 'lru-cache';
import type { Reference } from '../settings/fields';
import { CubeError, readCube, type CubeTable } from './cube';
import { readGreyPng, type GreyPicture } from './grey-png';

/**
 * What treatments carry along and refer to by its SHA-256: the text of a .cube file, a grey PNG. A treatment says the
 * hash alone; the bytes lie here, in the memory of whoever computes, and are read when they are first needed.
 */

export const carriedKinds = ['table', 'picture'] as const;
export type CarriedKind = (typeof carriedKinds)[number];

/** The most bytes that may be carried as one; a grey PNG of 100 megapixels and 16 bits hardly has more. */
export const MOST_CARRIED_BYTES = 192 * 1024 * 1024;

/** Something that a treatment refers to and that is not at hand here. */
export class NotAtHand extends Error {
  constructor(readonly sha256: string) {
    super(`what the treatment carries is not at hand: ${sha256}`);
    this.name = 'NotAtHand';
  }
}

/** Bytes that cannot be carried, and why. */
export class CarriedError extends Error {}

/** Bytes held for all treatments, and what has been read of them. */
const ROOM = 1024 * 1024 * 1024;
const READ_ROOM = 512 * 1024 * 1024;
const held = new LRUCache<string, Uint8Array>({ maxSize: ROOM, sizeCalculation: bytes => bytes.length || 1 });
const read = new LRUCache<string, CubeTable | GreyPicture>({
  maxSize: READ_ROOM,
  sizeCalculation: found => found.values.byteLength || 1,
});

/** The name of bytes: their SHA-256, in hexadecimal. */
export const nameOfBytes = (bytes: Uint8Array): string => bytesToHex(sha256(bytes));

/** Holds bytes under their name, which the caller knows to be theirs. */
export function hold(name: string, bytes: Uint8Array): void {
  held.set(name, bytes);
}

/** Holds bytes; the reference that a treatment has for them. */
export function carry(bytes: Uint8Array): Reference {
  const name = nameOfBytes(bytes);
  hold(name, bytes);
  return { sha256: name };
}

export const isAtHand = (name: string): boolean => held.has(name);

/** The bytes of a reference. Throws NotAtHand. */
export function bytesOf({ sha256: name }: Reference): Uint8Array {
  const bytes = held.get(name);
  if (!bytes) throw new NotAtHand(name);
  return bytes;
}

function readOnce<T extends CubeTable | GreyPicture>(
  what: CarriedKind,
  reference: Reference,
  make: (bytes: Uint8Array) => T,
): T {
  const key = `${what} ${reference.sha256}`;
  let found = read.get(key);
  if (!found) {
    found = make(bytesOf(reference));
    read.set(key, found);
  }
  return found as T;
}

/** The table that a reference names. Throws NotAtHand, or a CubeError. */
export const tableOf = (reference: Reference): CubeTable =>
  readOnce('table', reference, bytes => readCube(new TextDecoder().decode(bytes)));

/** The grey picture that a reference names. Throws NotAtHand, or an Error that says what is wrong. */
export const pictureOf = (reference: Reference): GreyPicture => readOnce('picture', reference, readGreyPng);

/** Reads bytes to the end for what they are to be carried as. Throws a CarriedError that says what is wrong. */
export function checkCarried(kind: CarriedKind, reference: Reference): void {
  try {
    if (kind === 'table') tableOf(reference);
    else pictureOf(reference);
  } catch (error) {
    if (error instanceof NotAtHand) throw error;
    if (error instanceof CubeError || error instanceof Error) throw new CarriedError(error.message);
    throw error;
  }
}
