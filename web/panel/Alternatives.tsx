import { Plus } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { showAlternative, shownOf, trayWith } from '../../core/treatment/alternatives';
import type { Treatment } from '../../core/treatment/treatment';
import { useTrying } from '../print/useTrying';
import { namesOfAlternatives } from '../../words/step-names';
import type { Tried } from '../takes/tried';

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 5px;
  padding: 2px 3px 5px;
  margin: 0 -3px;
  /* Three rows; more of them are scrolled, so that the settings keep their room. */
  max-height: 92px;
  overflow: hidden auto;
  scrollbar-width: thin;
`;

const Chip = styled(AriaButton)`
  height: 24px;
  padding: 0 9px;
  max-width: 168px;
  border-radius: 12px;
  border: 1px solid #b3b3b3;
  background: var(--paper-high);
  font-size: var(--t-small);
  font-weight: 500;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  &[data-hovered] {
    background: #fff;
  }
  &[aria-pressed='true'] {
    background: var(--ink);
    border-color: var(--ink);
    color: #fff;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
  &.add {
    padding: 0;
    width: 24px;
    border-style: dashed;
    border-color: #777;
    color: var(--ink-2);
    display: grid;
    place-items: center;
  }
  svg {
    width: 13px;
    height: 13px;
  }
`;

/** The alternatives that lie in the tray of a step: what is pointed at shows in the print, a press puts it to work. */
export function Alternatives({
  treatment,
  stepId,
  onTry,
  onShow,
  onAdd,
}: {
  /** What is tried is laid on this one. */
  treatment: Treatment;
  stepId: string;
  /** Must stay the same function. */
  onTry: (tried: Tried | null) => void;
  onShow: (stepId: string) => void;
  onAdd: () => void;
}) {
  const tray = useMemo(() => trayWith(treatment, stepId), [treatment, stepId]);
  const names = namesOfAlternatives(tray);
  const triedOf = useCallback(
    (id: string): Tried | null => {
      const shown = showAlternative(treatment, id);
      const at = tray.findIndex(s => s.id === id);
      return shown === treatment || at < 0
        ? null
        : { name: namesOfAlternatives(tray)[at], treatment: shown, then: 'puts it to work' };
    },
    [treatment, tray],
  );
  const { point } = useTrying(triedOf, onTry);
  const shown = shownOf(tray)?.id;
  const row = useRef<HTMLDivElement>(null);
  useEffect(() => {
    row.current?.querySelector('[aria-pressed=true]')?.scrollIntoView({ block: 'nearest' });
  }, [shown]);
  if (tray.length < 2) return null;
  return (
    <Row ref={row} role="group" aria-label="Alternatives in this tray">
      {tray.map((step, i) => (
        <Chip
          key={step.id}
          aria-pressed={!step.alternative?.aside}
          aria-label={names[i]}
          onPress={() => {
            point(step.id, false);
            onShow(step.id);
          }}
          onHoverStart={() => point(step.id, true)}
          onHoverEnd={() => point(step.id, false)}
          onFocusChange={has => point(step.id, has && document.querySelector(':focus-visible') !== null)}
        >
          {names[i]}
        </Chip>
      ))}
      <Chip className="add" aria-label="Add an alternative" onPress={onAdd}>
        <Plus aria-hidden="true" />
      </Chip>
    </Row>
  );
}
