import { useRef, type KeyboardEvent, type ReactNode } from 'react';
import styled from 'styled-components';

const Body = styled.div<{ $columns: number }>`
  flex: 1;
  min-height: 0;
  overflow: hidden auto;
  scrollbar-width: thin;
  padding: 0 16px 14px;
  /* What is out of sight is not laid on the screen: each small picture there would cost at every frame. */
  section {
    content-visibility: auto;
    contain-intrinsic-size: auto 300px;
    margin: 0 -4px;
    padding: 0 4px 4px;
  }
  h3 {
    display: flex;
    justify-content: space-between;
    align-items: baseline;
    font-weight: 650;
    margin: 12px 0 7px;
  }
  h3 small {
    font-size: var(--t-small);
    font-weight: 400;
    color: var(--ink-2);
  }
  section:first-child h3 {
    margin-top: 0;
  }
  .cards {
    display: grid;
    grid-template-columns: repeat(${p => p.$columns}, minmax(0, 1fr));
    gap: 8px;
  }
  p {
    color: var(--ink-2);
    line-height: 1.45;
  }
`;

/** Cards under the names of their groups; arrows go from one to the next. */
export function CardGrid<T>({
  groups,
  columns,
  notes,
  card,
  none,
}: {
  groups: ReadonlyMap<string, readonly T[]>;
  columns: number;
  /** What stands beside the names of groups. */
  notes?: Readonly<Record<string, string>>;
  card: (item: T) => ReactNode;
  /** What is said where nothing is found. */
  none: string;
}) {
  const body = useRef<HTMLDivElement>(null);
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -columns, ArrowDown: columns }[event.key];
    if (!by) return;
    const all = [...(body.current?.querySelectorAll<HTMLElement>('[data-card]') ?? [])];
    const i = all.indexOf(event.target as HTMLElement);
    if (i < 0) return;
    all[Math.min(all.length - 1, Math.max(0, i + by))].focus();
    event.preventDefault();
  };
  return (
    <Body ref={body} $columns={columns} onKeyDown={onKey}>
      {[...groups].map(([group, items]) => (
        <section key={group} aria-label={group}>
          <h3>
            {group}
            {notes?.[group] ? <small>{notes[group]}</small> : null}
          </h3>
          <div className="cards">{items.map(card)}</div>
        </section>
      ))}
      {groups.size === 0 ? <p>{none}</p> : null}
    </Body>
  );
}
