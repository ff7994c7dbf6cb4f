import fastJsonPatch, { type Operation } from 'fast-json-patch';
import { produce } from 'immer';
import { create } from 'jsondiffpatch';
import { format } from 'jsondiffpatch/formatters/jsonpatch';

/** Changes of a treatment as JSON Patch (RFC 6902). */

export type { Operation };
export type Patch = readonly Operation[];

/** A patch that does not fit what it is laid on. */
export class PatchError extends Error {}

const differ = create({
  // Steps, masks and groups are the same by their ids; what has none (strokes, stops) by its place.
  objectHash: (item: object, index?: number) => (item as { id?: string }).id ?? `at ${index}`,
  arrays: { detectMove: false },
});

/** What turns one JSON value into another; equal parts that are one object are not looked into. */
export function patchBetween(before: unknown, after: unknown): Operation[] {
  return format(differ.diff(before, after)) as Operation[];
}

/**
 * A JSON value with a patch laid on: what the patch does not touch is the same object as before.
 * Throws a PatchError where it does not fit.
 */
export function patched<T>(value: T, patch: Patch): T {
  try {
    return produce(value, draft => {
      const { newDocument } = fastJsonPatch.applyPatch(draft, [...patch], true, true);
      // A patch of the root itself gives another document.
      if (newDocument !== draft) return newDocument;
    });
  } catch (error) {
    throw new PatchError((error as Error).message.split('\n')[0]);
  }
}
