import { memo, useEffect, useRef, type KeyboardEvent } from 'react';
import { Link } from 'react-router';
import styled from 'styled-components';
import type { Photograph } from '../../contract/photographs';
import type { Series } from '../../contract/series';
import { currentTake, pictureAddress } from '../app/api';
import { KeysHelp } from '../ui/keys-help';

const Column = styled.nav`
  background: #dcdcdc;
  border-right: 1px solid #b5b5b5;
  display: flex;
  flex-direction: column;
  align-items: center;
  padding: 12px 0;
  gap: 10px;
  min-height: 0;
  overflow: hidden auto;
  scrollbar-width: none;
  a {
    position: relative;
    flex: none;
  }
  img {
    max-width: 54px;
    max-height: 46px;
    min-height: 20px;
    min-width: 20px;
    object-fit: cover;
  }
  a[aria-current]::before {
    content: '';
    position: absolute;
    left: -11px;
    top: -3px;
    bottom: -3px;
    width: 4px;
    border-radius: 0 2px 2px 0;
    background: var(--lamp);
    box-shadow: 0 0 0 1px var(--lamp-deep);
  }
  .foot {
    position: sticky;
    bottom: -12px;
    margin: auto 0 -12px;
    flex: none;
    width: 100%;
    display: grid;
    place-items: center;
    background: #dcdcdc;
    border-top: 1px solid #c4c4c4;
  }
  a[aria-current] img {
    outline: 2px solid var(--paper-high);
    box-shadow: var(--shade-label);
  }
`;

/** The neighbours in the series. */
export const Strip = memo(function Strip({
  series,
  current,
}: {
  series: Series | undefined;
  current: Photograph;
}) {
  const here = useRef<HTMLAnchorElement>(null);
  useEffect(() => {
    here.current?.scrollIntoView({ block: 'nearest' });
  }, [current.id, series]);
  // One stop of the Tab key for all of them; arrows go from one to the next.
  const onKey = (event: KeyboardEvent<HTMLElement>) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!by) return;
    const all = [...event.currentTarget.querySelectorAll<HTMLElement>('a')];
    all[all.indexOf(event.target as HTMLElement) + by]?.focus();
    event.preventDefault();
  };
  return (
    <Column aria-label="Neighbouring photographs" onKeyDown={onKey}>
      {(series?.photographs ?? [current]).map(p => {
        const isHere = p.id === current.id;
        return (
          <Link
            key={p.id}
            ref={isHere ? here : undefined}
            to={`/photographs/${p.id}`}
            title={p.title}
            aria-current={isHere ? 'page' : undefined}
            tabIndex={isHere ? 0 : -1}
          >
            <img
              key={pictureAddress(currentTake(p), 160)}
              src={pictureAddress(currentTake(p), 160)}
              alt={p.title}
            />
          </Link>
        );
      })}
      <div className="foot">
        <KeysHelp />
      </div>
    </Column>
  );
});
