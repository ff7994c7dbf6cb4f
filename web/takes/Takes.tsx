import { Plus } from 'lucide-react';
import { memo, useState } from 'react';
import { Button as AriaButton, Input, Label, TextField } from 'react-aria-components';
import { ChevronDown } from 'lucide-react';
import styled from 'styled-components';
import type { Photograph } from '../../contract/photographs';
import type { TakeSummary } from '../../contract/takes';
import { useCreateTake, useRemoveTake } from '../app/queries';
import type { TakeSession } from './session';
import { Button, IconButton } from '../ui/buttons';
import { Dialog, DialogActions, Menu } from '../ui/overlays';
import { TakePicture } from '../ui/TakePicture';

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 4px;
  margin-left: 14px;
  min-width: 0;
`;

const Choice = styled(AriaButton)`
  display: flex;
  align-items: center;
  gap: 6px;
  height: 30px;
  padding: 0 8px 0 4px;
  border-radius: var(--r-field);
  font-weight: 500;
  color: var(--ink-2);
  border: 1px solid transparent;
  white-space: nowrap;
  img {
    width: 33px;
    height: 22px;
    object-fit: cover;
    border-radius: 1px;
  }
  .named {
    font-weight: 400;
  }
  &[data-hovered] {
    background: #fff;
  }
  &[aria-current] {
    background: var(--paper-high);
    border-color: #c2c2c2;
    color: var(--ink);
    font-weight: 650;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 1px;
  }
  @media (max-width: 1180px) {
    padding: 0 8px;
    img,
    .named {
      display: none;
    }
  }
`;

const Field = styled(TextField)`
  display: grid;
  gap: 5px;
  margin-top: 12px;
  label {
    color: var(--ink-2);
  }
  input {
    height: 30px;
    padding: 0 8px;
    border: 0;
    border-bottom: 1px solid var(--edge);
    background: #fff;
  }
`;

export interface TakesProps {
  photograph: Photograph;
  /** Of the take that is worked on: what is done to it goes the way of its edits. */
  session: TakeSession;
  onChoose: (takeId: string) => void;
  /** The whole treatment goes to the clipboard; what is there is laid on; the last one is carried over. */
  onCopy: () => void;
  onLayOn: () => void;
  onCarryOver: () => void;
}

/** The takes of a photograph: switched, copied, named, put aside. */
export const Takes = memo(function Takes({
  photograph,
  session,
  onChoose,
  onCopy,
  onLayOn,
  onCarryOver,
}: TakesProps) {
  const current = session.state().take.id;
  const create = useCreateTake(photograph.id);
  const remove = useRemoveTake();
  const [naming, setNaming] = useState<TakeSummary | null>(null);
  const [name, setName] = useState('');
  const take = photograph.takes.find(t => t.id === current);

  const copy = async (from?: string) => {
    await session.flush();
    create.mutate({ from }, { onSuccess: made => onChoose(made.id) });
  };
  const putAside = () => {
    if (!take) return;
    const i = photograph.takes.indexOf(take);
    const next = photograph.takes[i - 1] ?? photograph.takes[i + 1];
    remove.mutate(
      { id: take.id, letter: take.letter, putAside: () => session.putAside() },
      { onSuccess: () => onChoose(next.id) },
    );
  };

  return (
    <Row role="group" aria-label="Takes of this photograph">
      {photograph.takes.map(t => (
        <Choice
          key={t.id}
          aria-current={t.id === current ? 'true' : undefined}
          aria-label={`Take ${t.letter}${t.name ? `, ${t.name}` : ''}`}
          onPress={() => onChoose(t.id)}
        >
          <TakePicture take={t} edge={160} />
          {t.letter}
          {t.id === current && t.name ? <span className="named">{t.name}</span> : null}
        </Choice>
      ))}
      <Menu
        label="More for this take"
        trigger={
          <IconButton aria-label="More for this take" style={{ width: 20 }}>
            <ChevronDown aria-hidden="true" />
          </IconButton>
        }
        sections={[
          {
            entries: [
              { id: 'rename', text: 'Rename this take' },
              { id: 'remove', text: 'Put this take aside', disabled: photograph.takes.length < 2 },
            ],
          },
          {
            name: 'Treatment',
            entries: [
              { id: 'copy', text: 'Copy the whole of it', keys: 'Ctrl C' },
              { id: 'layOn', text: 'Lay on what was copied', keys: 'Ctrl V' },
              { id: 'carryOver', text: 'Carry the last one over', keys: 'C' },
            ],
          },
          { name: 'New take', entries: [{ id: 'bare', text: 'From the bare photograph' }] },
        ]}
        onAction={id => {
          if (id === 'rename' && take) {
            setName(take.name);
            setNaming(take);
          } else if (id === 'remove') putAside();
          else if (id === 'copy') onCopy();
          else if (id === 'layOn') onLayOn();
          else if (id === 'carryOver') onCarryOver();
          else void copy();
        }}
      />
      <IconButton
        aria-label={`New take from ${take?.letter ?? 'this one'}`}
        onPress={() => void copy(current)}
      >
        <Plus aria-hidden="true" />
      </IconButton>
      {naming ? (
        <Dialog title={`Name take ${naming.letter}`} onClose={() => setNaming(null)}>
          <form
            onSubmit={event => {
              event.preventDefault();
              session.rename(name.trim());
              setNaming(null);
            }}
          >
            <Field value={name} onChange={setName} maxLength={120} autoFocus>
              <Label>Name</Label>
              <Input />
            </Field>
            <DialogActions>
              <Button onPress={() => setNaming(null)}>Leave it</Button>
              <Button $ink type="submit">
                Name it
              </Button>
            </DialogActions>
          </form>
        </Dialog>
      ) : null}
    </Row>
  );
});
