import { Photograph } from '../data/models';
import { cameraNotes } from '../pictures/camera-notes';
import type { Services } from '../services';

/** Reads when photographs were taken that came in before that was read, one after another. */
export async function readWhenTaken({ original, log, closing }: Services): Promise<void> {
  while (!closing.aborted) {
    const photograph = await Photograph.findOne({ where: { takenRead: false }, order: ['createdAt', 'id'] });
    if (!photograph) return;
    const { sha256 } = photograph;
    const notes = await original(sha256).then(cameraNotes, (error: Error) => {
      log.warn({ err: error, photograph: photograph.id }, 'not read when it was taken');
      return {};
    });
    await Photograph.update({ ...notes, takenRead: true }, { where: { sha256 } });
  }
}
