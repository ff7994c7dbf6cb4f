import { FAMILIES, pureHue, type Family } from '../../core/colour/hues';
import { toHex } from '../../core/colour/srgb';
import type { Interpolation, Stop } from '../../core/colour/gradient';
import type { Pigment } from '../../core/colour/pigments';
import type { Field, Fields, NumberField } from '../../core/settings/fields';
import { memo, useContext, type ReactNode } from 'react';
import styled from 'styled-components';
import { Copy } from 'lucide-react';
import type { Step } from '../../core/treatment/schema';
import { IconButton, LinkButton } from '../ui/buttons';
import { ColourPicker } from '../ui/colour';
import { OnOff } from '../ui/on-off';
import { Menu, Picker } from '../ui/overlays';
import { Slider } from '../ui/slider';
import { wordFor, wordWithin } from '../app/words';
import type { SetSetting } from '../takes/useEdits';
import { BathsControl, type Bath } from './BathsControl';
import { CurveControl } from './CurveControl';
import { PigmentControl } from './PigmentControl';
import { StopsControl } from './StopsControl';
import { TableControl } from './TableControl';
import { HoldContext } from './tools';
import { PickOnPicture } from './PickOnPicture';
import { ToneRamp } from './ToneRamp';
import { huePaint, lightnessOf, saturationPaint, toneColour } from './paint';

type Values = Record<string, unknown>;

export interface FieldsProps {
  fields: Fields;
  values: Values;
  /** Where these fields lie in the settings, for names and paint. */
  path?: readonly string[];
  /** Must stay the same function, so that only what changes is drawn again. */
  set: SetSetting;
}

const Section = styled.section`
  padding: 7px 16px;
  border-top: 1px solid var(--rule);
  & & {
    padding: 7px 0;
  }
  &[data-plain] {
    border-top: 0;
    padding: 0;
  }
`;

const SectionName = styled.h3`
  display: flex;
  align-items: center;
  height: 24px;
  font-size: var(--t-body);
  font-weight: 600;
`;

const Pool = styled.i`
  margin-left: auto;
  width: 46px;
  height: 16px;
  border-radius: 8px;
  box-shadow:
    inset 0 1px 2px rgb(0 0 0 / 0.35),
    inset 0 0 0 1px rgb(0 0 0 / 0.1);
`;

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

/** How each unit is shown: times what, with what after it, in what steps. */
const units: Record<
  NumberField['unit'],
  { shownTimes: number; unit: string; decimals: number; step: number }
> = {
  ev: { shownTimes: 1, unit: '', decimals: 2, step: 0.05 },
  amount: { shownTimes: 100, unit: '', decimals: 0, step: 0.01 },
  fraction: { shownTimes: 100, unit: '', decimals: 0, step: 0.01 },
  hue: { shownTimes: 1, unit: '°', decimals: 0, step: 1 },
  plain: { shownTimes: 1, unit: '', decimals: 2, step: 0.01 },
  length: { shownTimes: 1000, unit: '‰', decimals: 1, step: 0.0001 },
  whole: { shownTimes: 1, unit: '', decimals: 0, step: 1 },
};

/** The OKLab lightness of a track that stands for no range of tones. */
const MIDDLE = 0.66;

/** The paint of a track, where colour says what the values give. */
function paintOf(name: string, path: readonly string[], values: Values): string | undefined {
  const [range = ''] = path;
  const strong = values.saturation ?? values.amount;
  // In the hue families hue and saturation are changes, not colours.
  if (typeof values.hue === 'number' && typeof strong === 'number' && !(range in FAMILIES)) {
    const L = lightnessOf[range] ?? MIDDLE;
    if (name === 'hue') return huePaint(L, strong);
    if (name === 'saturation' || name === 'amount') return saturationPaint(values.hue, L);
  }
  if (name in FAMILIES && path.at(-1) === 'response') {
    const [r, g, b] = pureHue(FAMILIES[name as Family]).map(v => 0.3 + 0.45 * v);
    return `linear-gradient(90deg, #16181a, ${toHex(r, g, b)} 50%, #f6f6f6)`;
  }
  return undefined;
}

/** One number; drawn again only when its value or its paint changes. */
const FieldSlider = memo(function FieldSlider({
  at,
  field,
  value,
  paint,
  set,
}: {
  /** The path of the setting, joined by dots. */
  at: string;
  field: NumberField;
  value: number;
  paint: string | undefined;
  set: SetSetting;
}) {
  const path = at.split('.');
  const hold = useContext(HoldContext);
  const label = wordWithin(path.at(-2) ?? '', path.at(-1)!);
  const name = path.map((p, i) => (i ? wordWithin(path[i - 1], p).toLowerCase() : wordFor(p))).join(' ');
  return (
    <Slider
      label={label}
      name={name}
      value={value}
      min={field.min}
      max={field.max}
      standard={field.default}
      {...units[field.unit]}
      paint={paint}
      onChange={v => set.glide(path, v)}
      onChangeEnd={v => set(path, v, name.toLowerCase())}
      onHold={held => hold(held ? [path] : [])}
    />
  );
});

interface SpecialProps {
  name: string;
  values: Values;
  path: readonly string[];
  label: string;
  set: SetSetting;
}

/** Controls of their own, by the type of the setting. */
const specials: { [type in Field['type']]?: (props: SpecialProps) => ReactNode } = {
  stops: ({ name, values, path, label, set }) => (
    <StopsControl
      label={label}
      stops={values[name] as Stop[]}
      interpolation={(values.interpolation as Interpolation) ?? 'oklab'}
      onChange={(stops, what) => set(path, stops, what)}
    />
  ),
  list: ({ name, values, path, set }) => (
    <BathsControl baths={values[name] as Bath[]} onChange={(baths, what) => set(path, baths, what)} />
  ),
  reference: ({ name, values }) => <TableControl value={values[name] as string | null} />,
  pigment: ({ name, values, path, set }) => (
    <PigmentControl
      pigment={values[name] as Pigment}
      onChange={(pigment, what) => set(path, pigment, what)}
    />
  ),
};

/** Gives the hue of one range to another. */
function CopyHue({ from, hue, beside, set }: { from: string; hue: number; beside: Fields; set: SetSetting }) {
  const others = Object.keys(beside).filter(name => name in lightnessOf && name !== from);
  return (
    <Menu
      label={`Copy the hue of ${from}`}
      trigger={
        <IconButton aria-label={`Copy the hue of ${from}`} style={{ width: 24, height: 22 }}>
          <Copy aria-hidden="true" style={{ width: 14, height: 14 }} />
        </IconButton>
      }
      sections={[{ entries: others.map(name => ({ id: name, text: `To ${name}` })) }]}
      onAction={to => set([to, 'hue'], hue, `hue from ${from}`)}
    />
  );
}

/** Settings that belong together, under their name; drawn again only when one of them changes. */
const GroupSection = memo(function GroupSection({
  name,
  at,
  fields,
  values,
  beside,
  set,
}: {
  name: string;
  /** The path of the group, joined by dots. */
  at: string;
  fields: Fields;
  values: Values;
  /** The fields that the group is one of. */
  beside: Fields;
  set: SetSetting;
}) {
  const label = wordFor(name);
  const toned = name in lightnessOf && 'saturation' in values;
  const hue = Number(values.hue);
  return (
    <Section aria-label={label}>
      <SectionName>
        {label}
        {toned ? <CopyHue from={name} hue={hue} beside={beside} set={set} /> : null}
        {toned ? (
          <Pool style={{ background: toneColour(hue, Number(values.saturation), lightnessOf[name]) }} />
        ) : null}
      </SectionName>
      <FieldControls fields={fields} values={values} path={at.split('.')} set={set} />
    </Section>
  );
});

/** The generic controls of a step's settings, made from their descriptions. */
export function FieldControls({ fields, values, path = [], set }: FieldsProps) {
  return Object.entries(fields).map(([name, field]) => {
    const label = wordFor(name);
    const own = [...path, name];
    const Special = specials[field.type];
    if (Special) {
      return <Special key={name} name={name} values={values} set={set} path={own} label={label} />;
    }
    if (field.type === 'group') {
      if (field.shownWhen && values[field.shownWhen.field] !== field.shownWhen.is) return null;
      const inner = values[name] as Values;
      // The channels of a curve share one control.
      if (Object.values(field.fields).every(f => f.type === 'curve')) {
        return <CurveControl key={name} path={own} values={inner} set={set} />;
      }
      return (
        <GroupSection
          key={name}
          name={name}
          at={own.join('.')}
          fields={field.fields}
          values={inner}
          beside={fields}
          set={set}
        />
      );
    }
    return (
      <Section key={name} data-plain={path.length > 0 || undefined}>
        {field.type === 'choice' ? (
          <Choice>
            <span aria-hidden="true">{label}</span>
            <Picker
              label={label}
              value={String(values[name])}
              options={field.options.map(o => ({ value: o, text: wordWithin(name, o) }))}
              onChange={v => set(own, v, label.toLowerCase())}
            />
          </Choice>
        ) : field.type === 'flag' ? (
          <Choice>
            <span aria-hidden="true">{label}</span>
            <OnOff
              label={label}
              isOn={Boolean(values[name])}
              onChange={on => set(own, on, label.toLowerCase())}
            />
          </Choice>
        ) : field.type === 'colour' ? (
          <Choice>
            <span aria-hidden="true">{label}</span>
            <span className="end">
              <PickOnPicture label={label} onPick={colour => set(own, colour, label.toLowerCase())} />
              {field.optional && values[name] !== null ? (
                <LinkButton onPress={() => set(own, null, label.toLowerCase())}>None</LinkButton>
              ) : null}
              <ColourPicker
                label={label}
                value={String(values[name] ?? '#808080')}
                onChange={colour => set(own, colour)}
                onChangeEnd={colour => {
                  if (values[name] !== null) set(own, colour, label.toLowerCase());
                }}
              />
            </span>
          </Choice>
        ) : field.type !== 'number' ? null : (
          <>
            {name === 'balance' && 'crossover' in values ? (
              <ToneRamp settings={values as unknown as Step<'split-tone'>['settings']} set={set} />
            ) : null}
            <FieldSlider
              at={own.join('.')}
              field={field}
              value={Number(values[name])}
              paint={paintOf(name, path, values)}
              set={set}
            />
          </>
        )}
      </Section>
    );
  });
}
