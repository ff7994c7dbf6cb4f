import { useCallback, useRef, useState } from 'react';
import { Input, TextArea, TextField } from 'react-aria-components';
import styled from 'styled-components';

const Field = styled(TextField)`
  input,
  textarea {
    display: block;
    width: calc(100% + 12px);
    margin: 0 -6px;
    padding: 3px 6px;
    border: 1px solid transparent;
    border-radius: 2px;
    background: transparent;
    resize: none;
    field-sizing: content;
  }
  input:hover,
  textarea:hover {
    background: #fff;
  }
  input:focus,
  textarea:focus {
    outline: none;
    background: #fff;
    border-color: var(--edge);
    box-shadow: 0 2px 0 var(--lamp);
  }
  textarea {
    line-height: 1.45;
    color: var(--ink-2);
    min-height: 28px;
  }
  &[data-display] textarea {
    font: 400 var(--t-display) / 1 var(--serif);
    letter-spacing: -0.012em;
    color: var(--ink);
    margin-bottom: 8px;
  }
`;

/** Text changed where it stands: Enter or leaving it keeps it, Escape gives the old one back. */
export function InPlace({
  label,
  value,
  onChange,
  placeholder,
  required,
  maxLength,
  multiline,
  display,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  placeholder?: string;
  required?: boolean;
  maxLength: number;
  multiline?: boolean;
  display?: boolean;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const finish = () => {
    const next = draft?.trim();
    setDraft(null);
    if (next !== undefined && next !== value && (next || !required)) onChange(next);
  };
  const Part = multiline || display ? TextArea : Input;
  return (
    <Field
      aria-label={label}
      value={draft ?? value}
      onChange={setDraft}
      maxLength={maxLength}
      data-display={display || undefined}
      onBlur={finish}
      onKeyDown={event => {
        const target = event.target as HTMLElement;
        if (event.key === 'Escape') {
          setDraft(value);
          requestAnimationFrame(() => target.blur());
        } else if (event.key === 'Enter' && !(multiline && event.shiftKey)) {
          event.preventDefault();
          target.blur();
        }
      }}
    >
      <Part placeholder={placeholder} />
    </Field>
  );
}

const Name = styled.input`
  min-width: 0;
  flex: 1;
  height: 26px;
  padding: 0 6px;
  margin-left: -7px;
  border: 1px solid var(--edge);
  border-radius: 2px;
  background: #fff;
  font-size: 15px;
  font-weight: 650;
  box-shadow: 0 2px 0 var(--lamp);
  &:focus {
    outline: none;
  }
`;

/** A name being given: Enter or leaving it keeps it, Escape (null) keeps the old one. */
export function NameField({
  label,
  value,
  onDone,
}: {
  label: string;
  value: string;
  onDone: (name: string | null) => void;
}) {
  const done = useRef(false);
  const finish = (name: string | null) => {
    if (done.current) return;
    done.current = true;
    onDone(name);
  };
  const chosen = useCallback((input: HTMLInputElement | null) => {
    // A menu that closes gives focus back to its button first.
    requestAnimationFrame(() => input?.select());
  }, []);
  return (
    <Name
      ref={chosen}
      aria-label={label}
      defaultValue={value}
      maxLength={80}
      onBlur={event => finish(event.target.value.trim())}
      onKeyDown={event => {
        event.stopPropagation();
        if (event.key === 'Enter') finish(event.currentTarget.value.trim());
        else if (event.key === 'Escape') finish(null);
      }}
    />
  );
}
