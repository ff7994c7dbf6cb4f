import { Plus } from 'lucide-react';
import { memo, useLayoutEffect, useRef, useState } from 'react';
import { Button as AriaButton, Input, Label, TextField } from 'react-aria-components';
import { ChevronDown } from 'lucide-react';
import styled from 'styled-components';
import type { Photograph } from '../../contract/photographs';
import type { TakeSummary } from '../../contract/takes';
import { useCreateTake, useRemoveTake } from '../app/queries';
import type { TakeSession } from './session';
import { Button, IconButton } from '../ui/buttons';
import { HoverCard } from '../ui/hover-card';
import { Dialog, DialogActions, Menu } from '../ui/overlays';
import { TakePicture } from '../ui/TakePicture';

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 4px;
  margin-left: 14px;
  min-width: 92px;
  flex: 0 1 auto;
`;

/** The takes themselves, scrolled where there is no room for all. */
const Scrolled = styled.div`
  display: flex;
  align-items: center;
  gap: 4px;
  min-width: 0;
  padding: 3px 2px;
  overflow: auto hidden;
  scrollbar-width: none;
  overscroll-behavior-x: contain;
  mask-image: linear-gradient(90deg, transparent 0, #000 10px, #000 calc(100% - 10px), transparent);
  &[data-whole] {
    mask-image: none;
  }
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
  flex: none;
  img {
    width: 33px;
    height: 22px;
    object-fit: cover;
    border-radius: 1px;
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
    img {
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

/** A row that keeps the current one in sight, and says whether all of it is. */
function useScrolled(current: string, count: number) {
  const row = useRef<HTMLDivElement>(null);
  const [isWhole, setWhole] = useState(true);
  useLayoutEffect(() => {
    const element = row.current!;
    const measure = () => {
      setWhole(element.scrollWidth <= element.clientWidth + 1);
      element.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest', inline: 'center' });
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [current, count]);
  return { row, isWhole };
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
  const scrolled = useScrolled(current, photograph.takes.length);

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
      <Scrolled ref={scrolled.row} data-whole={scrolled.isWhole || undefined}>
        {photograph.takes.map(t => (
          <HoverCard
            key={t.id}
            card={
              <>
                <TakePicture take={t} edge={480} />
                Take {t.letter}
                {t.name ? `, ${t.name}` : ''}
              </>
            }
          >
            <Choice
              aria-current={t.id === current ? 'true' : undefined}
              aria-label={`Take ${t.letter}${t.name ? `, ${t.name}` : ''}`}
              onPress={() => onChoose(t.id)}
            >
              <TakePicture take={t} edge={160} />
              {t.letter}
            </Choice>
          </HoverCard>
        ))}
      </Scrolled>
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
