import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { getBatch } from '../../contract/batches';
import { changeSharedLook, shareLook, type SeriesLook } from '../../contract/shared-looks';
import type { Look } from '../../core/treatment/looks';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { asShared, following } from '../../core/treatment/following';
import { asLook, withStepOf } from '../../core/treatment/look-making';
import { followingOnly, letGo, linked, withRevision } from '../../core/treatment/shared';
import { call } from '../app/api';
import { tell } from '../app/notices';
import { useSharedLooks } from '../app/queries';
import { countOf } from '../../words/words';
import { sendCarried } from '../engine/carried';
import type { Edits } from '../takes/edits';

export interface Underway {
  lookId: string;
  done: number;
  of: number;
}

/** What the looks of the series and a photograph that uses them have to do with one another. */
export interface Sharing {
  looks: readonly SeriesLook[];
  ids: readonly string[];
  /** The look that is being brought to what follows it, and how far that is; null where none is. */
  underway: Underway | null;
  /** The look that a step follows; undefined where it follows none of this series. */
  lookOf: (step: Step) => SeriesLook | undefined;
  /** The step as it is here, in its look: all that follow it get it. */
  changeForAll: (stepId: string) => void;
  /** The step as its look has it. */
  takeAsShared: (stepId: string) => void;
  /** Follows a look that has changed since. */
  follow: (look: SeriesLook) => void;
  letGo: (look: SeriesLook) => void;
  /** Without links to looks that this series does not share. */
  ofSeries: (treatment: Treatment) => Treatment;
  /** A look of the series made of steps of this photograph, which follow it from then on. */
  share: (name: string, stepIds: readonly string[]) => void;
  /** A look that the series gets from elsewhere. */
  bring: (look: Look) => void;
  /** A look as these steps are: what is new in it comes to all that follow it. */
  remake: (look: SeriesLook, stepIds: readonly string[]) => void;
}

/** Asked so often how far the others are. */
const AGAIN_MS = 400;

/** How many of the takes that follow a look have been changed, once all are through, and what went wrong. */
async function followed(
  batchId: string,
  onProgress: (done: number, of: number) => void,
): Promise<{ done: number; problem: string | null }> {
  for (;;) {
    const { state, items } = await call(getBatch, { params: { id: batchId } });
    if (state !== 'running') {
      return {
        done: items.filter(i => i.state === 'done').length,
        problem: items.find(i => i.state === 'failed')?.problem ?? null,
      };
    }
    onProgress(items.filter(i => i.state !== 'waiting').length, items.length);
    await new Promise(done => setTimeout(done, AGAIN_MS));
  }
}

/** Shared looks at the Bench: given to, followed, let go of, by a take that is worked on. */
export function useSharing(seriesId: string, takeId: string, edits: Edits): Sharing {
  const client = useQueryClient();
  const { data } = useSharedLooks(seriesId);
  const [underway, setUnderway] = useState<Underway | null>(null);
  // A take that has been left is not changed from here any more: it follows as all others do.
  const isHere = useRef(true);
  useEffect(() => {
    isHere.current = true;
    return () => {
      isHere.current = false;
    };
  }, [takeId]);
  return useMemo((): Sharing => {
    const looks = data ?? [];
    const find = (id: string | undefined) => looks.find(l => l.id === id);
    const stepOf = (id: string) => edits.now().steps.find(s => s.id === id);
    const attempt = (work: () => Promise<void>) =>
      void work()
        .catch((error: Error) => tell({ text: error.message, tone: 'problem' }))
        .then(() => client.invalidateQueries());

    /** Changes a look; the take at hand follows by `here`, the others by a job. */
    const change = async (
      look: SeriesLook,
      treatment: Treatment,
      here: (now: Treatment, next: SeriesLook) => Treatment,
    ): Promise<void> => {
      await sendCarried(treatment);
      const isOurs = isHere.current;
      const body = { revision: look.revision, treatment, ...(isOurs && { except: takeId }) };
      const { look: next, batchId } = await call(changeSharedLook, { params: { id: look.id }, body });
      const before = edits.now();
      if (isOurs) edits.commit(here(before, next), `${look.name} for all`);
      const after = edits.now();
      const onProgress = (done: number, of: number) =>
        isHere.current ? setUnderway({ lookId: look.id, done, of }) : undefined;
      const others =
        batchId === null
          ? { done: 0, problem: null }
          : await followed(batchId, onProgress).finally(() => setUnderway(null));
      const back = () =>
        change(next, look.treatment, (now, old) =>
          // Where nothing was done since, all is as it was, also what had been changed here.
          now === after ? withRevision(before, old) : following(now, old),
        );
      const who = others.done === 0 ? '' : ` ${countOf(others.done, 'other take')} followed.`;
      tell({
        text: `${look.name} is changed.${who}${others.problem ? ` One could not: ${others.problem}.` : ''}`,
        ...(others.problem && { tone: 'problem' }),
        undo: () => attempt(back),
      });
    };

    return {
      looks,
      underway,
      ids: looks.map(l => l.id),
      lookOf: step => find(step.look?.id),
      changeForAll: stepId =>
        attempt(async () => {
          const look = find(stepOf(stepId)?.look?.id);
          if (!look) return;
          const treatment = withStepOf(look, edits.now(), stepId);
          await change(look, treatment, (now, next) => asShared(now, stepId, next));
        }),
      takeAsShared: stepId => {
        const look = find(stepOf(stepId)?.look?.id);
        if (look) edits.commit(asShared(edits.now(), stepId, look), `As ${look.name} has it`);
      },
      follow: look => edits.commit(following(edits.now(), look), `Follow ${look.name}`),
      ofSeries: treatment =>
        data
          ? followingOnly(
              treatment,
              data.map(l => l.id),
            )
          : treatment,
      letGo: look => edits.commit(letGo(edits.now(), look.id), `Let go of ${look.name}`),
      share: (name, stepIds) =>
        attempt(async () => {
          const treatment = asLook(edits.now(), stepIds, null);
          await sendCarried(treatment);
          const look = await call(shareLook, { params: { id: seriesId }, body: { name, treatment } });
          edits.commit(linked(edits.now(), inOrder(edits.now(), stepIds), look), `Share ${name}`);
          tell({ text: `${name} is shared in this series. Lay it on others, and they follow it.` });
        }),
      bring: ({ name, group, treatment }) =>
        attempt(async () => {
          await sendCarried(treatment);
          await call(shareLook, { params: { id: seriesId }, body: { name, group, treatment } });
          tell({ text: `${name} is shared in this series. Lay it on photographs, and they follow it.` });
        }),
      remake: (look, stepIds) =>
        attempt(async () => {
          const treatment = asLook(edits.now(), stepIds, look.id);
          // What is no more of it here is the photograph's own.
          await change(look, treatment, (now, next) =>
            linked(letGo(now, look.id), inOrder(now, stepIds), next),
          );
        }),
    };
  }, [data, underway, seriesId, takeId, edits, client]);
}

/** Ids of steps in the order of the treatment, as a look made of them has them. */
const inOrder = ({ steps }: Treatment, ids: readonly string[]): string[] =>
  steps.map(s => s.id).filter(id => ids.includes(id));
