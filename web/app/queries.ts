import { QueryClient, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import {
  ApiError,
  ask,
  type KeptPigment,
  type Photograph,
  type SendOut,
  type SendOutSettings,
  type Series,
  type SeriesSummary,
  type TableSummary,
  type Take,
} from './api';
import type { NamedPigment } from '../../core/colour/pigments';
import { tell } from './notices';

export function createQueryClient(): QueryClient {
  return new QueryClient({
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

export const keys = {
  shelf: ['series'] as const,
  series: (id: string) => ['series', id] as const,
  photograph: (id: string) => ['photograph', id] as const,
  tables: ['tables'] as const,
  pigments: ['pigments'] as const,
  sendOuts: (seriesId: string) => ['send-outs', seriesId] as const,
};

export const useShelf = () =>
  useQuery({ queryKey: keys.shelf, queryFn: () => ask<SeriesSummary[]>('GET', '/api/series') });

export const useSeries = (id: string | undefined) =>
  useQuery({
    queryKey: keys.series(id ?? ''),
    queryFn: () => ask<Series>('GET', `/api/series/${id}`),
    enabled: id !== undefined,
  });

export const usePhotograph = (id: string) =>
  useQuery({
    queryKey: keys.photograph(id),
    queryFn: () => ask<Photograph>('GET', `/api/photographs/${id}`),
  });

export const useTables = () =>
  useQuery({ queryKey: keys.tables, queryFn: () => ask<TableSummary[]>('GET', '/api/tables') });

export const usePigments = () =>
  useQuery({ queryKey: keys.pigments, queryFn: () => ask<KeptPigment[]>('GET', '/api/pigments') });

const underway = (list: SendOut[] | undefined) =>
  list?.some(s => s.state === 'waiting' || s.state === 'running');

export const useSendOuts = (seriesId: string) =>
  useQuery({
    queryKey: keys.sendOuts(seriesId),
    queryFn: () => ask<SendOut[]>('GET', `/api/send-outs?series=${seriesId}`),
    refetchInterval: query => (underway(query.state.data) ? 300 : false),
  });

/** A change on the server after which everything shown is asked for again. */
function useChange<Input, Output>(run: (input: Input) => Promise<Output>) {
  const client = useQueryClient();
  return useMutation({ mutationFn: run, onSettled: () => client.invalidateQueries() });
}

export const useCreateSeries = () =>
  useChange((title: string) => ask<Series>('POST', '/api/series', { title }));

export const useChangeSeries = () =>
  useChange(({ id, ...change }: { id: string; title?: string; caption?: string; coverId?: string | null }) =>
    ask<Series>('PATCH', `/api/series/${id}`, change),
  );

export const useRemoveSeries = () => {
  const restore = useChange((id: string) => ask('POST', `/api/series/${id}/restore`));
  return useChange(async ({ id, title }: { id: string; title: string }) => {
    await ask('DELETE', `/api/series/${id}`);
    tell({ text: `${title} is off the shelf.`, undo: () => restore.mutate(id) });
  });
};

export function useOrderSeries(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (photographs: string[]) => ask<Series>('PUT', `/api/series/${id}/order`, { photographs }),
    onMutate: async order => {
      await client.cancelQueries({ queryKey: keys.series(id) });
      client.setQueryData<Series>(keys.series(id), old => {
        if (!old) return old;
        const byId = new Map(old.photographs.map(p => [p.id, p]));
        return { ...old, photographs: order.map(p => byId.get(p)).filter(p => p !== undefined) };
      });
    },
    onSettled: () => client.invalidateQueries({ queryKey: keys.series(id) }),
  });
}

export const useChangePhotograph = () =>
  useChange(({ id, ...change }: { id: string; title?: string; currentTakeId?: string }) =>
    ask<Photograph>('PATCH', `/api/photographs/${id}`, change),
  );

export const useRemovePhotographs = () => {
  const restore = useChange((ids: string[]) =>
    Promise.all(ids.map(id => ask('POST', `/api/photographs/${id}/restore`))),
  );
  return useChange(async (photographs: { id: string; title: string }[]) => {
    for (const { id } of photographs) await ask('DELETE', `/api/photographs/${id}`);
    const what = photographs.length === 1 ? photographs[0].title : `${photographs.length} photographs`;
    tell({
      text: `${what} taken out of the series.`,
      undo: () => restore.mutate(photographs.map(p => p.id)),
    });
  });
};

export const useCreateTake = (photographId: string) =>
  useChange((from: { from?: string; treatment?: unknown; name?: string }) =>
    ask<Take>('POST', `/api/photographs/${photographId}/takes`, from),
  );

export const useRenameTake = () =>
  useChange(({ id, name }: { id: string; name: string }) => ask<Take>('PATCH', `/api/takes/${id}`, { name }));

export const useRemoveTake = () => {
  const restore = useChange((id: string) => ask<Take>('POST', `/api/takes/${id}/restore`));
  return useChange(async ({ id, letter }: { id: string; letter: string }) => {
    await ask('DELETE', `/api/takes/${id}`);
    tell({ text: `Take ${letter} put aside.`, undo: () => restore.mutate(id) });
  });
};

export const useKeepTable = () =>
  useChange((table: { name: string; cube: string }) => ask<TableSummary>('POST', '/api/tables', table));

export const useChangeTable = () =>
  useChange(({ id, ...change }: { id: string; name?: string; group?: string }) =>
    ask<TableSummary>('PATCH', `/api/tables/${id}`, change),
  );

export const useRemoveTable = () => {
  const restore = useChange((id: string) => ask('POST', `/api/tables/${id}/restore`));
  return useChange(async ({ id, name }: { id: string; name: string }) => {
    await ask('DELETE', `/api/tables/${id}`);
    tell({ text: `${name} is no longer kept.`, undo: () => restore.mutate(id) });
  });
};

export const useKeepPigments = () =>
  useChange((pigments: readonly NamedPigment[]) => ask<KeptPigment[]>('POST', '/api/pigments', { pigments }));

export const useRenamePigment = () =>
  useChange(({ id, name }: { id: string; name: string }) =>
    ask<KeptPigment>('PATCH', `/api/pigments/${id}`, { name }),
  );

export const useRemovePigment = () => {
  const restore = useChange((id: string) => ask('POST', `/api/pigments/${id}/restore`));
  return useChange(async ({ id, name }: { id: string; name: string }) => {
    await ask('DELETE', `/api/pigments/${id}`);
    tell({ text: `${name} is out of the box.`, undo: () => restore.mutate(id) });
  });
};

export const useSend = () =>
  useChange((request: { series: string; takes: string[]; settings: SendOutSettings }) =>
    ask<SendOut[]>('POST', '/api/send-outs', request),
  );

export const useSendOutAction = () =>
  useChange(({ id, action }: { id: string; action: 'retry' | 'stop' | 'clear' }) =>
    action === 'clear'
      ? ask('DELETE', `/api/send-outs/${id}`)
      : ask('POST', `/api/send-outs/${id}/${action}`),
  );
