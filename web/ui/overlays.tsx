import { useEffect, useRef, useState, type ReactNode } from 'react';
import {
  Button as AriaButton,
  Dialog as AriaDialog,
  Header,
  Heading,
  ListBox,
  ListBoxItem,
  Menu as AriaMenu,
  MenuItem,
  MenuSection,
  MenuTrigger,
  Modal,
  ModalOverlay,
  Popover,
  Select,
  SelectValue,
  SubmenuTrigger,
} from 'react-aria-components';
import { ChevronDown, ChevronRight } from 'lucide-react';
import styled from 'styled-components';

const Float = styled(Popover)`
  background: var(--paper-high);
  border-radius: var(--r-field);
  box-shadow: var(--shade-float);
  min-width: 168px;
  max-width: 320px;
  overflow: auto;
  padding: 4px;
`;

const entry = `
  padding: 6px 10px;
  border-radius: 3px;
  cursor: pointer;
  outline: none;
  display: flex;
  justify-content: space-between;
  gap: 16px;
  font-weight: 500;
  &[data-focused] { background: var(--paper-low); }
  &[data-disabled] { color: #6f6f6f; cursor: default; }
  &[data-selected] { font-weight: 650; }
  kbd { font: 400 var(--t-small) var(--sans); color: var(--ink-2); }
`;
const Entry = styled(MenuItem)`
  ${entry}
`;
const Option = styled(ListBoxItem)`
  ${entry}
`;
const Named = styled(Header)`
  font-size: var(--t-small);
  color: var(--ink-2);
  padding: 6px 10px 3px;
`;

export interface MenuEntry {
  id: string;
  text: string;
  keys?: string;
  disabled?: boolean;
  /** What opens beside it, where there are many of a kind: the menu does not grow with them. */
  entries?: MenuEntry[];
}

/**
 * What an entry does comes when the menu has closed: until then the menu holds the focus, and would take it back from what
 * opens.
 */
const whenClosed = (onAction: (id: string) => void) => (key: string | number) =>
  void setTimeout(() => onAction(String(key)));

/** An entry of a menu, with those that open beside it. */
function EntryOf({ entry, onAction }: { entry: MenuEntry; onAction: (id: string) => void }) {
  const { id, text, keys, entries } = entry;
  const own = (
    <Entry id={id} textValue={text}>
      {text}
      {keys ? <kbd>{keys}</kbd> : null}
      {entries ? <ChevronRight size={15} aria-hidden="true" /> : null}
    </Entry>
  );
  if (!entries) return own;
  return (
    <SubmenuTrigger>
      {own}
      <Float>
        <AriaMenu aria-label={text} onAction={whenClosed(onAction)} style={{ outline: 'none' }}>
          {entries.map(e => (
            <Entry key={e.id} id={e.id} textValue={e.text}>
              {e.text}
            </Entry>
          ))}
        </AriaMenu>
      </Float>
    </SubmenuTrigger>
  );
}

/** A menu under a button, in named parts. */
export function Menu({
  trigger,
  label,
  sections,
  onAction,
}: {
  trigger: ReactNode;
  label: string;
  sections: { name?: string; entries: MenuEntry[] }[];
  onAction: (id: string) => void;
}) {
  return (
    <MenuTrigger>
      {trigger}
      <Float>
        <AriaMenu
          aria-label={label}
          onAction={whenClosed(onAction)}
          disabledKeys={sections.flatMap(s => s.entries.filter(e => e.disabled).map(e => e.id))}
          style={{ outline: 'none' }}
        >
          {sections
            .filter(s => s.entries.length)
            .map((s, i) => (
              <MenuSection key={s.name ?? i} aria-label={s.name ?? label}>
                {s.name ? <Named>{s.name}</Named> : null}
                {s.entries.map(e => (
                  <EntryOf key={e.id} entry={e} onAction={onAction} />
                ))}
              </MenuSection>
            ))}
        </AriaMenu>
      </Float>
    </MenuTrigger>
  );
}

const PickerButton = styled(AriaButton)`
  height: 27px;
  width: 100%;
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 7px;
  background: var(--paper-high);
  border-bottom: 1px solid var(--edge);
  border-radius: 2px 2px 0 0;
  padding: 0 7px;
  font-weight: 500;
  white-space: nowrap;
  &[data-hovered] {
    background: #fff;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
  svg {
    width: 14px;
    height: 14px;
    color: var(--ink-2);
    flex: none;
  }
`;

/** What is pointed at, or gone to by the keys, is told. */
function Tried<V>({
  value,
  isOn,
  onTry,
}: {
  value: V;
  isOn: boolean;
  onTry: ((value: V) => void) | undefined;
}) {
  const latest = useRef(onTry);
  useEffect(() => {
    latest.current = onTry;
  });
  useEffect(() => {
    if (isOn) latest.current?.(value);
  }, [isOn, value]);
  return null;
}

/** One value of a list that opens. */
export function Picker<V extends string>({
  label,
  value,
  options,
  onChange,
  onTry,
}: {
  label: string;
  value: V;
  options: { value: V; text: string }[];
  onChange: (value: V) => void;
  /**
   * Shows what a value would give while it is pointed at or has the focus; at the end without a choice that of the value that
   * was there, and that it is the end.
   */
  onTry?: (value: V, isOver?: boolean) => void;
}) {
  /** The value that was there before any was tried. */
  const [before, setBefore] = useState<V | null>(null);
  const taken = useRef(false);
  return (
    <Select
      aria-label={label}
      data-control={label}
      selectedKey={before ?? value}
      onSelectionChange={key => {
        taken.current = true;
        setBefore(null);
        onChange(key as V);
      }}
      onOpenChange={open => {
        if (!onTry) return;
        if (open) setBefore(value);
        else {
          // Closed without a choice, what was tried is taken back.
          if (!taken.current && before !== null) onTry(before, true);
          setBefore(null);
        }
        taken.current = false;
      }}
    >
      <PickerButton>
        <SelectValue />
        <ChevronDown aria-hidden="true" />
      </PickerButton>
      <Float>
        <ListBox style={{ outline: 'none' }}>
          {options.map(o => (
            <Option key={o.value} id={o.value} textValue={o.text}>
              {({ isFocused, isHovered }) => (
                <>
                  {o.text}
                  <Tried value={o.value} isOn={isFocused || isHovered} onTry={onTry} />
                </>
              )}
            </Option>
          ))}
        </ListBox>
      </Float>
    </Select>
  );
}

const Shade = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  background: rgb(0 0 0 / 0.42);
  display: grid;
  place-items: center;
  z-index: 20;
`;
const Sheet = styled(Modal)`
  background: var(--paper-high);
  border-radius: var(--r-field);
  box-shadow: var(--shade-float);
  width: min(480px, calc(100vw - 48px));
  &[data-wide] {
    width: min(620px, calc(100vw - 48px));
  }
  &[data-wide='picture'] {
    width: min(940px, calc(100vw - 48px));
  }
  max-height: calc(100vh - 48px);
  overflow: auto;
  padding: 22px 24px;
  h2 {
    font-size: 16px;
    font-weight: 650;
    margin-bottom: 8px;
  }
  p {
    color: var(--ink-2);
    line-height: 1.45;
  }
`;

/** A question or a form over the screen. Without `onClose` it must be answered. */
export function Dialog({
  title,
  wide,
  children,
  onClose,
}: {
  title: string;
  /** For a form of two columns, or for a picture to look at closely. */
  wide?: boolean | 'picture';
  children: ReactNode;
  onClose?: () => void;
}) {
  return (
    <Shade
      isOpen
      isDismissable={!!onClose}
      isKeyboardDismissDisabled={!onClose}
      onOpenChange={open => !open && onClose?.()}
    >
      <Sheet data-wide={wide || undefined}>
        <AriaDialog style={{ outline: 'none' }}>
          <Heading slot="title">{title}</Heading>
          {children}
        </AriaDialog>
      </Sheet>
    </Shade>
  );
}

export const DialogActions = styled.div`
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  gap: 8px;
  margin-top: 20px;
`;
