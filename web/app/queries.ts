import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { getHealth } from '../../contract/health';
import * as batches from '../../contract/batches';
import { getEvenness } from '../../contract/evenness';
import * as looks from '../../contract/looks';
import * as photographs from '../../contract/photographs';
import * as pigments from '../../contract/pigments';
import * as putAside from '../../contract/put-aside';
import * as sharedLooks from '../../contract/shared-looks';
import type { getAreaFiles } from '../../contract/area-files';
import type { getTreatmentFiles } from '../../contract/treatment-files';
import { getTableExactness, getTakeTable, type tableSizes } from '../../contract/look-tables';
import * as sendOuts from '../../contract/send-outs';
import { makeSheet, makeStripSheet, type SheetSettings } from '../../contract/sheets';
import * as series from '../../contract/series';
import * as tables from '../../contract/tables';
import * as takes from '../../contract/takes';
import type { NamedPigment } from '../../core/colour/pigments';
import { isAtWork } from '../../core/treatment/alternatives';
import type { Look } from '../../core/treatment/looks';
import type { Given } from '../../contract/route';
import { ApiError, call, callForFile } from './api';
import { FreshQueryClient } from './fresh-client';
import { tell } from './notices';

export function createQueryClient(): FreshQueryClient {
  return new FreshQueryClient({
    defaultOptions: {
      queries: {
        staleTime: 2000,
        retry: (count, error) =>
          count < 3 && !(error instanceof ApiError && error.status >= 400 && error.status < 500),
      },
      mutations: { onError: error => tell({ text: error.message, tone: 'problem' }) },
    },
  });
}

type TableSize = (typeof tableSizes)[number];

export const keys = {
  shelf: ['series'] as const,
  series: (id: string) => ['series', id] as const,
  photograph: (id: string) => ['photograph', id] as const,
  take: (id: string) => ['take', id] as const,
  tables: ['tables'] as const,
  pigments: ['pigments'] as const,
  looks: ['looks'] as const,
  sharedLooks: (seriesId: string) => ['looks', seriesId] as const,
  batch: (id: string) => ['batch', id] as const,
  evenness: (seriesId: string) => ['evenness', seriesId] as const,
  palette: (seriesId: string) => ['palette', seriesId] as const,
  formats: ['formats'] as const,
  sendOuts: (seriesId: string) => ['send-outs', seriesId] as const,
  credits: ['credits'] as const,
  sendOutSettings: ['send-out-settings'] as const,
};

/** The shelf, asked for each time it is come to: what it counts is so. */
export const useShelf = () =>
  useQuery({ queryKey: keys.shelf, queryFn: () => call(series.listSeries, {}), gcTime: 0 });

export const useSeries = (id: string | undefined) =>
  useQuery({
    queryKey: keys.series(id ?? ''),
    queryFn: () => call(series.getSeries, { params: { id: id! } }),
    enabled: id !== undefined,
  });

export const photographQuery = (id: string) => ({
  queryKey: keys.photograph(id),
  queryFn: () => call(photographs.getPhotograph, { params: { id } }),
});

export const usePhotograph = (id: string) => useQuery(photographQuery(id));

export const useTables = () =>
  useQuery({ queryKey: keys.tables, queryFn: () => call(tables.listTables, {}) });

export const usePigments = () =>
  useQuery({ queryKey: keys.pigments, queryFn: () => call(pigments.listPigments, {}) });

export const useLooks = () => useQuery({ queryKey: keys.looks, queryFn: () => call(looks.listLooks, {}) });

/** The looks that a series shares. */
export const useSharedLooks = (seriesId: string) =>
  useQuery({
    queryKey: keys.sharedLooks(seriesId),
    queryFn: () => call(sharedLooks.listSharedLooks, { params: { id: seriesId } }),
  });

/** What is measured of a series' photographs, asked for until all are. */
export const useEvenness = (seriesId: string) =>
  useQuery({
    queryKey: keys.evenness(seriesId),
    queryFn: () => call(getEvenness, { params: { id: seriesId } }),
    refetchInterval: query => (query.state.data?.waiting ? 400 : false),
  });

/** What the washes of a series use; asked for each time that it is come to. */
export const usePalette = (seriesId: string | null) =>
  useQuery({
    queryKey: keys.palette(seriesId ?? ''),
    queryFn: () => call(series.getPalette, { params: { id: seriesId! } }),
    enabled: seriesId !== null,
  });

/** The formats that files go out in: they are those of the server as long as it runs. */
export const useFormats = () =>
  useQuery({ queryKey: keys.formats, queryFn: () => call(sendOuts.listFormats, {}), staleTime: Infinity });

const underway = (list: sendOuts.SendOut[] | undefined) =>
  list?.some(s => s.state === 'waiting' || s.state === 'running');

export const useSendOuts = (seriesId: string) =>
  useQuery({
    queryKey: keys.sendOuts(seriesId),
    queryFn: () => call(sendOuts.listSendOuts, { query: { series: seriesId } }),
    refetchInterval: query => (underway(query.state.data) ? 300 : false),
  });

/** A change on the server after which everything shown is asked for again. */
function useChange<Input, Output>(run: (input: Input) => Promise<Output>) {
  const client = useQueryClient();
  return useMutation({ mutationFn: run, onSettled: () => client.invalidateQueries() });
}

export const useCreateSeries = () =>
  useChange((title: string) => call(series.createSeries, { body: { title } }));

export const useChangeSeries = () =>
  useChange(({ id, ...change }: { id: string; title?: string; caption?: string; coverId?: string | null }) =>
    call(series.changeSeries, { params: { id }, body: change }),
  );

export function useOrderSeries(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (order: string[]) =>
      call(series.orderSeries, { params: { id }, body: { photographs: order } }),
    onMutate: async order => {
      await client.cancelQueries({ queryKey: keys.series(id) });
      client.setQueryData<series.Series>(keys.series(id), old => {
        if (!old) return old;
        const byId = new Map(old.photographs.map(p => [p.id, p]));
        return { ...old, photographs: order.map(p => byId.get(p)).filter(p => p !== undefined) };
      });
    },
    onSettled: () => client.invalidateQueries({ queryKey: keys.series(id) }),
  });
}

export function useChangePhotograph() {
  const client = useQueryClient();
  return useChange(
    async ({ id, ...change }: { id: string; title?: string; currentTakeId?: string; takes?: string[] }) => {
      const changed = await call(photographs.changePhotograph, { params: { id }, body: change });
      client.setQueryData(keys.photograph(id), changed);
    },
  );
}

/** The photograph stands at the new take from then on, also where it is looked at before that has been asked for again. */
export function useCreateTake(photographId: string) {
  const client = useQueryClient();
  return useChange(async (from: { from?: string; treatment?: unknown; name?: string }) => {
    const made = await call(takes.createTake, { params: { id: photographId }, body: from });
    const { id, letter, name, revision, treatment } = made;
    const steps = treatment.steps.filter(isAtWork).map(({ kind }) => kind);
    const summary = { id, letter, name, revision, steps, frame: treatment.frame };
    client.setQueryData<photographs.Photograph>(
      keys.photograph(photographId),
      old => old && { ...old, currentTakeId: id, takes: [...old.takes.filter(t => t.id !== id), summary] },
    );
    return made;
  });
}

export const useRemoveTake = () => {
  const restore = useChange((id: string) => call(takes.restoreTake, { params: { id } }));
  return useChange(
    async ({ id, letter, putAside }: { id: string; letter: string; putAside: () => Promise<void> }) => {
      await putAside();
      tell({ text: `Take ${letter} put aside.`, undo: () => restore.mutate(id) });
    },
  );
};

export const useKeepTable = () =>
  useChange((table: { name: string; sha256: string }) => call(tables.keepTable, { body: table }));

export const useChangeTable = () =>
  useChange(({ id, ...change }: { id: string; name?: string; group?: string }) =>
    call(tables.changeTable, { params: { id }, body: change }),
  );

export const useRemoveTable = () => {
  const restore = useChange((id: string) => call(tables.restoreTable, { params: { id } }));
  return useChange(async ({ id, name }: { id: string; name: string }) => {
    await call(tables.removeTable, { params: { id } });
    tell({ text: `${name} is no longer kept.`, undo: () => restore.mutate(id) });
  });
};

export const useKeepPigments = () =>
  useChange((kept: readonly NamedPigment[]) =>
    call(pigments.keepPigments, {
      body: { pigments: kept.map(({ name, pigment, depth }) => ({ name, pigment, depth })) },
    }),
  );

export const useRenamePigment = () =>
  useChange(({ id, name }: { id: string; name: string }) =>
    call(pigments.renamePigment, { params: { id }, body: { name } }),
  );

export const useRemovePigment = () => {
  const restore = useChange((id: string) => call(pigments.restorePigment, { params: { id } }));
  return useChange(async ({ id, name }: { id: string; name: string }) => {
    await call(pigments.removePigment, { params: { id } });
    tell({ text: `${name} is out of the box.`, undo: () => restore.mutate(id) });
  });
};

export const useSend = () =>
  useChange((request: { series: string; takes: string[]; settings: sendOuts.SendOutSettings }) =>
    call(sendOuts.sendTakes, { body: request }),
  );

export const useSendOutAction = () =>
  useChange(async ({ id, action }: { id: string; action: 'retry' | 'stop' | 'clear' }) => {
    const params = { id };
    if (action === 'clear') await call(sendOuts.clearSendOut, { params });
    else await call(action === 'retry' ? sendOuts.retrySendOut : sendOuts.stopSendOut, { params });
  });

/** What is done to all that goes out of a series. */
export const useSendOutsAction = (seriesId: string) =>
  useChange(async (action: 'pause' | 'resume' | 'clear') => {
    const params = { id: seriesId };
    if (action === 'clear') await call(sendOuts.clearSendOuts, { params });
    else await call(action === 'pause' ? sendOuts.pauseSendOuts : sendOuts.resumeSendOuts, { params });
  });

export const useCredits = () =>
  useQuery({ queryKey: keys.credits, queryFn: () => call(sendOuts.getCredits, {}) });

export const useSetCredits = () =>
  useChange((credits: sendOuts.Credits) => call(sendOuts.setCredits, { body: credits }));

export const useKeptSettings = () =>
  useQuery({ queryKey: keys.sendOutSettings, queryFn: () => call(sendOuts.listKeptSettings, {}) });

export const useKeepSettings = () =>
  useChange((kept: { name: string; settings: sendOuts.SendOutSettings }) =>
    call(sendOuts.keepSettings, { body: kept }),
  );

export const useForgetSettings = () =>
  useChange((id: string) => call(sendOuts.removeKeptSettings, { params: { id } }));

/** What a take loses as a colour table, and how exact the rest is. */
export const useTableExactness = (takeId: string, size: TableSize) =>
  useQuery({
    queryKey: ['table-exactness', takeId, size],
    queryFn: () => call(getTableExactness, { params: { id: takeId }, query: { size } }),
    gcTime: 0,
  });

export const useSaveTable = () =>
  useMutation({
    mutationFn: ({ id, size }: { id: string; size: TableSize }) =>
      callForFile(getTakeTable, { params: { id }, query: { size } }),
  });

/** What takes of a series are written as, beside pictures: one file, or a zip of several. */
export const useTakesAsFiles = (seriesId: string, route: typeof getTreatmentFiles | typeof getAreaFiles) =>
  useMutation({
    mutationFn: (takes: readonly string[]) =>
      callForFile(route, { params: { id: seriesId }, body: { takes: [...takes] } }),
  });

/** A sheet to print. */
export const useMakeSheet = (seriesId: string) =>
  useMutation({
    mutationFn: (body: { takes: string[]; settings: SheetSettings }) =>
      callForFile(makeSheet, { params: { id: seriesId }, body }),
  });

/** A test strip of a take, on paper. */
export const useStripSheet = (takeId: string) =>
  useMutation({
    mutationFn: (body: {
      step: string;
      pictures: { name: string; value: number | string }[][];
      settings: Omit<SheetSettings, 'kind'>;
    }) => callForFile(makeStripSheet, { params: { id: takeId }, body }),
  });

/** How the server is, as far as it does not change while it runs. */
export const healthQuery = queryOptions({
  queryKey: ['health'],
  queryFn: () => call(getHealth, {}),
  staleTime: Infinity,
});

/** A change of many photographs, followed while it runs; what it has changed is asked for again as it comes. */
export function useBatch(id: string) {
  const client = useQueryClient();
  return useQuery({
    queryKey: keys.batch(id),
    queryFn: async () => {
      const batch = await call(batches.getBatch, { params: { id } });
      const others = {
        predicate: ({ queryKey }: { queryKey: readonly unknown[] }) => queryKey[0] !== 'batch',
      };
      const isNew = batch.state !== 'running' && seen.get(id) !== batch.state;
      // A long series is not asked for again with every look at how far it is.
      if (isNew || Date.now() - lastFollowed > FOLLOWED_MS) {
        lastFollowed = Date.now();
        void client.invalidateQueries(others);
      }
      seen.set(id, batch.state);
      return batch;
    },
    refetchInterval: query => (query.state.data?.state === 'running' ? 400 : false),
  });
}
/** How changes were when they were last looked at. */
const seen = new Map<string, batches.Batch['state']>();
/** While one runs, what it has changed is asked for again so often. */
const FOLLOWED_MS = 1500;
let lastFollowed = 0;

export const useBeginBatch = () =>
  useChange(
    ({
      seriesId,
      ...body
    }: {
      seriesId: string;
      label: string;
      photographs: string[];
      into: 'current' | 'new';
      work: BatchWorkAsked;
      treatment?: unknown;
    }) => call(batches.beginBatch, { params: { id: seriesId }, body }),
  );
type BatchWorkAsked = NonNullable<Given<typeof batches.beginBatch.body>>['work'];

export const useStopBatch = () => useChange((id: string) => call(batches.stopBatch, { params: { id } }));

/** Keeps looks, one after another. */
export const useKeepLooks = () =>
  useChange(async (kept: readonly Look[]) => {
    for (const body of kept) await call(looks.keepLook, { body: { ...body } });
  });

export const useChangeLook = () =>
  useChange(({ id, ...change }: { id: string; name?: string; group?: string }) =>
    call(looks.changeLook, { params: { id }, body: change }),
  );

export const useRemoveLook = () => {
  const restore = useChange((id: string) => call(looks.restoreLook, { params: { id } }));
  return useChange(async ({ id, name }: { id: string; name: string }) => {
    await call(looks.removeLook, { params: { id } });
    tell({ text: `${name} is put aside.`, undo: () => restore.mutate(id) });
  });
};

export const putAsideQuery = queryOptions({
  queryKey: ['put-aside'],
  queryFn: () => call(putAside.listPutAside, {}),
});

/** Brings something back, by what it is. */
const restoring: Record<putAside.AsideKind, (params: { id: string }) => Promise<unknown>> = {
  series: params => call(series.restoreSeries, { params }),
  photograph: params => call(photographs.restorePhotograph, { params }),
  take: params => call(takes.restoreTake, { params }),
  table: params => call(tables.restoreTable, { params }),
  pigment: params => call(pigments.restorePigment, { params }),
  look: params => call(looks.restoreLook, { params }),
};

export const useBringBack = () =>
  useChange(async ({ kind, id, name }: putAside.PutAside) => {
    await restoring[kind]({ id });
    tell({ text: `${name} is back.` });
  });

export const useRemoveForGood = () =>
  useChange(async (list: putAside.PutAside[]) => {
    for (const { kind, id } of list) await call(putAside.removeForGood, { params: { kind, id } });
  });
