import { useId, useMemo, useState } from 'react';
import styled from 'styled-components';
import { isOnPainted, partOf, withoutAside } from '../../core/treatment/laying';
import { heldBy } from '../../core/treatment/shared';
import { asLookHas, type Look } from '../../core/treatment/looks';
import { bareTreatment, type Step, type Treatment } from '../../core/treatment/treatment';
import { Button } from '../ui/buttons';
import { Dialog, DialogActions } from '../ui/overlays';
import { nameOfStep } from '../../words/step-names';

const Form = styled.form`
  display: grid;
  gap: 12px;
  margin-top: 12px;
  > label {
    display: grid;
    gap: 4px;
    color: var(--ink-2);
  }
  input[type='text'] {
    height: 30px;
    padding: 0 8px;
    border: 0;
    border-bottom: 1px solid var(--edge);
    background: #fff;
    color: var(--ink);
  }
  fieldset {
    border: 0;
    padding: 0;
    display: grid;
    gap: 5px;
    max-height: 220px;
    overflow: auto;
  }
  legend {
    color: var(--ink-2);
    padding: 0 0 5px;
  }
  fieldset label {
    display: flex;
    gap: 9px;
  }
`;

export const MY_LOOKS = 'My looks';

/** What was asked for: a name, a group, and which steps, alone by themselves. */
export interface Kept extends Look {
  ids: string[];
}

/** Asks for what a look is made of: its name, its group, its steps, as far as each is asked for. */
export function KeepLook({
  title,
  of: whole,
  name: named,
  group: grouped,
  groups,
  lookId,
  onKeep,
  onClose,
}: {
  title: string;
  /** The treatment whose steps are offered; null where none are asked for. */
  of: Treatment | null;
  /** What it is called so far; null where that is not asked for, and likewise its group. */
  name: string | null;
  group: string | null;
  /** Groups that there are. */
  groups: readonly string[];
  /** A look that steps follow already: those are picked at first. */
  lookId?: string;
  onKeep: (kept: Kept) => void;
  onClose: () => void;
}) {
  const of = useMemo(() => whole && withoutAside(whole), [whole]);
  const steps = of?.steps ?? [];
  const [name, setName] = useState(named ?? '');
  const [group, setGroup] = useState(grouped ?? MY_LOOKS);
  // What is off, and what was painted for this photograph alone, is left out at first.
  const [left, setLeft] = useState<ReadonlySet<string>>(() => {
    const held = of && lookId !== undefined ? heldBy(of, lookId) : [];
    const isLeft = (s: Step) =>
      held.length ? !held.some(h => h.id === s.id) : !s.enabled || (of !== null && isOnPainted(s, of));
    return new Set(steps.filter(isLeft).map(s => s.id));
  });
  const list = useId();
  const ids = steps.filter(s => !left.has(s.id)).map(s => s.id);
  const isReady =
    (named === null || name.trim() !== '') &&
    (grouped === null || group.trim() !== '') &&
    (of === null || ids.length > 0);
  const keep = () => {
    if (!isReady) return;
    const isAll = ids.length === steps.length;
    const treatment = asLookHas(of === null ? bareTreatment() : isAll ? of : partOf(of, ids));
    onKeep({ name: name.trim(), group: group.trim(), ids, treatment });
  };
  return (
    <Dialog title={title} onClose={onClose}>
      <Form
        onSubmit={event => {
          event.preventDefault();
          keep();
        }}
      >
        {named === null ? null : (
          <label>
            Name
            <input
              type="text"
              value={name}
              maxLength={80}
              autoFocus
              onChange={e => setName(e.target.value)}
            />
          </label>
        )}
        {grouped === null ? null : (
          <label>
            Group
            <input
              type="text"
              value={group}
              maxLength={60}
              list={list}
              onChange={e => setGroup(e.target.value)}
            />
          </label>
        )}
        <datalist id={list}>
          {groups.map(g => (
            <option key={g} value={g} />
          ))}
        </datalist>
        {of ? (
          <fieldset>
            <legend>Steps</legend>
            {steps.map(s => (
              <label key={s.id}>
                <input
                  type="checkbox"
                  checked={!left.has(s.id)}
                  onChange={({ target }) =>
                    setLeft(now => {
                      const next = new Set(now);
                      if (target.checked) next.delete(s.id);
                      else next.add(s.id);
                      return next;
                    })
                  }
                />
                {nameOfStep(s)}
              </label>
            ))}
          </fieldset>
        ) : null}
        <DialogActions style={{ marginTop: 6 }}>
          <Button onPress={onClose}>Leave it</Button>
          <Button $ink type="submit" isDisabled={!isReady}>
            {of ? 'Keep it' : 'Take it'}
          </Button>
        </DialogActions>
      </Form>
    </Dialog>
  );
}
