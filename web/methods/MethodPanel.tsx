import { useEffect, useMemo, useRef } from 'react';
import styled from 'styled-components';
import { isLaid, takeOff } from '../../core/methods/run';
import { tell } from '../app/notices';
import { useKeys } from '../app/useKeys';
import { BoardHead } from '../ui/board-head';
import { Button } from '../ui/buttons';
import type { MethodPanelProps } from './method-panel-props';
import { PageBody } from './PageBody';
import { leaveAt } from './taken-up';
import { useReading } from './useReading';
import { useTurning } from './useTurning';

const Pages = styled.ol`
  padding: 0 16px 12px;
  border-bottom: 1px solid var(--rule);
  flex: none;
  button {
    display: flex;
    align-items: center;
    gap: 11px;
    width: 100%;
    height: 29px;
    padding: 0 6px;
    text-align: left;
    color: var(--ink-2);
    border-radius: var(--r-label);
  }
  button:hover {
    background: var(--paper-high);
  }
  i {
    width: 18px;
    height: 18px;
    border-radius: 50%;
    border: 1.5px solid #8a8a8a;
    font: 600 11px/15px var(--sans);
    text-align: center;
    flex: none;
  }
  [data-done] {
    color: var(--ink);
  }
  [data-done] i {
    background: var(--ink);
    border-color: var(--ink);
    color: #fff;
  }
  [aria-current] {
    background: var(--paper-high);
    box-shadow: var(--shade-label);
    color: var(--ink);
    font-weight: 600;
  }
  [aria-current] i {
    background: var(--lamp);
    border-color: var(--lamp-deep);
    color: #1c1c1c;
  }
  @media (max-height: 700px) {
    button {
      height: 25px;
    }
  }
`;

const Body = styled.div`
  overflow: hidden auto;
  scrollbar-width: thin;
  min-height: 0;
  flex: 1;
  padding: 14px 0 12px;
  > p,
  > h3,
  > div {
    padding: 0 16px;
  }
  > p {
    line-height: 1.5;
    font-size: var(--t-lead);
  }
  > p.small {
    font-size: var(--t-body);
    color: var(--ink-2);
    line-height: 1.45;
    margin-top: 12px;
  }
  > h3 {
    font-size: var(--t-body);
    font-weight: 650;
    margin: 13px 0 3px;
  }
  > .act {
    margin-top: 12px;
  }
`;

const Foot = styled.footer`
  flex: none;
  display: flex;
  gap: 8px;
  padding: 10px 16px;
  border-top: 1px solid var(--rule);
  background: var(--paper-high);
  > :first-child {
    margin-right: auto;
  }
`;

/** A method at one of its pages: what it is for, the step that it laid, a control or two, and the way on. */
export function MethodPanel(props: MethodPanelProps) {
  const { picture, treatment, calm, takeId, method, onClose } = props;
  useKeys({ giveUp: onClose });
  const { pages, place, isBusy, problem, show, lay, goOn, skip } = useTurning(props);
  const page = pages[place];
  const next = pages.at(place + 1);
  const beneath = useMemo(() => takeOff(method, page, calm), [method, page, calm]);
  const { read } = useReading(picture, beneath);
  const foot = useRef<HTMLElement>(null);
  const laid = isLaid(method, page, treatment);
  const finish = () => {
    leaveAt(takeId, null);
    onClose();
    tell({ text: `${method.title} is done. What it laid are ordinary steps, each open to change.` });
  };
  // Enter goes on from page to page.
  useEffect(() => foot.current?.querySelector<HTMLElement>('[data-next]')?.focus(), []);

  return (
    <>
      <BoardHead
        title={method.title}
        says={`method, ${place + 1} of ${pages.length}`}
        close="Leave the method"
        onClose={onClose}
      />
      <Pages aria-label={`Pages of ${method.title}`}>
        {pages.map((p, i) => (
          <li key={p.key}>
            <button
              type="button"
              aria-current={i === place ? 'step' : undefined}
              // Which one is chosen is never done.
              data-done={(p.deed.does !== 'choose' && isLaid(method, p, treatment)) || undefined}
              onClick={() => show(p)}
            >
              <i aria-hidden="true">{i + 1}</i>
              {p.name}
            </button>
          </li>
        ))}
      </Pages>
      <Body key={page.key}>
        <PageBody {...props} page={page} read={read} beneath={beneath} isLaid={laid} />
        {problem ? <p role="alert">The photograph could not be read: {problem}</p> : null}
        {!laid && !isBusy && read && page.deed.does !== 'series' ? (
          <div className="act">
            <Button onPress={() => lay(page)}>Lay {page.short} on</Button>
          </div>
        ) : null}
      </Body>
      <Foot ref={foot}>
        <Button isDisabled={place === 0} onPress={() => show(pages[place - 1])}>
          Back
        </Button>
        <Button isDisabled={!next} onPress={skip}>
          Skip
        </Button>
        <Button $ink data-next onPress={next ? goOn : finish}>
          {next ? `Next: ${next.short}` : 'Done'}
        </Button>
      </Foot>
    </>
  );
}
