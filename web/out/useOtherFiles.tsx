import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { getAreaFiles } from '../../contract/area-files';
import { sendOutSettings, type SendOutSettings } from '../../contract/send-outs';
import { getTreatmentFiles } from '../../contract/treatment-files';
import { messageOf, type SentFile } from '../app/api';
import { tell } from '../app/notices';
import { useMakeSheet, useSend, useTakesAsFiles } from '../app/queries';
import { countOf } from '../../words/words';
import { save } from '../ui/save';
import { SheetDialog } from './SheetDialog';
import { TableDialog, type Tabled } from './TableDialog';

/** What takes are made into beside pictures. */
export const otherFiles = [
  { id: 'contact', text: 'Contact sheet' },
  { id: 'before-after', text: 'Before and after' },
  { id: 'card', text: 'Treatment card' },
  { id: 'table', text: 'Colour table' },
  { id: 'treatment', text: 'Treatment' },
  { id: 'areas', text: 'Areas as pictures' },
  { id: 'layers', text: 'Layers' },
] as const;
export type OtherFile = (typeof otherFiles)[number]['id'];

/** Those of a single take: it makes no rows. */
export const filesOfOne = otherFiles.filter(({ id }) => id !== 'contact' && id !== 'before-after');

export interface OtherFiles {
  make: (what: OtherFile) => void;
  /** What is being made now without a dialog. */
  making: OtherFile | null;
  dialog: ReactNode;
}

const atOnce = () => Promise.resolve();

/**
 * Makes other files of takes: at once, or after a dialog, which is to be shown where it is used.
 * @param ready awaited first: that what is made is as it is on screen
 * @param settings of pictures that go out, by which layers go out too
 */
export function useOtherFiles(
  seriesId: string,
  takes: readonly Tabled[],
  {
    ready = atOnce,
    settings = sendOutSettings.parse({}),
  }: { ready?: () => Promise<unknown>; settings?: SendOutSettings } = {},
): OtherFiles {
  const ids = takes.map(t => t.id);
  const [open, setOpen] = useState<OtherFile | null>(null);
  const [making, setMaking] = useState<OtherFile | null>(null);
  const treatments = useTakesAsFiles(seriesId, getTreatmentFiles);
  const areas = useTakesAsFiles(seriesId, getAreaFiles);
  const sheet = useMakeSheet(seriesId);
  const send = useSend();
  const navigate = useNavigate();
  const close = () => setOpen(null);

  const fetched = async (what: OtherFile, file: () => Promise<SentFile>) => {
    setMaking(what);
    try {
      await ready();
      const { bytes, name, type } = await file();
      save(bytes, name, type);
      tell({ text: `${name} is made.` });
    } catch (error) {
      tell({ text: `Not made: ${messageOf(error)}`, tone: 'problem' });
    } finally {
      setMaking(null);
    }
  };
  const layers = async () => {
    try {
      await ready();
      await send.mutateAsync({
        series: seriesId,
        takes: ids,
        settings: { ...settings, format: 'layers', bits: 8, profile: 'srgb' },
      });
      void navigate(`/series/${seriesId}/send-out?takes=${ids.join(',')}`);
    } catch {
      // It has been said.
    }
  };
  const make = (what: OtherFile) => {
    if (what === 'treatment') void fetched(what, () => treatments.mutateAsync(ids));
    else if (what === 'areas') void fetched(what, () => areas.mutateAsync(ids));
    else if (what === 'layers') void layers();
    else
      void ready().then(
        () => setOpen(what),
        // It has been said.
        () => undefined,
      );
  };

  const count = countOf(takes.length, 'photograph');
  const shown: Record<'contact' | 'before-after' | 'card', string> = {
    contact: `${count} in rows, with the series’ title and the date.`,
    'before-after': `${count}, each beside its bare one, with the series’ title and the date.`,
    card: `${count}: the picture beside every step with its values, so that it can be made again.`,
  };
  const dialog =
    open === 'table' ? (
      <TableDialog takes={takes} onClose={close} />
    ) : open === 'contact' || open === 'before-after' || open === 'card' ? (
      <SheetDialog kind={open} make={settings => sheet.mutateAsync({ takes: ids, settings })} onClose={close}>
        {shown[open]}
      </SheetDialog>
    ) : null;
  return { make, making, dialog };
}
