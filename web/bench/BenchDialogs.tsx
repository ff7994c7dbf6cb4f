import { layTreatment, type Laying } from '../../core/treatment/laying';
import { addArea, addPart, areaOf } from '../../core/treatment/areas';
import type { Treatment } from '../../core/treatment/treatment';
import { tell } from '../app/notices';
import { useChangeSeries } from '../app/queries';
import { takeIn } from '../engine/carried';
import { LayOn } from '../laying/LayOn';
import { Conflict } from '../takes/Conflict';
import { Refused } from '../takes/Refused';
import { AreaOrPhotograph } from './AreaOrPhotograph';
import { Details } from './Details';
import { useBenchState, useRested, useWork } from './work';

/**
 * The questions that lie over the Bench.
 * @param onBringIn brings a file in as a photograph of the series
 */
export function BenchDialogs({ onBringIn }: { onBringIn: (file: File) => void }) {
  const { bench, photograph, series, lay, openTake } = useWork();
  const { edits, session, closeDialog } = bench;
  const dialog = useBenchState(s => s.dialog);
  const { conflict, saving } = useRested();
  const changeSeries = useChangeSeries();
  const layOn = (of: Treatment, laying: Laying) => {
    closeDialog();
    try {
      const { treatment: made, laid, left } = layTreatment(edits.now(), of, laying);
      lay(made, `Lay on ${laid.length === 1 ? 'a step' : `${laid.length} steps`}`, laid.at(-1));
      if (left.length) tell({ text: `${left.length} on painted areas stayed behind.` });
    } catch (error) {
      tell({ text: `It cannot be laid on: ${(error as Error).message}.`, tone: 'problem' });
    }
  };
  const greyAsArea = async (file: File) => {
    closeDialog();
    try {
      const png = await takeIn('picture', new Uint8Array(await file.arrayBuffer()));
      const { treatment: made, area } = addArea(edits.now(), file.name.replace(/\.png$/i, ''));
      edits.commit(addPart(made, area, { kind: 'picture', op: 'add', png }), `Area from ${file.name}`);
      tell({ text: `${areaOf(made, area)!.name} is an area now: a step can be laid on it.` });
    } catch (error) {
      tell({ text: `${file.name}: ${(error as Error).message}`, tone: 'problem' });
    }
  };
  return (
    <>
      {conflict ? <Conflict session={session} onNewTake={made => openTake(made.id)} /> : null}
      {saving.state === 'refused' ? (
        <Refused reason={saving.reason} session={session} onNewTake={made => openTake(made.id)} />
      ) : null}
      {dialog?.what === 'lay-on' ? (
        <LayOn part={dialog.part} onClose={closeDialog} onLay={laying => layOn(dialog.part, laying)} />
      ) : dialog?.what === 'area-or-photograph' ? (
        <AreaOrPhotograph
          file={dialog.file}
          onArea={() => void greyAsArea(dialog.file)}
          onPhotograph={() => {
            closeDialog();
            onBringIn(dialog.file);
          }}
          onClose={closeDialog}
        />
      ) : dialog?.what === 'details' ? (
        <Details
          photograph={photograph}
          isCover={series?.coverId === photograph.id}
          onCover={() => changeSeries.mutate({ id: photograph.seriesId, coverId: photograph.id })}
          onClose={closeDialog}
        />
      ) : null}
    </>
  );
}
