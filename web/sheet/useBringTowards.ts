import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { Photograph } from '../../contract/photographs';
import { fitTake, getTake } from '../../contract/takes';
import type { Treatment } from '../../core/treatment/treatment';
import { layTreatment } from '../../core/treatment/laying';
import { call, currentTake } from '../app/api';
import { tell } from '../app/notices';
import type { SheetDeeds } from './useSheetDeeds';

/** The name of a take that was brought towards its series. */
const NAME = 'With the series';

/** How a photograph is brought towards its series. */
export type Towards =
  /** With the treatment of the one in the middle, in its own frame; what was painted on that one stays there. */
  | { photograph: Photograph; by: 'carrying'; middle: Photograph }
  /** Its own treatment, with its tint, its ends and its strength fitted. */
  | { photograph: Photograph; by: 'fitting' };

const treatmentOf = async (photograph: Photograph): Promise<Treatment> =>
  (await call(getTake, { params: { id: currentTake(photograph).id } })).treatment;

async function broughtTowards(towards: Towards): Promise<{ treatment: Treatment; said: string }> {
  const { photograph } = towards;
  if (towards.by === 'fitting') {
    const { treatment } = await call(fitTake, { params: { id: currentTake(photograph).id } });
    return { treatment, said: `${photograph.title} has a new take, fitted to the series.` };
  }
  const { middle } = towards;
  const [own, model] = await Promise.all([treatmentOf(photograph), treatmentOf(middle)]);
  const { treatment } = layTreatment(own, model, { how: 'instead', frame: false, painted: false });
  return { treatment, said: `${photograph.title} has a new take with the treatment of ${middle.title}.` };
}

/** Brings a photograph towards its series, as a new take, which one undo takes away again. */
export function useBringTowards(deeds: SheetDeeds) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async ({ isWanted, ...towards }: Towards & { isWanted: () => boolean }) => {
      const { treatment, said } = await broughtTowards(towards);
      // It was left while it was being fitted.
      if (!isWanted()) return;
      const { photograph } = towards;
      const id = deeds.newTake(photograph, treatment, NAME);
      tell({ text: said, undo: () => deeds.undoOne(id) });
    },
    onSettled: () => client.invalidateQueries(),
    onError: (error: Error) => tell({ text: error.message, tone: 'problem' }),
  });
}
