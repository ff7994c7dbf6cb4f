import { useState } from 'react';
import styled from 'styled-components';
import type { Photograph } from '../../contract/photographs';
import { countOf, takeInWords } from '../../words/words';
import { currentTake } from '../app/api';
import { Button, LinkButton } from '../ui/buttons';
import { Dialog, DialogActions, Picker } from '../ui/overlays';
import { TakePicture } from '../ui/TakePicture';

const List = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(196px, 1fr));
  gap: 10px 14px;
  max-height: 52vh;
  overflow: hidden auto;
  scrollbar-width: thin;
  margin-top: 12px;
  padding: 2px;
  li {
    display: grid;
    grid-template-columns: auto 60px minmax(0, 1fr);
    gap: 9px;
    align-items: center;
    min-height: 64px;
  }
  img {
    width: 60px;
    height: 44px;
    object-fit: cover;
  }
  b {
    display: block;
    font: 400 16px/19px var(--serif);
    overflow: hidden;
    white-space: nowrap;
    text-overflow: ellipsis;
  }
  input {
    width: 16px;
    height: 16px;
  }
`;

/** Which photographs of the series go out, and which take of each. */
export function ChooseTakes({
  photographs,
  going,
  onChoose,
  onClose,
}: {
  photographs: readonly Photograph[];
  /** The ids of the takes that go out now. */
  going: readonly string[];
  onChoose: (takes: string[]) => void;
  onClose: () => void;
}) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set(going));
  const ofOne = (p: Photograph) => p.takes.filter(t => chosen.has(t.id));
  const set = (p: Photograph, takes: readonly string[]) =>
    setChosen(now => new Set([...[...now].filter(id => !p.takes.some(t => t.id === id)), ...takes]));
  return (
    <Dialog title="What goes out" wide onClose={onClose}>
      <p>
        {countOf(photographs.filter(p => ofOne(p).length).length, 'photograph')} of {photographs.length}.{' '}
        <LinkButton onPress={() => setChosen(new Set(photographs.map(p => currentTake(p).id)))}>
          All
        </LinkButton>{' '}
        <LinkButton onPress={() => setChosen(new Set())}>None</LinkButton>
      </p>
      <List>
        {photographs.map(p => {
          const takes = ofOne(p);
          const [shown = currentTake(p)] = takes;
          return (
            <li key={p.id}>
              <input
                type="checkbox"
                aria-label={p.title}
                checked={takes.length > 0}
                onChange={event => set(p, event.target.checked ? [currentTake(p).id] : [])}
              />
              <TakePicture take={shown} edge={160} />
              <div>
                <b title={p.title}>{p.title}</b>
                {p.takes.length > 1 ? (
                  <Picker
                    label={`Take of ${p.title}`}
                    value={takes.length > 1 ? 'several' : shown.id}
                    options={[
                      ...(takes.length > 1 ? [{ value: 'several', text: `${takes.length} takes` }] : []),
                      ...p.takes.map(t => ({
                        value: t.id,
                        text: takeInWords(t),
                      })),
                    ]}
                    onChange={id => id !== 'several' && set(p, [id])}
                  />
                ) : (
                  <small>Take {shown.letter}</small>
                )}
              </div>
            </li>
          );
        })}
      </List>
      <DialogActions>
        <Button onPress={onClose}>Cancel</Button>
        <Button $ink isDisabled={!chosen.size} onPress={() => onChoose([...chosen])}>
          Take these
        </Button>
      </DialogActions>
    </Dialog>
  );
}
