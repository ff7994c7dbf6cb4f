import { useCallback } from 'react';
import { looksFile, readLooks, type Look } from '../../core/treatment/looks';
import { TreatmentError } from '../../core/treatment/treatment';
import { tell } from '../app/notices';
import { useKeepLooks } from '../app/queries';
import { fetchAllCarried, sendCarried } from '../engine/carried';
import { save } from '../ui/save';
import { takeInCarried } from './copied';

/** What is wrong with a file of looks. */
function wrongWith(error: unknown): string {
  if (error instanceof TreatmentError) return error.message;
  return error instanceof SyntaxError ? 'not JSON' : (error as Error).message;
}

/** Looks from files, and into files. */
export function useLookFiles() {
  const { mutateAsync: keep } = useKeepLooks();
  const bringIn = useCallback(
    async (file: File) => {
      try {
        const looks = readLooks(JSON.parse(await file.text()));
        for (const { treatment } of looks) {
          await takeInCarried(treatment);
          await sendCarried(treatment);
        }
        await keep(looks);
        tell({ text: `${looks.length === 1 ? looks[0].name : `${looks.length} looks`} from ${file.name}.` });
      } catch (error) {
        tell({ text: `${file.name}: ${wrongWith(error)}`, tone: 'problem' });
      }
    },
    [keep],
  );
  const write = useCallback(async (looks: readonly Look[], name: string) => {
    try {
      for (const { treatment } of looks) await fetchAllCarried(treatment);
      save(JSON.stringify(looksFile(looks), null, 1), `${name}.look.json`, 'application/json');
    } catch (error) {
      tell({ text: `${name} could not be saved: ${wrongWith(error)}`, tone: 'problem' });
    }
  }, []);
  return { bringIn, write };
}
