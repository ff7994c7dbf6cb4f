import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { Photograph } from '../../contract/photographs';
import { changePhotograph } from '../../contract/photographs';
import { createTake, getTake, removeTake } from '../../contract/takes';
import { layTreatment } from '../../core/treatment/laying';
import { call, currentTake } from '../app/api';
import { tell } from '../app/notices';

/** The name of a take that was brought towards its series. */
const NAME = 'With the series';

/**
 * Brings a photograph towards its series, as a new take: with the treatment of the one in the middle, in its own frame. What
 * was painted on that one stays there.
 */
export function useBringTowards() {
  const client = useQueryClient();
  const settled = () => client.invalidateQueries();
  return useMutation({
    mutationFn: async ({ photograph, middle }: { photograph: Photograph; middle: Photograph }) => {
      const before = currentTake(photograph).id;
      const treatmentOf = async (id: string) => (await call(getTake, { params: { id } })).treatment;
      const [own, model] = await Promise.all([treatmentOf(before), treatmentOf(currentTake(middle).id)]);
      const { treatment } = layTreatment(own, model, { how: 'instead', frame: false, painted: false });
      const made = await call(createTake, { params: { id: photograph.id }, body: { treatment, name: NAME } });
      const back = async () => {
        await call(changePhotograph, { params: { id: photograph.id }, body: { currentTakeId: before } });
        await call(removeTake, { params: { id: made.id } });
        await settled();
      };
      tell({
        text: `${photograph.title} has a new take with the treatment of ${middle.title}.`,
        undo: () => void back().catch((error: Error) => tell({ text: error.message, tone: 'problem' })),
      });
    },
    onSettled: settled,
  });
}
