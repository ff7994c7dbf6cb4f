import type { ReactNode } from 'react';
import styled from 'styled-components';
import type { ChoiceField, ColourField, FlagField } from '../../core/settings/fields';
import { wordFor, wordWithin } from '../../words/words';
import { LinkButton } from '../ui/buttons';
import { ColourPicker } from '../ui/colour';
import { OnOff } from '../ui/on-off';
import { Picker } from '../ui/overlays';
import type { FieldProps } from './fields';
import { PickOnPicture } from './PickOnPicture';
import { Section } from './Section';

const Choice = styled.div`
  display: grid;
  grid-template-columns: 72px 1fr;
  column-gap: 10px;
  align-items: center;
  height: 32px;
  > span {
    color: var(--ink-2);
  }
  .end {
    display: flex;
    justify-content: flex-end;
    align-items: center;
    gap: 10px;
  }
`;

function Labelled({
  name,
  path,
  control,
  children,
}: {
  name: string;
  path: readonly string[];
  /** What the control is called. */
  control: string;
  children: ReactNode;
}) {
  return (
    <Section data-plain={path.length > 1 || undefined}>
      <Choice data-control={control}>
        <span aria-hidden="true" data-tells={control}>
          {wordFor(name)}
        </span>
        {children}
      </Choice>
    </Section>
  );
}

/** One of several. */
export function ChoiceControl({ name, field, values, path, set }: FieldProps<ChoiceField>) {
  const label = wordFor(name);
  return (
    <Labelled name={name} path={path} control={label}>
      <Picker
        label={label}
        value={String(values[name])}
        options={field.options.map(o => ({ value: o, text: wordWithin(name, o) }))}
        onChange={v => set(path, v, label.toLowerCase())}
        onTry={v => set(path, v)}
      />
    </Labelled>
  );
}

/** On or off. */
export function FlagControl({ name, values, path, set, called }: FieldProps<FlagField>) {
  const label = wordFor(name);
  return (
    <Labelled name={name} path={path} control={label}>
      <OnOff
        label={called ? `${called} ${label.toLowerCase()}` : label}
        isOn={Boolean(values[name])}
        onChange={on => set(path, on, label.toLowerCase())}
      />
    </Labelled>
  );
}

/** A colour: by picker, by number, from the picture, or none where it may be none. */
export function ColourControl({ name, field, values, path, set }: FieldProps<ColourField>) {
  const label = wordFor(name);
  const what = label.toLowerCase();
  return (
    <Labelled name={name} path={path} control={label}>
      <span className="end">
        <PickOnPicture label={label} onPick={colour => set(path, colour, what)} />
        {field.optional && values[name] !== null ? (
          <LinkButton onPress={() => set(path, null, what)}>None</LinkButton>
        ) : null}
        <ColourPicker
          label={label}
          value={String(values[name] ?? '#808080')}
          onChange={colour => set(path, colour)}
          onChangeEnd={colour => {
            if (values[name] !== null) set(path, colour, what);
          }}
        />
      </span>
    </Labelled>
  );
}
