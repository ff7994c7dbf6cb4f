import { Abandoned } from '../../core/engine/abandoned';
import type { Plan } from '../../core/engine/plan';
import type { Surveys } from '../../core/engine/run';
import type { Surveyor } from '../../core/engine/survey';
import { sizeAt } from '../../core/frame/geometry';
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
  // Where the page has no locks, since it was not loaded safely, each finds for itself.
  if (!navigator.locks || plan.sought.every(memory.knows)) return run();
  return navigator.locks.request(`finding in ${picture.id}`, async () => {
    await letIn();
    return run();
  });
}
