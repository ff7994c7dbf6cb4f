import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import type { Kind } from '../../core/steps';
import { addStep, newStep } from '../../core/treatment/edit';
import { carryTable } from '../../core/treatment/tables';
import { tell } from '../app/notices';
import { bringIn } from '../import/imports';
import { useLaidDown } from '../import/useLaidDown';
import { areasOfLayers } from './laid-areas';
import type { Work } from './work';

/** What is done with files that are laid down on the photograph. */
export function useDropped({ bench, photograph, lay }: Pick<Work, 'bench' | 'photograph' | 'lay'>): {
  onFiles: (files: File[]) => void;
  /** A file that may be an area is a photograph. */
  bringInOne: (file: File) => void;
} {
  const { edits, ask } = bench;
  const { width, height, seriesId } = photograph;
  const client = useQueryClient();
  const onPictures = useCallback((files: File[]) => bringIn(files, seriesId, client), [seriesId, client]);
  const onFiles = useLaidDown({
    area: useMemo(
      () => ({ width, height, onGrey: (file: File) => ask({ what: 'area-or-photograph', file }) }),
      [width, height, ask],
    ),
    onPictures,
    onTreatment: useCallback(part => ask({ what: 'lay-on', part }), [ask]),
    onTable: useCallback(
      (name, table) => {
        const step = newStep<Kind>(edits.now(), 'colour-table');
        lay(carryTable(addStep(edits.now(), step), step.id, name, table), `Colour table ${name}`, step.id);
      },
      [edits, lay],
    ),
    onLayers: useCallback(
      (layers, name) => {
        const areas = layers.areas.length;
        edits
          .editWhenFound(
            `Areas of ${name}`,
            areasOfLayers(layers, { width, height }, edits.now(), name),
            (found, now) => {
              tell({ text: `${areas === 1 ? 'One area' : `${areas} areas`} from ${name}.` });
              return found(now);
            },
          )
          .catch((error: Error) => tell({ text: `${name}: ${error.message}`, tone: 'problem' }));
      },
      [edits, width, height],
    ),
  });
  return { onFiles, bringInOne: file => onPictures([file]) };
}
