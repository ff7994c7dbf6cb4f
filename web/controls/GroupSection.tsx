import { Copy } from 'lucide-react';
import { memo, type ComponentType } from 'react';
import styled from 'styled-components';
import type { Fields as FieldList } from '../../core/settings/fields';
import { wordWithin } from '../../words/words';
import type { SetSetting } from '../takes/edits';
import { IconButton } from '../ui/buttons';
import { Menu } from '../ui/overlays';
import type { FieldsProps, Values } from './fields';
import { lightnessOf, toneColour } from './paint';
import { Section, SectionName } from './Section';

const Pool = styled.i`
  margin-left: auto;
  width: 46px;
  height: 16px;
  border-radius: 8px;
  box-shadow:
    inset 0 1px 2px rgb(0 0 0 / 0.35),
    inset 0 0 0 1px rgb(0 0 0 / 0.1);
`;

/** Gives the hue of one range to another. */
function CopyHue({
  from,
  hue,
  beside,
  set,
}: {
  from: string;
  hue: number;
  beside: FieldList;
  set: SetSetting;
}) {
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
export const GroupSection = memo(function GroupSection({
  Fields,
  name,
  at,
  fields,
  values,
  beside,
  set,
}: {
  /** Shows the settings of the group; always the same component. */
  Fields: ComponentType<FieldsProps>;
  name: string;
  /** The path of the group, joined by dots. */
  at: string;
  fields: FieldList;
  values: Values;
  /** The fields that the group is one of. */
  beside: FieldList;
  set: SetSetting;
}) {
  const label = wordWithin(at.split('.').at(-2) ?? '', name);
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
      <Fields fields={fields} values={values} path={at.split('.')} set={set} />
    </Section>
  );
});
