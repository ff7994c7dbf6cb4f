import { useState } from 'react';
import { tableSizes } from '../../contract/look-tables';
import { messageOf } from '../app/api';
import { useSaveTable, useTableExactness } from '../app/queries';
import { listed, wordFor } from '../../words/words';
import { Button, Segments } from '../ui/buttons';
import { Dialog, DialogActions, Picker } from '../ui/overlays';
import { save } from '../ui/save';
import { Row } from '../ui/rows';

type Size = (typeof tableSizes)[number];

/** A take that may be written as a table. */
export interface Tabled {
  id: string;
  /** The photograph and the take, in words. */
  text: string;
}

const tenths = (v: number) => v.toFixed(v < 0.095 ? 2 : 1);

/** What a take does to colours, as a table for other programs: what it loses, and how exact it is, before it is written. */
export function TableDialog({ takes, onClose }: { takes: readonly Tabled[]; onClose: () => void }) {
  const [take, setTake] = useState(takes[0].id);
  const [size, setSize] = useState<Size>(33);
  const exactness = useTableExactness(take, size);
  const saving = useSaveTable();
  const left = exactness.data?.left ?? [];
  return (
    <Dialog title="Colour table" onClose={onClose}>
      <p>What a take does to colours, for any program that reads .cube.</p>
      <Row>
        <span>Take</span>
        <Picker
          label="Take"
          value={take}
          options={takes.map(t => ({ value: t.id, text: t.text }))}
          onChange={setTake}
        />
      </Row>
      <Row>
        <span>Entries</span>
        <Segments
          label="Entries a side"
          value={String(size)}
          options={tableSizes.map(n => ({ value: String(n), text: `${n} a side` }))}
          onChange={chosen => setSize(tableSizes.find(n => String(n) === chosen)!)}
        />
      </Row>
      {/* Room for all that may be said, so that nothing moves. */}
      <div role="status" style={{ minHeight: 84, paddingTop: 8 }}>
        {exactness.error ? <p>The table could not be made: {messageOf(exactness.error)}</p> : null}
        {exactness.isPending ? <p>Making the table, and trying it on the photograph …</p> : null}
        {exactness.data ? (
          <>
            <p>
              On this photograph it is ΔE {tenths(exactness.data.mean)} from the take in the mean,{' '}
              {tenths(exactness.data.worst)} at worst (CIEDE2000; 1 is hardly seen).
            </p>
            {left.length ? (
              <p>
                Left out, since no table can hold {left.length === 1 ? 'it' : 'them'}:{' '}
                {listed(
                  left.map(
                    s =>
                      `${s.name || wordFor(s.kind)} (${s.why === 'area' ? 'on an area' : 'looks beyond a colour'})`,
                  ),
                )}
                .
              </p>
            ) : null}
          </>
        ) : null}
      </div>
      {saving.error ? <p role="alert">The table could not be fetched: {messageOf(saving.error)}</p> : null}
      <DialogActions>
        <Button onPress={onClose}>Cancel</Button>
        <Button
          $ink
          isDisabled={!exactness.data || saving.isPending}
          onPress={() =>
            saving.mutate(
              { id: take, size },
              {
                onSuccess: ({ bytes, name }) => {
                  save(bytes, name, 'text/plain');
                  onClose();
                },
              },
            )
          }
        >
          Save the table
        </Button>
      </DialogActions>
    </Dialog>
  );
}
