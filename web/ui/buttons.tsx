import { Button as AriaButton, ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import styled, { css } from 'styled-components';

const answers = css`
  &[data-hovered] {
    background: #fff;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
  &[data-disabled] {
    cursor: default;
  }
`;

/** A button; `$ink` is the one main thing to do. */
export const Button = styled(AriaButton)<{ $ink?: boolean; $small?: boolean }>`
  height: ${p => (p.$small ? 26 : 30)}px;
  padding: 0 ${p => (p.$small ? 10 : 14)}px;
  border-radius: var(--r-field);
  border: 1px solid #a8a8a8;
  background: var(--paper-high);
  font-weight: 550;
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: 8px;
  white-space: nowrap;
  ${answers}
  ${p =>
    p.$ink &&
    css`
      background: var(--ink);
      border-color: var(--ink);
      color: #fff;
      &[data-hovered] {
        background: #000;
      }
    `}
  &[data-disabled] {
    color: #6f6f6f;
    background: transparent;
    border-color: #c2c2c2;
  }
`;

/** A button that is only a sign; it carries its name in aria-label. */
export const IconButton = styled(AriaButton)`
  width: 30px;
  height: 30px;
  display: grid;
  place-items: center;
  border-radius: var(--r-field);
  color: var(--ink-2);
  flex: none;
  ${answers}
  &[data-disabled] {
    color: #9a9a9a;
    background: none;
  }
  svg {
    width: 16px;
    height: 16px;
    stroke-width: 1.75;
  }
`;

/** Words that do something. */
export const LinkButton = styled(AriaButton)`
  text-decoration: underline;
  text-underline-offset: 3px;
  text-decoration-color: var(--edge);
  ${answers}
  &[data-hovered] {
    background: none;
    text-decoration-color: currentColor;
  }
`;

const Boxed = styled(ToggleButtonGroup)`
  display: flex;
  height: 30px;
  border: 1px solid #c2c2c2;
  border-radius: 5px;
  background: var(--paper-high);
  overflow: hidden;
`;

const Part = styled(ToggleButton)`
  flex: 1;
  padding: 0 6px;
  font-weight: 500;
  white-space: nowrap;
  & + & {
    box-shadow: -1px 0 0 #d6d6d6;
  }
  &[data-hovered] {
    background: #fff;
  }
  &[data-selected] {
    background: var(--ink);
    color: #fff;
  }
  &[data-disabled] {
    color: #6f6f6f;
    cursor: default;
    background: none;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: -2px;
  }
`;

/** A few values side by side, one of them taken. */
export function Segments<V extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: V;
  options: { value: V; text: string; disabled?: boolean }[];
  onChange: (value: V) => void;
}) {
  return (
    <Boxed
      aria-label={label}
      selectionMode="single"
      disallowEmptySelection
      selectedKeys={[value]}
      onSelectionChange={keys => onChange([...keys][0] as V)}
    >
      {options.map(o => (
        <Part key={o.value} id={o.value} isDisabled={o.disabled}>
          {o.text}
        </Part>
      ))}
    </Boxed>
  );
}
