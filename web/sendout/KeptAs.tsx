import { ChevronDown } from 'lucide-react';
import { useState } from 'react';
import { Input, Label } from 'react-aria-components';
import type { SendOutSettings } from '../../contract/send-outs';
import { messageOf } from '../app/api';
import { useForgetSettings, useKeepSettings, useKeptSettings } from '../app/queries';
import { Button } from '../ui/buttons';
import { Field } from '../ui/field';
import { Dialog, DialogActions, Menu } from '../ui/overlays';

/** Text of settings by which two are told to be the same. */
const asText = (settings: SendOutSettings) =>
  JSON.stringify(Object.entries(settings).toSorted(([a], [b]) => (a < b ? -1 : 1)));

/** Settings kept under names: taken by name, kept under one, forgotten. */
export function KeptAs({
  settings,
  onTake,
}: {
  settings: SendOutSettings;
  onTake: (settings: SendOutSettings) => void;
}) {
  const kept = useKeptSettings().data ?? [];
  const keep = useKeepSettings();
  const forget = useForgetSettings();
  const [name, setName] = useState<string | null>(null);
  const current = kept.find(k => asText(k.settings) === asText(settings));
  const done = () => setName(null);
  const keepIt = () => {
    if (name?.trim()) keep.mutate({ name: name.trim(), settings }, { onSuccess: done });
  };
  return (
    <>
      <Menu
        label="Settings kept under names"
        trigger={
          <Button aria-label={`Settings kept as ${current?.name ?? 'none'}`}>
            {current ? current.name : 'Kept settings'}
            <ChevronDown aria-hidden="true" size={15} />
          </Button>
        }
        sections={[
          { entries: kept.map(({ id, name: text }) => ({ id, text })) },
          {
            entries: [
              { id: 'keep', text: 'Keep these under a name …' },
              ...(current ? [{ id: 'forget', text: `Forget “${current.name}”` }] : []),
            ],
          },
        ]}
        onAction={id => {
          if (id === 'keep') setName(current?.name ?? '');
          else if (id === 'forget') {
            if (current) forget.mutate(current.id);
          } else onTake(kept.find(k => k.id === id)!.settings);
        }}
      />
      {name === null ? null : (
        <Dialog title="Keep these settings" onClose={done}>
          <p>They can be taken again for any series. Kept under a name that is there, they take its place.</p>
          <form
            onSubmit={event => {
              event.preventDefault();
              keepIt();
            }}
          >
            <Field value={name} onChange={setName} maxLength={60} autoFocus>
              <Label>Name</Label>
              <Input />
            </Field>
            {keep.error ? <p role="alert">{messageOf(keep.error)}</p> : null}
            <DialogActions>
              <Button onPress={done}>Cancel</Button>
              <Button $ink type="submit" isDisabled={!name.trim() || keep.isPending}>
                Keep
              </Button>
            </DialogActions>
          </form>
        </Dialog>
      )}
    </>
  );
}
