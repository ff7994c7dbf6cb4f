import { useState } from 'react';
import { Button as AriaButton, Input, NumberField } from 'react-aria-components';
import styled from 'styled-components';
import { sheetSettings, type SheetSettings } from '../../contract/sheets';
import { messageOf } from '../app/api';
import { useMakeSheet } from '../app/queries';
import { countOf } from '../app/words';
import { Button, Segments } from '../ui/buttons';
import { OnOff } from '../ui/on-off';
import { Dialog, DialogActions, Picker } from '../ui/overlays';
import { save } from '../ui/save';
import { Row, Two } from './rows';

const Strip = styled.section`
  grid-column: 1;
  background: #dedede;
  border-top: 1px solid #b5b5b5;
  padding: 12px 30px 18px 26px;
  h2 {
    font-size: 15px;
    font-weight: 650;
    margin-bottom: 8px;
  }
  > div {
    display: flex;
    gap: 14px;
  }
`;

const Card = styled(AriaButton)`
  display: flex;
  align-items: center;
  gap: 14px;
  min-width: 220px;
  padding: 9px 16px 9px 12px;
  text-align: left;
  background: var(--paper-high);
  border-radius: var(--r-label);
  box-shadow: var(--shade-label);
  &[data-hovered] {
    background: #fff;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
  b {
    display: block;
    font-weight: 600;
  }
  small {
    color: var(--ink-2);
    font-size: var(--t-small);
  }
  svg {
    flex: none;
  }
`;

/** A page with pictures in rows; of pairs, every second one is grey. */
function Page({ pairs }: { pairs: boolean }) {
  const tones = [
    '#6b5a4c',
    '#a8937d',
    '#4b3a30',
    '#8d7a63',
    '#c9b99f',
    '#7b6a58',
    '#9a7f60',
    '#3c3a39',
    '#b29a7c',
  ];
  const greys = ['#5f5f5f', '#9b9b9b', '#424242'];
  return (
    <svg width="34" height="44" viewBox="0 0 34 44" aria-hidden="true">
      <rect x="0.5" y="0.5" width="33" height="43" fill="#fff" stroke="#9a9a9a" />
      {[0, 1, 2].flatMap(row =>
        (pairs ? [0, 1] : [0, 1, 2]).map(column => (
          <rect
            key={`${row} ${column}`}
            x={pairs ? 5 + column * 12.5 : 4.5 + column * 8.7}
            y={9 + row * 10.5}
            width={pairs ? 11 : 7.2}
            height="7"
            fill={pairs && column === 0 ? greys[row] : tones[row * 3 + column]}
          />
        )),
      )}
      <rect x="4.5" y="4" width="13" height="1.5" fill="#8a8a8a" />
    </svg>
  );
}

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

const WHOLE = { maximumFractionDigits: 0 };

/** What else can be made of the photographs that go out: sheets to print. */
export function AlsoFrom({ seriesId, takes }: { seriesId: string; takes: readonly string[] }) {
  const [kind, setKind] = useState<SheetSettings['kind'] | null>(null);
  return (
    <Strip aria-label="Also from these">
      <h2>
        Also from{' '}
        {takes.length === 1
          ? 'this one'
          : `these ${countOf(takes.length, 'photograph').split(' ')[0].toLowerCase()}`}
      </h2>
      <div>
        <Card isDisabled={!takes.length} onPress={() => setKind('contact')}>
          <Page pairs={false} />
          <span>
            <b>Contact sheet</b>
            <small>PDF to print</small>
          </span>
        </Card>
        <Card isDisabled={!takes.length} onPress={() => setKind('before-after')}>
          <Page pairs />
          <span>
            <b>Before and after</b>
            <small>PDF, in pairs</small>
          </span>
        </Card>
      </div>
      {kind ? (
        <SheetDialog kind={kind} seriesId={seriesId} takes={takes} onClose={() => setKind(null)} />
      ) : null}
    </Strip>
  );
}

function SheetDialog({
  kind,
  seriesId,
  takes,
  onClose,
}: {
  kind: SheetSettings['kind'];
  seriesId: string;
  takes: readonly string[];
  onClose: () => void;
}) {
  const [settings, setSettings] = useState<SheetSettings>(() => ({ ...lastSheet(), kind }));
  const make = useMakeSheet(seriesId);
  const set = (change: Partial<SheetSettings>) => {
    const next = { ...settings, ...change };
    localStorage.setItem(KEY, JSON.stringify(next));
    setSettings(next);
  };
  const number = (name: string, value: number, least: number, most: number, to: (v: number) => void) => (
    <NumberField
      aria-label={name}
      value={value}
      minValue={least}
      maxValue={most}
      formatOptions={WHOLE}
      isWheelDisabled
      onChange={v => Number.isFinite(v) && to(Math.round(v))}
    >
      <Input />
    </NumberField>
  );
  return (
    <Dialog
      title={kind === 'contact' ? 'Contact sheet' : 'Before and after'}
      onClose={make.isPending ? undefined : onClose}
    >
      <p>
        {countOf(takes.length, 'photograph')}
        {kind === 'contact' ? ' in rows' : ', each beside its bare one'}, with the series’ title and the date.
      </p>
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
          {number('Columns', settings.columns, kind === 'contact' ? 1 : 2, 8, columns => set({ columns }))}
        </Two>
      </Row>
      <Row>
        <span>Margins, mm</span>
        <Two>
          <span />
          {number('Margins in millimetres', settings.margin, 5, 40, margin => set({ margin }))}
        </Two>
      </Row>
      <Row>
        <span>Captions</span>
        <OnOff label="Captions" isOn={settings.captions} onChange={captions => set({ captions })} />
      </Row>
      {make.error ? <p role="alert">The sheet could not be made: {messageOf(make.error)}</p> : null}
      <DialogActions>
        {make.isPending ? <span role="status">Making the sheet …</span> : null}
        <Button isDisabled={make.isPending} onPress={onClose}>
          Cancel
        </Button>
        <Button
          $ink
          isDisabled={make.isPending}
          onPress={() =>
            make.mutate(
              { takes: [...takes], settings },
              {
                onSuccess: ({ bytes, name }) => {
                  save(bytes, name, 'application/pdf');
                  onClose();
                },
              },
            )
          }
        >
          Make the PDF
        </Button>
      </DialogActions>
    </Dialog>
  );
}
