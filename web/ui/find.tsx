import { Search } from 'lucide-react';
import styled from 'styled-components';

const Field = styled.label`
  display: flex;
  align-items: center;
  gap: 8px;
  height: 29px;
  padding: 0 9px;
  background: var(--paper-high);
  border-bottom: 1px solid var(--edge);
  color: var(--ink-2);
  svg {
    width: 14px;
    height: 14px;
    flex: none;
  }
  input {
    flex: 1;
    min-width: 0;
    border: 0;
    background: none;
    outline: none;
    color: var(--ink);
  }
  &:focus-within {
    box-shadow: 0 2px 0 var(--lamp-deep);
  }
`;

/** A field to find something of a list by its name. */
export function Find({
  label,
  value,
  onChange,
  width,
  isFirst,
}: {
  label: string;
  value: string;
  onChange: (wanted: string) => void;
  width?: number;
  /** It has the focus as soon as it is there. */
  isFirst?: boolean;
}) {
  return (
    <Field style={{ width }}>
      <Search aria-hidden="true" />
      <input
        type="search"
        autoFocus={isFirst}
        aria-label={label}
        placeholder={label}
        value={value}
        onChange={event => onChange(event.target.value)}
      />
    </Field>
  );
}
