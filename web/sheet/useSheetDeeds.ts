import { useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { redoBatch, undoBatch } from '../../contract/batches';
import { changePhotograph, type Photograph } from '../../contract/photographs';
import { bringBackMany, changeSeries, putAsideMany, type Series } from '../../contract/series';
import { createTake, removeTake, restoreTake } from '../../contract/takes';
import type { Treatment } from '../../core/treatment/treatment';
import { call, currentTake } from '../app/api';
import { toldOf, useDeeds, type Deed } from '../app/deeds';
import { tell } from '../app/notices';
import { keys, useOrderSeries } from '../app/queries';

type SeriesChange = Partial<Pick<Series, 'title' | 'caption' | 'coverId'>>;
type PhotographChange = Partial<Pick<Photograph, 'title' | 'caption'>>;

/** What is done on the Sheet of a series: all of it can be undone and done again. */
export interface SheetDeeds {
  order: (ids: string[]) => void;
  putAside: (photographs: readonly Photograph[]) => void;
  changeSeries: (change: SeriesChange, label: string) => void;
  changePhotograph: (photograph: Photograph, change: PhotographChange) => void;
  /** Gives a photograph another take, which it is shown by; the name of that deed. */
  newTake: (photograph: Photograph, treatment: Treatment, name: string) => string;
  /** A change of many that has been begun. */
  remember: (batchId: string, label: string) => void;
  undo: () => void;
  redo: () => void;
  undoOne: (id: string) => void;
}

const what = (photographs: readonly Photograph[]) =>
  photographs.length === 1 ? photographs[0].title : `${photographs.length} photographs`;

/** What `change` would have to be to change `of` back. */
const before = <T extends object, C extends Partial<T>>(of: T, change: C): C =>
  Object.fromEntries(Object.keys(change).map(key => [key, of[key as keyof T]])) as C;

export function useSheetDeeds(series: Series): SheetDeeds {
  const client = useQueryClient();
  const { mutateAsync: order } = useOrderSeries(series.id);
  return useMemo((): SheetDeeds => {
    const { id } = series;
    const params = { id };
    const deeds = useDeeds.getState();
    const told = toldOf(client);
    const perform = (deed: Omit<Deed, 'id'>): string => {
      const made = { id: crypto.randomUUID(), ...deed };
      void told(deeds.perform(id, made));
      return made.id;
    };
    const undoOne = (deed: string) => void told(deeds.undoOne(id, deed));
    return {
      order: ids => {
        const held = series.photographs.map(p => p.id);
        perform({ label: 'Order', redo: () => order(ids), undo: () => order(held) });
      },
      putAside: photographs => {
        const body = { photographs: photographs.map(p => p.id) };
        const deed = perform({
          label: `Put ${what(photographs)} aside`,
          redo: () => call(putAsideMany, { params, body }),
          undo: () => call(bringBackMany, { params, body }),
        });
        tell({ text: `${what(photographs)} put aside.`, undo: () => undoOne(deed) });
      },
      changeSeries: (change, label) => {
        const old = before(series, change);
        const put = (body: SeriesChange) => {
          client.setQueryData<Series>(keys.series(id), now => now && { ...now, ...body });
          return call(changeSeries, { params, body });
        };
        perform({ label, redo: () => put(change), undo: () => put(old) });
      },
      changePhotograph: (photograph, change) => {
        const old = before(photograph, change);
        const put = (body: PhotographChange) =>
          call(changePhotograph, { params: { id: photograph.id }, body });
        const label = change.title === undefined ? 'Caption' : 'Title';
        perform({ label: `${label} of ${photograph.title}`, redo: () => put(change), undo: () => put(old) });
      },
      newTake: (photograph, treatment, name) => {
        const of = { params: { id: photograph.id } };
        const was = currentTake(photograph).id;
        let made: string | null = null;
        return perform({
          label: `${name}: ${photograph.title}`,
          redo: async () => {
            // The take that was put aside comes back, and is no third one.
            if (made !== null) await call(restoreTake, { params: { id: made } });
            else made = (await call(createTake, { ...of, body: { treatment, name } })).id;
          },
          undo: async () => {
            await call(changePhotograph, { ...of, body: { currentTakeId: was } });
            await call(removeTake, { params: { id: made! } });
          },
        });
      },
      remember: (batchId, label) => {
        const of = { params: { id: batchId } };
        const thenFollowed = async <T>(asked: Promise<T>) => {
          try {
            return await asked;
          } finally {
            await client.invalidateQueries({ queryKey: keys.batch(batchId) });
          }
        };
        deeds.remember(id, {
          id: batchId,
          label,
          undo: () => thenFollowed(call(undoBatch, of)),
          redo: () => thenFollowed(call(redoBatch, of)),
        });
      },
      undo: () => void told(deeds.undo(id)),
      redo: () => void told(deeds.redo(id)),
      undoOne,
    };
  }, [client, order, series]);
}
