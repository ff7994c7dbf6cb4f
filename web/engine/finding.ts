import { Abandoned } from '../../core/engine/abandoned';
import type { Plan } from '../../core/engine/plan';
import type { Surveys } from '../../core/engine/run';
import type { Surveyor } from '../../core/engine/survey';
import { sizeAt } from '../../core/frame/geometry';
import { MOST_FOUND } from '../../contract/limits';
import { foundOfBytes, nameOfFound } from '../../core/masks/finding/found-bytes';
import type { Sought } from '../../core/masks/finding/memory';
import { SIGHT_EDGE, sightOf, type Sight } from '../../core/masks/finding/sight';
import type { PictureInfo, TileSource } from './tiles';

/**
 * Photographs as areas are found in them. Workers tell one another of what they have found, and look for new things one at a time, so
 * that nothing is found twice.
 */

/** Photographs kept: the one that is worked on, and one beside it. */
const SIGHTS = 2;
const sights = new Map<string, Promise<Sight>>();

interface Told {
  photograph: string;
  sought: Sought;
  value: unknown;
}

let channel: BroadcastChannel | undefined;

/** Where workers tell what they have found: opened when something is first looked for. */
function telling(): BroadcastChannel {
  if (channel) return channel;
  channel = new BroadcastChannel('what is found');
  channel.onmessage = ({ data: { photograph, sought, value } }: MessageEvent<Told>) =>
    void sights.get(photograph)?.then(({ memory }) => memory.learn(sought, value));
  return channel;
}

/** A photograph as areas are found in it. */
export function sightFor({ id, width, height, grey }: PictureInfo, source: TileSource): Promise<Sight> {
  const told = telling();
  let sight = sights.get(id);
  if (!sight) {
    const size = sizeAt({ width, height }, SIGHT_EDGE);
    sight = source
      .rectangle({ id, width, height, grey }, SIGHT_EDGE, { x: 0, y: 0, ...size })
      .then(({ codes }) => {
        const made = sightOf(codes, size.width, size.height, grey);
        made.memory.onFound = (sought, value) =>
          told.postMessage({ photograph: id, sought, value } satisfies Told);
        return made;
      });
    sight.catch(() => sights.delete(id));
  }
  sights.delete(id);
  sights.set(id, sight);
  if (sights.size > SIGHTS) sights.delete(sights.keys().next().value!);
  return sight;
}

/** Those of which it has been asked what was found in them before. */
const recalled = new WeakSet<Sight>();

/** The bytes of what is not packed any more. */
const unpacked = async (packed: Uint8Array<ArrayBuffer>): Promise<Uint8Array> =>
  new Uint8Array(
    await new Response(
      new Blob([packed]).stream().pipeThrough(new DecompressionStream('gzip')),
    ).arrayBuffer(),
  );

/**
 * Asks the server, once for a photograph, what was found in it when it was worked on before. What it does not know, or does not say,
 * is found again.
 */
async function recall(id: string, sight: Sight, sought: readonly Sought[]): Promise<void> {
  if (recalled.has(sight)) return;
  recalled.add(sight);
  const { memory } = sight;
  const unknown = sought.filter(each => !memory.knows(each)).slice(0, MOST_FOUND);
  const names = unknown.map(nameOfFound);
  const response = await fetch(`/api/photographs/${id}/found`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ names }),
  });
  if (!response.ok) return;
  const bytes = new Uint8Array(await response.arrayBuffer());
  const lengths = new DataView(bytes.buffer);
  for (let at = 0, i = 0; i < names.length; i++) {
    const length = lengths.getUint32(at, true);
    at += 4;
    const value = length && foundOfBytes(unknown[i], await unpacked(bytes.subarray(at, at + length)), sight);
    at += length;
    if (!value) continue;
    memory.learn(unknown[i], value);
    telling().postMessage({ photograph: id, sought: unknown[i], value } satisfies Told);
  }
}

/** Lets what has been told meanwhile come in. */
const letIn = () => new Promise<void>(done => setTimeout(done));

/**
 * What the passes of a plan find in the whole picture, where masks of it are found in the photograph. Throws `Abandoned` where it is no
 * longer wanted.
 */
export async function lookFinding(
  look: Surveyor,
  plan: Plan,
  picture: PictureInfo,
  source: TileSource,
  isStale: () => boolean,
): Promise<Surveys> {
  const sight = await sightFor(picture, source);
  const { memory } = sight;
  const run = () => {
    memory.pause = () => {
      if (isStale()) throw new Abandoned();
    };
    return look(plan, sight);
  };
  if (plan.sought.every(memory.knows)) return run();
  const find = async () => {
    await letIn();
    await recall(picture.id, sight, plan.sought).catch(() => undefined);
    return run();
  };
  // Where the page has no locks, since it was not loaded safely, each finds for itself.
  return navigator.locks ? navigator.locks.request(`finding in ${picture.id}`, find) : find();
}
