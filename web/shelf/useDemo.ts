import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { getDemo, layOutDemo, takeOffDemo } from '../../contract/demo';
import { restoreSeries } from '../../contract/series';
import { call, messageOf } from '../app/api';
import { tell } from '../app/notices';

export interface DemoDeeds {
  /** Some of it is on the shelf. */
  isOut: boolean;
  busy: boolean;
  layOut: () => void;
  takeOff: () => void;
}

/** The demo, taken off the shelf and laid out again. */
export function useDemo(): DemoDeeds {
  const client = useQueryClient();
  const again = () => client.invalidateQueries();
  const demo = useQuery({ queryKey: ['demo'], queryFn: () => call(getDemo, {}) });
  const failed = (what: string) => (error: unknown) =>
    tell({ text: `The demo could not be ${what}: ${messageOf(error)}`, tone: 'problem' });
  const layOut = useMutation({
    mutationFn: () => {
      tell({ text: 'The demo is being laid out. It takes some seconds.' });
      return call(layOutDemo, {});
    },
    onSuccess: () => tell({ text: 'The demo is on the shelf.' }),
    onError: failed('laid out'),
    onSettled: again,
  });
  const takeOff = useMutation({
    mutationFn: async () => {
      const { series } = await call(getDemo, {});
      await call(takeOffDemo, {});
      return series;
    },
    onSuccess: series =>
      tell({
        text: 'The demo is off the shelf. What you did to it is kept in what is put aside.',
        undo: () =>
          void Promise.all(series.map(({ id }) => call(restoreSeries, { params: { id } }))).then(
            again,
            failed('brought back'),
          ),
      }),
    onError: failed('taken off'),
    onSettled: again,
  });
  return {
    isOut: (demo.data?.series.length ?? 0) > 0,
    busy: layOut.isPending,
    layOut: () => layOut.mutate(),
    takeOff: () => takeOff.mutate(),
  };
}
