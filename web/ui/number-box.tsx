import { memo, useEffect, type ChangeEvent, type KeyboardEvent, type RefObject } from 'react';
import { useLocale } from 'react-aria-components';
import styled from 'styled-components';
import { readNumber, written, type Shown } from '../../words/number-format';

const Box = styled.input`
  width: 100%;
  height: 23px;
  background: var(--paper-high);
  border: 0;
  border-bottom: 1px solid var(--edge);
  border-radius: 2px 2px 0 0;
  text-align: right;
  padding: 0 4px 0 1px;
  font-weight: 550;
  font-size: var(--t-body);
  &:hover {
    background: #fff;
  }
  &:focus {
    outline: none;
    border-bottom: 2px solid var(--lamp);
  }
`;

/** How far an arrow goes: a step, ten of them with Shift, a tenth with Alt. */
const stepsBy = ({ key, shiftKey, altKey }: KeyboardEvent): number =>
  (key === 'ArrowUp' ? 1 : key === 'ArrowDown' ? -1 : 0) * (shiftKey ? 10 : altKey ? 0.1 : 1);

/**
 * A number to be typed. What is half typed is marked (`data-typed`; `app/keys.ts` asks for it): Enter takes it, and so does
 * leaving; Escape drops it. Where the number changes meanwhile, what is being typed stays.
 */
export const NumberBox = memo(function NumberBox({
  name,
  value,
  min,
  max,
  step,
  shownTimes,
  unit,
  decimals,
  centred,
  leastDecimals,
  input,
  onTyped,
  after,
}: Shown & {
  name: string;
  value: number;
  min: number;
  max: number;
  step: number;
  input: RefObject<HTMLInputElement | null>;
  /** Must stay the same function. */
  onTyped: (value: number) => void;
  /** What has the focus when a number has been taken by Enter: the field itself where there is nothing else. */
  after?: RefObject<HTMLElement | null>;
}) {
  const { locale } = useLocale();
  const shown = { shownTimes, unit, decimals, centred, leastDecimals };
  const text = written(value, shown, locale);
  const show = (written: string) => {
    if (input.current) input.current.value = written;
  };
  const isTyped = () => input.current?.dataset.typed !== undefined;
  useEffect(() => {
    if (!isTyped()) show(text);
  });

  const within = (asked: number) =>
    Number(Math.min(max * shownTimes, Math.max(min * shownTimes, asked)).toFixed(decimals)) / shownTimes;
  const drop = () => {
    delete input.current?.dataset.typed;
    show(text);
  };
  const take = () => {
    if (!isTyped()) return;
    const read = readNumber(input.current!.value, decimals);
    drop();
    if (read === null) return;
    const taken = within(read);
    show(written(taken, shown, locale));
    if (taken !== value) onTyped(taken);
  };
  /** The next number that is typed replaces this one. */
  const goOn = () => {
    if (after?.current) after.current.focus();
    else input.current?.select();
  };
  const onKey = (event: KeyboardEvent<HTMLInputElement>) => {
    const by = stepsBy(event);
    if (event.key === 'Enter') {
      take();
      goOn();
    } else if (event.key === 'Escape' && isTyped()) {
      drop();
      goOn();
      event.stopPropagation();
    } else if (by !== 0) {
      event.preventDefault();
      const from = (isTyped() ? readNumber(input.current!.value, decimals) : null) ?? value * shownTimes;
      const taken = within(from + by * step * shownTimes);
      drop();
      show(written(taken, shown, locale));
      if (taken !== value) onTyped(taken);
    }
  };
  const onChange = ({ currentTarget }: ChangeEvent<HTMLInputElement>) => {
    currentTarget.dataset.typed = '';
  };
  return (
    <Box
      ref={input}
      type="text"
      inputMode="decimal"
      autoComplete="off"
      spellCheck={false}
      aria-label={`${name}, number`}
      defaultValue={text}
      onFocus={event => event.currentTarget.select()}
      onChange={onChange}
      onKeyDown={onKey}
      onBlur={take}
    />
  );
});
