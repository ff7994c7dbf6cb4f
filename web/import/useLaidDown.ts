import { useCallback } from 'react';
import type { Reference } from '../../core/settings/fields';
import { readTreatmentFile } from '../../core/treatment/carrying';
import { nameOfTable } from '../../core/treatment/tables';
import { FORMAT, TreatmentError, type Treatment } from '../../core/treatment/treatment';
import { messageOf } from '../app/api';
import { tell, tellUnder } from '../app/notices';
import { useKeepTable } from '../app/queries';
import { sendReference, takeIn } from '../engine/carried';
import { takeInCarried } from '../laying/copied';
import { useLookFiles } from '../laying/useLookFiles';
import { isSameShape } from './same-shape';
import { readLayers, type LayerFile } from './layer-file';

/** What is done with files that are laid down on a screen, by what they are. */

export interface Laid {
  onPictures: (files: File[]) => void;
  /** A treatment is to be laid on; where it is left out, it is said where that can be done. */
  onTreatment?: (treatment: Treatment, name: string) => void;
  /** A colour table is to be used; it is kept for all photographs anyway. */
  onTable?: (name: string, table: Reference) => void;
  onLayers?: (layers: LayerFile, name: string) => void;
  /** A grey PNG of this shape may be an area as well as a photograph: then it is asked. */
  area?: { width: number; height: number; onGrey: (file: File) => void };
}

/** Whether a file is a grey PNG of a shape. Source: W3C PNG, 11.2.1. */
async function isGreyPng(file: File, shape: { width: number; height: number }): Promise<boolean> {
  const head = new DataView(await file.slice(0, 33).arrayBuffer());
  if (head.byteLength < 33 || head.getUint32(0) !== 0x89504e47) return false;
  const [width, height, colours] = [head.getUint32(16), head.getUint32(20), head.getUint8(25)];
  return colours === 0 && isSameShape({ width, height }, shape);
}

const ending = ({ name }: File) => /\.([a-z0-9]+)$/i.exec(name)?.[1].toLowerCase() ?? '';
const isObject = (v: unknown): v is Record<string, unknown> => typeof v === 'object' && v !== null;

/** What is wrong with a file, in one sentence. */
const wrong = (file: File, error: unknown) => {
  const why =
    error instanceof SyntaxError
      ? 'it is no JSON'
      : error instanceof RangeError
        ? 'it is nested too deeply, or too large'
        : messageOf(error);
  return `${file.name} was not taken in: ${why.replace(/\.$/, '')}.`;
};

export function useLaidDown({
  onPictures,
  onTreatment,
  onTable,
  onLayers,
  area,
}: Laid): (files: File[]) => void {
  const looks = useLookFiles();
  const { mutateAsync: keepTable } = useKeepTable();

  const bringLooks = looks.bringIn;
  return useCallback(
    (files: File[]) => {
      const take = async (file: File): Promise<void> => {
        switch (ending(file)) {
          case 'json': {
            const json: unknown = JSON.parse(await file.text());
            if (!isObject(json) || json.format !== FORMAT) return bringLooks(file);
            const treatment = readTreatmentFile(json);
            await takeInCarried(treatment);
            if (onTreatment) onTreatment(treatment, file.name.replace(/(\.treatment)?\.json$/i, ''));
            else tell({ text: `${file.name} is a treatment: lay it down on a photograph, or on a sheet.` });
            return;
          }
          case 'cube': {
            const bytes = new Uint8Array(await file.arrayBuffer());
            const table = await takeIn('table', bytes);
            const name = nameOfTable(bytes, file.name);
            await sendReference(table);
            await keepTable({ name, sha256: table.sha256 });
            if (onTable) onTable(name, table);
            else tell({ text: `${name} is kept: a colour table for every photograph.` });
            return;
          }
          case 'ora': {
            if (!onLayers) {
              tell({ text: `${file.name} has layers: lay it down on the photograph that they belong to.` });
              return;
            }
            const under = tellUnder(`Reading the layers of ${file.name}`);
            try {
              const percent = (done: number) => `${Math.round(done * 100)} %`;
              const layers = await readLayers(file, done =>
                under.say(`Reading the layers of ${file.name}: ${percent(done)}`),
              );
              onLayers(layers, file.name);
            } finally {
              under.done();
            }
            return;
          }
        }
      };
      const known = files.filter(file => ['json', 'cube', 'ora'].includes(ending(file)));
      const pictures = files.filter(file => !known.includes(file));
      // One alone is what a mask comes as; several are photographs.
      const [first] = pictures;
      if (area && pictures.length === 1) {
        void isGreyPng(first, area).then(isGrey => (isGrey ? area.onGrey(first) : onPictures(pictures)));
      } else if (pictures.length) onPictures(pictures);
      for (const file of known) {
        take(file).catch((error: unknown) => {
          const why = error instanceof TreatmentError ? new Error(error.message) : error;
          tell({ text: wrong(file, why), tone: 'problem' });
        });
      }
    },
    [onPictures, onTreatment, onTable, onLayers, area, bringLooks, keepTable],
  );
}
