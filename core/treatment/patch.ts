import fastJsonPatch, { type Operation } from 'fast-json-patch';
import { create } from 'jsondiffpatch';
import { format } from 'jsondiffpatch/formatters/jsonpatch';
import { MOST_OPERATIONS } from './treatment';

/** Changes of a treatment as JSON Patch (RFC 6902). */

export type { Operation };
export type Patch = readonly Operation[];

/** A patch that does not fit what it is laid on. */
export class PatchError extends Error {}

const differ = create({
  // Steps, masks and groups are the same by their ids; what has none (strokes, stops) by its place.
  objectHash: (item: object, index?: number) => (item as { id?: string } | null)?.id ?? `at ${index}`,
  arrays: { detectMove: false },
});

/** What turns one JSON value into another; equal parts that are one object are not looked into. */
export function patchBetween(before: unknown, after: unknown): Operation[] {
  const patch = format(differ.diff(before, after)) as Operation[];
  return patch.length > MOST_OPERATIONS ? [{ op: 'replace', path: '', value: after }] : patch;
}

/** The parts of a JSON pointer (RFC 6901). */
const partsOf = (pointer: string): string[] =>
  pointer
    .split('/')
    .slice(1)
    .map(part => part.replaceAll('~1', '/').replaceAll('~0', '~'));

const isContainer = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null;
const copyOf = (container: Record<string, unknown>) =>
  (Array.isArray(container) ? container.slice() : { ...container }) as Record<string, unknown>;

/**
 * A JSON value with a patch laid on: what the patch does not touch is the same object as before, and what it touches is copied
 * once, however many operations there are. Throws a PatchError where it does not fit.
 */
export function patched<T>(value: T, patch: Patch): T {
  /** What has been made here, and may be changed in place. */
  const own = new Set<unknown>();
  const unshared = (container: unknown) => {
    if (!isContainer(container) || own.has(container)) return container;
    const copy = copyOf(container);
    own.add(copy);
    return copy;
  };
  let root: unknown = value;
  /** Copies what an operation changes in place. */
  const unshare = (pointer: string) => {
    const way = partsOf(pointer).slice(0, -1);
    root = unshared(root);
    let at = root;
    for (const part of way) {
      if (!isContainer(at) || part === '__proto__' || !Object.hasOwn(at, part)) return;
      at[part] = unshared(at[part]);
      at = at[part];
    }
  };
  try {
    patch.forEach((operation, index) => {
      unshare(operation.path);
      if (operation.op === 'move') unshare(operation.from);
      root = fastJsonPatch.applyOperation(root, operation, true, true, true, index).newDocument;
    });
    return root as T;
  } catch (error) {
    throw new PatchError((error as Error).message.split('\n')[0]);
  }
}
