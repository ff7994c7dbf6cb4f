import { useId, useState } from 'react';
import styled from 'styled-components';
import { isOnPainted, partOf } from '../../core/treatment/laying';
import { asLookHas, type Look } from '../../core/treatment/looks';
import type { Treatment } from '../../core/treatment/schema';
import { Button } from '../ui/buttons';
import { Dialog, DialogActions } from '../ui/overlays';
import { nameOfStep } from '../takes/useEdits';

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

/** Keeps steps of a treatment as a look, or changes the name and the group of one that is kept. */
export function KeepLook({
  of,
  look,
  groups,
  onKeep,
  onClose,
}: {
  /** The treatment whose steps are offered; null where only name and group are changed. */
  of: Treatment | null;
  look?: Pick<Look, 'name' | 'group'>;
  /** Groups that there are. */
  groups: readonly string[];
  onKeep: (look: Look) => void;
  onClose: () => void;
}) {
  const steps = of?.steps ?? [];
  const [name, setName] = useState(look?.name ?? '');
  const [group, setGroup] = useState(look?.group ?? MY_LOOKS);
  // What is off, and what was painted for this photograph alone, is left out at first.
  const [left, setLeft] = useState<ReadonlySet<string>>(
    () => new Set(steps.filter(s => !s.enabled || (of && isOnPainted(s, of))).map(s => s.id)),
  );
  const list = useId();
  const picked = steps.filter(s => !left.has(s.id));
  const isReady = name.trim() !== '' && group.trim() !== '' && (of === null || picked.length > 0);
  const keep = () => {
    if (!isReady) return;
    const all = of && picked.length === of.steps.length;
    const treatment =
      of &&
      (all
        ? asLookHas(of)
        : partOf(
            of,
            picked.map(s => s.id),
          ));
    onKeep({ name: name.trim(), group: group.trim(), treatment: treatment! });
  };
  return (
    <Dialog title={of ? 'Keep as a look' : 'Name and group'} onClose={onClose}>
      <Form
        onSubmit={event => {
          event.preventDefault();
          keep();
        }}
      >
        <label>
          Name
          <input type="text" value={name} maxLength={80} autoFocus onChange={e => setName(e.target.value)} />
        </label>
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
