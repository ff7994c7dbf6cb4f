import { Abandoned } from '../../../core/engine/abandoned';
import { takeUp } from './asked';
import { showDraft } from './draft';
import { showFine } from './fine';
import type { Done, Share, Shown, ShowRequest, StrokeRequest } from './messages';
import { screens } from './screens';
import { sendStroke } from './stroke';

/** The large picture on the Bench, rendered tile by tile for a surface on the page, which draws them. */

export { prepare, learn } from './planned';
export { attach } from './rendered';
export { detach } from './screens';
export { warm } from './warm';
export type * from './messages';

/** Says on the port when work is done: its answer may else be there before its last pieces. */
async function saying<T>(id: number, { work }: Share, run: () => Promise<T>): Promise<T> {
  try {
    return await run();
  } finally {
    screens.get(id)?.port.postMessage({ done: work } satisfies Done);
  }
}

/** Sends what is asked for; resolves when it is sent, to null where its view has gone or wants something else meanwhile. */
export const show = (id: number, request: ShowRequest, share: Share): Promise<Shown | null> =>
  saying(id, share, () => showTiles(id, request, share));

/**
 * Sends a stroke that is under way: of tiles that show what it is painted on, only what it has touched since.
 * Resolves when it is sent.
 */
export const showStroke = (id: number, request: StrokeRequest, share: Share): Promise<Shown | null> =>
  saying(id, share, () => sendStroke(id, request, share, showTiles));

async function showTiles(id: number, request: ShowRequest, share: Share): Promise<Shown | null> {
  try {
    const asked = await takeUp(id, request, share);
    if (!asked) return null;
    return request.draft ? await showDraft(asked) : await showFine(asked);
  } catch (error) {
    if (error instanceof Abandoned) return null;
    throw error;
  }
}
