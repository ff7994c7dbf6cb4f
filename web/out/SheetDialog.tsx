import { useState, type ReactNode } from 'react';
import { sheetSettings, type SheetSettings } from '../../contract/sheets';
import { messageOf, type SentFile } from '../app/api';
import { Button, Segments } from '../ui/buttons';
import { OnOff } from '../ui/on-off';
import { Dialog, DialogActions, Picker } from '../ui/overlays';
import { Row, Two } from '../ui/rows';
import { save } from '../ui/save';
import { TypedNumber } from '../ui/typed-number';

/** What a sheet shows: pictures in rows, pairs, cards of treatments, or a test strip. */
export type SheetKind = SheetSettings['kind'] | 'strip';

const titles: Record<SheetKind, string> = {
  contact: 'Contact sheet',
  'before-after': 'Before and after',
  card: 'Treatment card',
  strip: 'Test strip on paper',
};

const KEY = 'lampwash.sheet';
const standard = sheetSettings.parse({});

/** The settings used last in this browser. */
function lastSheet(): SheetSettings {
  try {
    const { success, data } = sheetSettings.safeParse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
    if (success) return data;
  } catch {
    // What is there is no JSON.
  }
  return standard;
}

/** How a sheet is laid out, before it is made. */
export function SheetDialog({
  kind,
  columns,
  children,
  make,
  onClose,
}: {
  kind: SheetKind;
  /** In how many columns it is laid out at first, where that is known. */
  columns?: number;
  /** What it will show, in words. */
  children: ReactNode;
  make: (settings: SheetSettings) => Promise<SentFile>;
  onClose: () => void;
}) {
  const [settings, setSettings] = useState<SheetSettings>(() => {
    const last = lastSheet();
    const wanted = columns ?? last.columns;
    // Pairs are not parted: of them columns are even.
    const even = kind === 'before-after' ? Math.max(2, wanted - (wanted % 2)) : wanted;
    return { ...last, columns: even, ...(kind === 'strip' ? {} : { kind }) };
  });
  const [state, setState] = useState<'asked' | 'making' | { problem: string }>('asked');
  const isMaking = state === 'making';
  const set = (change: Partial<SheetSettings>) => {
    const next = { ...settings, ...change };
    localStorage.setItem(KEY, JSON.stringify(next));
    setSettings(next);
  };
  const makeIt = async () => {
    setState('making');
    try {
      const { bytes, name, type } = await make(settings);
      save(bytes, name, type);
      onClose();
    } catch (error) {
      setState({ problem: messageOf(error) });
    }
  };
  const number = (
    name: string,
    value: number,
    [least, most, step]: readonly [number, number, number],
    to: (v: number) => void,
  ) => (
    <TypedNumber
      name={name}
      value={value}
      min={least}
      max={most}
      step={step}
      shownTimes={1}
      unit=""
      decimals={0}
      centred={false}
      onTyped={v => to(least + Math.round((v - least) / step) * step)}
    />
  );
  return (
    <Dialog title={titles[kind]} onClose={isMaking ? undefined : onClose}>
      <p>{children}</p>
      <Row>
        <span>Paper</span>
        <Picker
          label="Paper"
          value={settings.paper}
          options={[
            { value: 'a4', text: 'A4' },
            { value: 'a3', text: 'A3' },
            { value: 'letter', text: 'Letter' },
          ]}
          onChange={paper => set({ paper })}
        />
      </Row>
      {kind === 'card' ? null : (
        <>
          <Row>
            <span>Turned</span>
            <Segments
              label="The paper lies"
              value={settings.lying ? 'across' : 'upright'}
              options={[
                { value: 'upright', text: 'Upright' },
                { value: 'across', text: 'Across' },
              ]}
              onChange={way => set({ lying: way === 'across' })}
            />
          </Row>
          <Row>
            <span>Columns</span>
            <Two>
              <span />
              {number('Columns', settings.columns, kind === 'before-after' ? [2, 8, 2] : [1, 8, 1], wanted =>
                set({ columns: wanted }),
              )}
            </Two>
          </Row>
        </>
      )}
      <Row>
        <span>Margins, mm</span>
        <Two>
          <span />
          {number('Margins in millimetres', settings.margin, [5, 40, 1], margin => set({ margin }))}
        </Two>
      </Row>
      {kind === 'card' ? null : (
        <Row>
          <span>Captions</span>
          <OnOff label="Captions" isOn={settings.captions} onChange={captions => set({ captions })} />
        </Row>
      )}
      <Row>
        <span>Made as</span>
        <Segments
          label="Made as"
          value={settings.as}
          options={[
            { value: 'pdf', text: 'PDF' },
            { value: 'png', text: 'PNG' },
            { value: 'jpeg', text: 'JPEG' },
          ]}
          onChange={as => set({ as })}
        />
      </Row>
      {typeof state === 'object' ? <p role="alert">The sheet could not be made: {state.problem}</p> : null}
      <DialogActions>
        {isMaking ? <span role="status">Making the sheet …</span> : null}
        <Button isDisabled={isMaking} onPress={onClose}>
          Cancel
        </Button>
        <Button $ink isDisabled={isMaking} onPress={() => void makeIt()}>
          {settings.as === 'pdf' ? 'Make the PDF' : 'Make the picture'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
