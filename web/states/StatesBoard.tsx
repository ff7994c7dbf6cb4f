import { Ellipsis } from 'lucide-react';
import { memo, useCallback, useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import styled from 'styled-components';
import type { Treatment } from '../../core/treatment/treatment';
import { useKeys } from '../app/useKeys';
import { pointed, useTrying } from '../print/useTrying';
import type { Tried } from '../takes/tried';
import type { Line, Moment } from '../takes/line';
import { BoardHead } from '../ui/board-head';
import { Button, IconButton } from '../ui/buttons';
import { Menu } from '../ui/overlays';
import { wordsOfChange } from './change-words';

const List = styled.ol`
  flex: 1;
  min-height: 0;
  overflow: hidden auto;
  scrollbar-width: thin;
  padding: 2px 9px 14px 0;
  list-style: none;
  margin: 0;
  .earlier {
    padding: 8px 16px;
  }
`;

const Row = styled.li`
  position: relative;
  display: flex;
  align-items: center;
  gap: 2px;
  padding-left: 12px;
  > button:first-child {
    flex: 1;
    min-width: 0;
    min-height: 30px;
    padding: 5px 4px 5px 20px;
    text-align: left;
    line-height: 1.35;
    border-radius: var(--r-field);
    outline: none;
    overflow-wrap: anywhere;
  }
  > button:first-child:focus-visible {
    outline: 2px solid var(--lamp-deep);
    outline-offset: -2px;
  }
  > button:first-child:hover {
    background: #fff;
  }
  /* One line from state to state. */
  &::before {
    content: '';
    position: absolute;
    left: 20px;
    top: 0;
    bottom: 0;
    width: 1px;
    background: #b5b5b5;
  }
  &::after {
    content: '';
    position: absolute;
    left: 17px;
    top: 11px;
    width: 7px;
    height: 7px;
    border-radius: 50%;
    background: #8b8b8b;
  }
  &:first-child::before {
    top: 14px;
  }
  &[data-last]::before {
    bottom: auto;
    height: 12px;
  }
  &[data-later] {
    color: var(--ink-2);
    &::after {
      background: var(--paper);
      box-shadow: inset 0 0 0 1.5px #8b8b8b;
    }
  }
  &[data-now] {
    font-weight: 650;
    &::after {
      left: 15px;
      top: 9px;
      width: 11px;
      height: 11px;
      background: var(--lamp);
      box-shadow: 0 0 0 1px var(--lamp-deep);
    }
  }
  .more {
    width: 26px;
    height: 26px;
  }
`;

/** States before now that are shown at first, and how many more at a time. */
const AT_FIRST = 100;

/** What can be done with a state of the history. */
export type MomentAction = 'compare' | 'take';

interface Entry {
  key: string;
  moment: Moment;
  /** Steps of redo to it; back where it is negative. */
  by: number;
  words: string;
}

const Entry = memo(function Entry({
  entry: { key, by, words },
  isLast,
  onPoint,
  onGo,
  onAct,
}: {
  entry: Entry;
  isLast: boolean;
  onPoint: (key: string, on: boolean) => void;
  onGo: (by: number) => void;
  onAct: (key: string, action: MomentAction) => void;
}) {
  return (
    <Row
      data-context
      data-now={by === 0 || undefined}
      data-later={by > 0 || undefined}
      data-last={isLast || undefined}
    >
      <button
        type="button"
        data-state={by}
        aria-current={by === 0 ? 'step' : undefined}
        {...pointed(on => onPoint(key, on))}
        onFocus={event => event.target.matches(':focus-visible') && onPoint(key, true)}
        onBlur={() => onPoint(key, false)}
        onClick={() => onGo(by)}
      >
        {words}
      </button>
      <Menu
        label={`More for ${words}`}
        trigger={
          <IconButton className="more" aria-label={`More for ${words}`}>
            <Ellipsis aria-hidden="true" />
          </IconButton>
        }
        sections={[
          {
            entries: [
              { id: 'compare', text: 'Compare with it' },
              { id: 'take', text: 'Make a take of it' },
            ],
          },
        ]}
        onAction={action => onAct(key, action as MomentAction)}
      />
    </Row>
  );
});

/** The states of a take, the newest first: looked at while pointed at, gone to by a press. */
export function StatesBoard({
  line,
  isTold,
  onEarlier,
  onTry,
  onGo,
  onAct,
  onClose,
}: {
  line: Line;
  /** The beginning is known. */
  isTold: boolean;
  onEarlier: () => Promise<void>;
  /** Must stay the same function. */
  onTry: (tried: Tried | null) => void;
  /** Goes along the history by so many states; must stay the same function. */
  onGo: (by: number) => void;
  onAct: (action: MomentAction, moment: { treatment: Treatment; label: string }) => void;
  onClose: () => void;
}) {
  useKeys({ giveUp: onClose });
  /** How many states before now are shown: what was long ago is asked for. */
  const [shown, setShown] = useState(AT_FIRST);
  const hides = line.past.length > shown;
  const entries = useMemo((): Entry[] => {
    const all = [...line.past, line.now, ...line.future];
    const from = Math.max(0, line.past.length - shown);
    return all
      .map((moment, i) => ({ moment, i }))
      .slice(from)
      .map(({ moment, i }): Entry => {
        const before = all[i - 1]?.treatment ?? null;
        const isFirst = i === 0 && isTold;
        const words = isFirst
          ? moment.label || 'As it was begun'
          : wordsOfChange(moment.label, before, moment.treatment);
        return { key: String(i), moment, by: i - line.past.length, words };
      })
      .reverse();
  }, [line, isTold, shown]);
  const triedOf = useCallback(
    (key: string): Tried | null => {
      const entry = entries.find(e => e.key === key);
      if (!entry || entry.by === 0) return null;
      return { name: entry.words, treatment: entry.moment.treatment, then: 'goes back to it' };
    },
    [entries],
  );
  const { point } = useTrying(triedOf, onTry);
  const latest = useRef({ entries, onAct, point });
  useEffect(() => {
    latest.current = { entries, onAct, point };
  });
  const act = useCallback((key: string, action: MomentAction) => {
    const entry = latest.current.entries.find(e => e.key === key);
    if (entry) latest.current.onAct(action, { treatment: entry.moment.treatment, label: entry.words });
  }, []);
  const onPoint = useCallback((key: string, on: boolean) => latest.current.point(key, on), []);
  const onKey = (event: KeyboardEvent<HTMLElement>) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!by || !(event.target as HTMLElement).matches('[data-state]')) return;
    const all = [...event.currentTarget.querySelectorAll<HTMLElement>('[data-state]')];
    all[all.indexOf(event.target as HTMLElement) + by]?.focus();
    event.preventDefault();
  };
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => list.current?.querySelector<HTMLElement>('[aria-current]')?.focus(), []);
  return (
    <>
      <BoardHead title="History" says="kept between visits" close="Close the history" onClose={onClose} />
      <List ref={list} onKeyDown={onKey}>
        {entries.map((entry, i) => (
          <Entry
            key={entry.key}
            entry={entry}
            isLast={i === entries.length - 1 && isTold && !hides}
            onPoint={onPoint}
            onGo={onGo}
            onAct={act}
          />
        ))}
        {isTold && !hides ? null : (
          <li className="earlier">
            <Button
              $small
              onPress={() => {
                setShown(n => n + AT_FIRST);
                if (!hides) void onEarlier();
              }}
            >
              Earlier
            </Button>
          </li>
        )}
      </List>
    </>
  );
}
