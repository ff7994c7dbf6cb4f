import { useState } from 'react';
import { Button as AriaButton, Input, NumberField } from 'react-aria-components';
import styled from 'styled-components';
import { sheetSettings, type SheetSettings } from '../../contract/sheets';
import { messageOf } from '../app/api';
import { useMakeSheet, useTreatmentFiles } from '../app/queries';
import { countOf } from '../../words/words';
import { Button, Segments } from '../ui/buttons';
import { OnOff } from '../ui/on-off';
import { Dialog, DialogActions, Picker } from '../ui/overlays';
import { save } from '../ui/save';
import { Row, Two } from './rows';
import { TableDialog, type Tabled } from './TableDialog';

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
  gap: 12px;
  flex: 1 1 0;
  min-width: 0;
  max-width: 240px;
  padding: 9px 10px 9px 12px;
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

/** Steps one beneath another, each with its tone. */
function Steps() {
  return (
    <svg width="34" height="44" viewBox="0 0 34 44" aria-hidden="true">
      <path d="M0.5 0.5 H24 L33.5 10 V43.5 H0.5 Z" fill="#fff" stroke="#9a9a9a" />
      {['#fff', '#9a9a9a', '#a88a60', '#a4483a'].map((tone, i) => (
        <g key={tone}>
          <rect x="6" y={8 + i * 8.5} width="10" height="6" rx="2" fill={tone} stroke="#3c3a39" />
          <rect x="19" y={10 + i * 8.5} width="9" height="1.5" fill="#8a8a8a" />
        </g>
      ))}
    </svg>
  );
}

/** A cube of colours, its faces in steps of tone. */
function Cube() {
  const face = (side: 'top' | 'left' | 'right', i: number, j: number) => {
    // Along the two edges that the face is spanned by.
    const [ax, ay, bx, by] = { top: [6, 3.2, -6, 3.2], left: [6, 3.2, 0, 6.8], right: [6, -3.2, 0, 6.8] }[
      side
    ];
    const [ox, oy] = { top: [21, 3], left: [3, 12.6], right: [21, 22.2] }[side];
    const corner = (u: number, v: number) => `${ox + ax * u + bx * v},${oy + ay * u + by * v}`;
    const tone = { top: 78, left: 50, right: 34 }[side] - (side === 'top' ? 0 : j * 8) + i * 4;
    return (
      <polygon
        key={`${side} ${i} ${j}`}
        points={[corner(i, j), corner(i + 1, j), corner(i + 1, j + 1), corner(i, j + 1)].join(' ')}
        fill={`hsl(33 ${side === 'left' ? 22 : 30}% ${tone}%)`}
        stroke="#fff"
        strokeWidth="0.5"
      />
    );
  };
  return (
    <svg width="42" height="44" viewBox="0 0 42 44" aria-hidden="true">
      {(['top', 'left', 'right'] as const).flatMap(side =>
        [0, 1, 2].flatMap(i => [0, 1, 2].map(j => face(side, i, j))),
      )}
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
export function AlsoFrom({ seriesId, going }: { seriesId: string; going: readonly Tabled[] }) {
  const takes = going.map(g => g.id);
  const [isTable, setTable] = useState(false);
  const files = useTreatmentFiles(seriesId);
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
            <small>PDF</small>
          </span>
        </Card>
        <Card isDisabled={!takes.length} onPress={() => setKind('before-after')}>
          <Page pairs />
          <span>
            <b>Before and after</b>
            <small>PDF, in pairs</small>
          </span>
        </Card>
        <Card isDisabled={!takes.length} onPress={() => setTable(true)}>
          <Cube />
          <span>
            <b>Colour table</b>
            <small>.cube</small>
          </span>
        </Card>
        <Card
          isDisabled={!takes.length || files.isPending}
          onPress={() =>
            files.mutate(takes, {
              onSuccess: ({ bytes, name }) => save(bytes, name, 'application/octet-stream'),
            })
          }
        >
          <Steps />
          <span>
            <b>{takes.length === 1 ? 'Treatment' : 'Treatments'}</b>
            <small role={files.error ? 'alert' : undefined}>
              {files.error ? messageOf(files.error) : takes.length === 1 ? 'JSON' : 'JSON, in a zip'}
            </small>
          </span>
        </Card>
      </div>
      {isTable ? <TableDialog takes={going} onClose={() => setTable(false)} /> : null}
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
  const [settings, setSettings] = useState<SheetSettings>(() => {
    const last = lastSheet();
    // Pairs are not parted: of them columns are even.
    const columns = kind === 'contact' ? last.columns : Math.max(2, last.columns - (last.columns % 2));
    return { ...last, kind, columns };
  });
  const make = useMakeSheet(seriesId);
  const set = (change: Partial<SheetSettings>) => {
    const next = { ...settings, ...change };
    localStorage.setItem(KEY, JSON.stringify(next));
    setSettings(next);
  };
  const number = (
    name: string,
    value: number,
    [least, most, step]: readonly [number, number, number],
    to: (v: number) => void,
  ) => (
    <NumberField
      aria-label={name}
      value={value}
      minValue={least}
      maxValue={most}
      step={step}
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
          {number('Columns', settings.columns, kind === 'contact' ? [1, 8, 1] : [2, 8, 2], columns =>
            set({ columns }),
          )}
        </Two>
      </Row>
      <Row>
        <span>Margins, mm</span>
        <Two>
          <span />
          {number('Margins in millimetres', settings.margin, [5, 40, 1], margin => set({ margin }))}
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
