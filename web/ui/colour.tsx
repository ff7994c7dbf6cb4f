import { Suspense } from 'react';
import { Button as AriaButton, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import styled from 'styled-components';
import type { ColourPartsProps } from './colour-parts';
import { lazily } from './lazily';

const Swatch = styled(AriaButton)`
  width: 46px;
  height: 20px;
  border-radius: 10px;
  flex: none;
  box-shadow:
    inset 0 1px 2px rgb(0 0 0 / 0.35),
    inset 0 0 0 1px rgb(0 0 0 / 0.15);
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
`;

const Float = styled(Popover)`
  background: var(--paper-high);
  border-radius: var(--r-field);
  box-shadow: var(--shade-float);
  padding: 12px;
`;

const Form = styled(Dialog)`
  outline: none;
  width: 208px;
`;

/** What it looks like until its parts are there. */
const Coming = styled.div`
  height: 220px;
`;

/** The parts by which a colour is found are many, and rarely needed. */
const Parts = lazily<ColourPartsProps>(async () => (await import('./colour-parts')).ColourParts);

/** A colour by area, hue and number, behind its own swatch. */
export function ColourPicker({
  onChangeEnd,
  ...parts
}: ColourPartsProps & {
  /** When the picker is closed, or the colour was typed. */
  onChangeEnd: (hex: string) => void;
}) {
  const { label, value } = parts;
  return (
    <DialogTrigger onOpenChange={open => !open && onChangeEnd(value)}>
      <Swatch
        aria-label={`${label}: ${value}`}
        style={{ background: value }}
        onHoverStart={Parts.ahead}
        onFocus={Parts.ahead}
      />
      <Float placement="bottom end">
        <Form aria-label={label}>
          <Suspense fallback={<Coming />}>
            <Parts {...parts} />
          </Suspense>
        </Form>
      </Float>
    </DialogTrigger>
  );
}
