import { Plus } from 'lucide-react';
import { useQueryClient } from '@tanstack/react-query';
import { memo, useEffect, useEffectEvent, useLayoutEffect, useRef, useState } from 'react';
import { Button as AriaButton, Input, Label } from 'react-aria-components';
import { ChevronDown } from 'lucide-react';
import styled from 'styled-components';
import type { Photograph } from '../../contract/photographs';
import { getTake, type TakeSummary } from '../../contract/takes';
import { useNavigate } from 'react-router';
import { call } from '../app/api';
import { keys, useChangePhotograph, useCreateTake, useRemoveTake } from '../app/queries';
import type { Tried } from './tried';
import type { TakeSession } from './session';
import { Button, IconButton } from '../ui/buttons';
import { HoverCard } from '../ui/hover-card';
import { Field } from '../ui/field';
import { Dialog, DialogActions, Menu } from '../ui/overlays';
import { TakePicture } from '../ui/TakePicture';
import { takeInWords } from '../../words/words';
import { filesOfOne, type OtherFile } from '../out/useOtherFiles';

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 4px;
  margin-left: 14px;
  min-width: 92px;
  /* It gives way before the title does. */
  flex: 0 99999 auto;
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

export interface TakesProps {
  photograph: Photograph;
  /** Of the take that is worked on: what is done to it goes the way of its edits. */
  session: TakeSession;
  /** Whether the keys begin here, since this take was just chosen here. */
  hasKeys: boolean;
  onChoose: (takeId: string) => void;
  /** The whole treatment goes to the clipboard; what is there is laid on; the last one is carried over. */
  onCopy: () => void;
  onLayOn: () => void;
  onCarryOver: () => void;
  /** Makes another file of the take. */
  onMake: (what: OtherFile) => void;
  /** Shows another take in the print while it is pointed at; null when none is any more. Must stay the same function. */
  onTry: (tried: Tried | null) => void;
  /** Stands another take beside this one. */
  onCompare: (takeId: string) => void;
}

/** Shows the take that is pointed at, as soon as its treatment is there. */
function usePointedTake(
  takes: readonly TakeSummary[],
  current: string,
  onTry: (tried: Tried | null) => void,
): (id: string | null) => void {
  const client = useQueryClient();
  const pointed = useRef<string | null>(null);
  useEffect(() => () => onTry(null), [onTry]);
  return (id: string | null) => {
    pointed.current = id;
    const take = takes.find(t => t.id === id);
    if (id === null || !take || id === current) return onTry(null);
    const show = async () => {
      const { treatment } = await client.fetchQuery({
        queryKey: keys.take(id),
        queryFn: () => call(getTake, { params: { id } }),
      });
      if (pointed.current === id) {
        onTry({
          name: takeInWords(take),
          treatment,
          then: 'opens it',
        });
      }
    };
    void show().catch(() => undefined);
  };
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
  hasKeys,
  onChoose,
  onCopy,
  onLayOn,
  onCarryOver,
  onMake,
  onTry,
  onCompare,
}: TakesProps) {
  const current = session.state().take.id;
  const navigate = useNavigate();
  const create = useCreateTake(photograph.id);
  const remove = useRemoveTake();
  const [naming, setNaming] = useState<TakeSummary | null>(null);
  const [name, setName] = useState('');
  const take = photograph.takes.find(t => t.id === current);
  const change = useChangePhotograph();
  const point = usePointedTake(photograph.takes, current, onTry);
  const order = (by: -1 | 1) => {
    const ids = photograph.takes.map(t => t.id);
    const at = ids.indexOf(current);
    const moved = ids.toSpliced(at, 1).toSpliced(at + by, 0, current);
    change.mutate({ id: photograph.id, takes: moved });
  };
  const at = photograph.takes.findIndex(t => t.id === current);
  const others = photograph.takes.filter(t => t.id !== current);
  const { row, isWhole } = useScrolled(current, photograph.takes.length);
  // Once, as the take is opened.
  const goOn = useEffectEvent(() => {
    if (hasKeys) row.current?.querySelector<HTMLElement>('[aria-current]')?.focus({ preventScroll: true });
  });
  useEffect(() => goOn(), []);

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
    <Row role="group" aria-label="Takes of this photograph" data-context>
      <Scrolled ref={row} data-whole={isWhole || undefined}>
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
              // The menu of the row is that of the take that is worked on.
              data-context={t.id === current ? undefined : ''}
              aria-label={takeInWords(t)}
              onPress={() => onChoose(t.id)}
              onHoverStart={() => point(t.id)}
              onHoverEnd={() => point(null)}
              onFocusChange={has => point(has && document.querySelector(':focus-visible') ? t.id : null)}
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
              { id: 'left', text: 'Move it left', disabled: at <= 0 },
              { id: 'right', text: 'Move it right', disabled: at >= photograph.takes.length - 1 },
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
          {
            name: 'Compare with',
            entries: others.map(t => ({
              id: `with ${t.id}`,
              text: t.name ? `${t.letter}, ${t.name}` : t.letter,
            })),
          },
          { name: 'This take as', entries: [...filesOfOne] },
          { name: 'New take', entries: [{ id: 'bare', text: 'From the bare photograph' }] },
          { entries: [{ id: 'aside', text: 'What was put aside' }] },
        ]}
        onAction={id => {
          const other = filesOfOne.find(f => f.id === id);
          if (other) onMake(other.id);
          else if (id === 'rename' && take) {
            setName(take.name);
            setNaming(take);
          } else if (id === 'remove') putAside();
          else if (id === 'left' || id === 'right') order(id === 'left' ? -1 : 1);
          else if (id.startsWith('with ')) onCompare(id.slice(5));
          else if (id === 'aside') void navigate('/put-aside');
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
