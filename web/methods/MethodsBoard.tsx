import { useCallback, useEffect, useMemo, useRef } from 'react';
import styled from 'styled-components';
import type { Facts } from '../../core/methods/facts';
import { isFor, isLaid, isReused, layPage, pagesFor } from '../../core/methods/run';
import type { Method } from '../../core/methods/schema';
import type { Treatment } from '../../core/treatment/treatment';
import { methods } from '../../words/methods';
import { countOf, listed } from '../../words/words';
import { useKeys } from '../app/useKeys';
import type { PictureInfo } from '../engine/tiles';
import { SmallPicture } from '../print/SmallPicture';
import { pointed, useTrying } from '../print/useTrying';
import type { Tried } from '../takes/tried';
import { BoardHead } from '../ui/board-head';
import { LinkButton } from '../ui/buttons';
import { useBare, useReading, type Read } from './useReading';

/** The methods as they would end on this photograph. */

const Rows = styled.ul`
  overflow: hidden auto;
  scrollbar-width: thin;
  padding: 2px 16px 16px;
  display: grid;
  gap: 8px;
  align-content: start;
  button {
    display: grid;
    grid-template-columns: 92px 1fr;
    column-gap: 11px;
    width: 100%;
    padding: 4px;
    text-align: left;
    align-items: start;
    background: var(--paper-high);
    box-shadow: var(--shade-label);
    border-radius: var(--r-label);
  }
  button[data-tried] {
    outline: 2px solid var(--lamp);
    box-shadow:
      0 0 0 3px var(--lamp-deep),
      var(--shade-label);
  }
  canvas {
    width: 92px;
    height: 72px;
    background: #d2d2d2;
  }
  b {
    display: block;
    font-weight: 600;
    margin-top: 1px;
  }
  span > span {
    display: block;
    font-size: var(--t-small);
    line-height: 1.3;
    color: var(--ink-2);
  }
  .begun {
    color: var(--lamp-deep);
    font-weight: 600;
  }
`;

const Not = styled.p`
  font-size: var(--t-small);
  line-height: 1.4;
  color: var(--ink-2);
  padding-top: 4px;
`;

/** A treatment with all pages of a method; of values what it is read from now, of pages those that the photograph has. */
function endOf(method: Method, treatment: Treatment, now: Read, bare: Read): Treatment {
  return pagesFor(method, bare.facts).reduce(
    (of, page) => layPage(method, page, of, now.reading, now.facts),
    treatment,
  );
}

const withoutColour = (facts: Facts) =>
  facts.grey ? 'it has no colour' : 'nothing in it stands out by its colour';

export function MethodsBoard({
  picture,
  treatment,
  onTry,
  onChoose,
  onAfresh,
  onClose,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  /** Must stay the same function. */
  onTry: (tried: Tried | null) => void;
  onChoose: (method: Method) => void;
  /** Begins a bare take. */
  onAfresh: () => void;
  onClose: () => void;
}) {
  useKeys({ giveUp: onClose });
  const bare = useBare(treatment);
  const { read, problem } = useReading(picture, bare);
  const rows = useMemo(
    () =>
      // Which there are is known once the photograph has been read.
      (read ? methods.map(method => ({ method, facts: read.facts })) : []).map(({ method, facts }) => {
        const pages = pagesFor(method, facts);
        const done = pages.filter(
          page =>
            page.deed.does !== 'choose' &&
            isLaid(method, page, treatment) &&
            !isReused(method, page, treatment),
        ).length;
        return { method, pages: pages.length, done, fits: isFor(method, facts) };
      }),
    [read, treatment],
  );
  // What it would be in the end, going on from what is there.
  const { read: now } = useReading(picture, treatment);
  const ends = useMemo(
    () =>
      new Map(
        read && now
          ? methods
              .filter(m => isFor(m, read.facts))
              .map(m => [m.key, endOf(m, treatment, now, read)] as const)
          : [],
      ),
    [read, now, treatment],
  );
  const triedOf = useCallback(
    (key: string): Tried | null => {
      const method = methods.find(m => m.key === key);
      const end = ends.get(key);
      return method && end ? { name: method.title, treatment: end, then: 'begins it, page by page' } : null;
    },
    [ends],
  );
  const { at, point } = useTrying(triedOf, onTry);
  const not = rows.filter(({ fits }) => !fits).map(({ method }) => method.title);
  const list = useRef<HTMLUListElement>(null);
  const isRead = read !== null;
  useEffect(() => list.current?.querySelector('button')?.focus({ preventScroll: true }), [isRead]);
  return (
    <>
      <BoardHead
        title="Methods"
        says="done with you, page by page"
        close="Close the methods"
        onClose={onClose}
      />
      <Rows ref={list} aria-label="Methods">
        {rows
          .filter(({ fits }) => fits)
          .map(({ method, pages, done }) => {
            const end = ends.get(method.key);
            return (
              <li key={method.key}>
                <button
                  type="button"
                  data-tried={method.key === at || undefined}
                  aria-label={method.title}
                  aria-describedby={`about-${method.key}`}
                  {...pointed(on => point(method.key, on))}
                  onFocus={event => point(method.key, event.currentTarget.matches(':focus-visible'))}
                  onBlur={() => point(method.key, false)}
                  onClick={() => onChoose(method)}
                >
                  {end ? (
                    <SmallPicture picture={picture} treatment={end} width={92} height={72} />
                  ) : (
                    <canvas width={92} height={72} aria-hidden="true" />
                  )}
                  <span id={`about-${method.key}`}>
                    <b>{method.title}</b>
                    <span>{method.aim}</span>
                    <span className={done ? 'begun' : undefined}>
                      {done ? `Begun, ${done} of ${pages}` : countOf(pages, 'page')}
                    </span>
                  </span>
                </button>
              </li>
            );
          })}
        {!read && !problem ? (
          <li>
            <Not role="status">Reading the photograph …</Not>
          </li>
        ) : null}
        {treatment.steps.length > 0 && rows.every(({ done }) => done === 0) ? (
          <li>
            <Not>
              They go on from what is there.{' '}
              <LinkButton onPress={onAfresh}>Begin afresh on a new take</LinkButton> that is bare.
            </Not>
          </li>
        ) : null}
        {not.length && read ? (
          <li>
            <Not>
              Not for this photograph, as {withoutColour(read.facts)}: {listed(not)}.
            </Not>
          </li>
        ) : null}
        {problem ? (
          <li>
            <Not role="alert">The photograph could not be read: {problem}</Not>
          </li>
        ) : null}
      </Rows>
    </>
  );
}
