import type { Interpolation, Stop } from '../../core/colour/gradient';
import type { Pigment } from '../../core/colour/pigments';
import type { Field, ToneRange } from '../../core/settings/fields';
import type { ComponentType } from 'react';
import { wordFor, wordWithin } from '../../words/words';
import type { Bath } from '../../core/steps/baths';
import { BathsControl } from './BathsControl';
import { ChoiceControl, ColourControl, FlagControl } from './ChoiceControls';
import { CurveControl } from './CurveControl';
import type { Controls, FieldProps, FieldsProps, Values } from './fields';
import { GroupSection } from './GroupSection';
import { NumberControl } from './NumberControl';
import { PigmentControl } from './PigmentControl';
import { ReachControl } from './ReachControl';
import { StopsControl } from './StopsControl';
import { TableControl } from './TableControl';

/** The control of each kind of field. Another kind of field is another line here. */
const controls: Controls = {
  number: NumberControl,
  choice: ChoiceControl,
  flag: FlagControl,
  colour: ColourControl,
  stops: ({ name, values, path, set, beside }) => (
    <StopsControl
      label={wordFor(name)}
      stops={values[name] as Stop[]}
      interpolation={(values.interpolation as Interpolation) ?? 'oklab'}
      reversible={!('reverse' in beside)}
      onChange={(stops, what) => set(path, stops, what)}
    />
  ),
  list: ({ name, values, path, set }) => (
    <BathsControl baths={values[name] as Bath[]} onChange={(baths, what) => set(path, baths, what)} />
  ),
  reference: ({ name, values }) => <TableControl value={values[name] as string | null} />,
  pigment: ({ name, values, path, set }) => {
    const beside = (key: string) => [...path.slice(0, -1), key];
    return (
      <PigmentControl
        pigment={values[name] as Pigment}
        depth={values.depth as number}
        onChange={(pigment, what) => set(path, pigment, what)}
        onDepth={(depth, what) => set(beside('depth'), depth, what)}
        onTake={({ name: taken, pigment, depth }) =>
          set(path.slice(0, -1), { ...values, pigment, depth }, `pigment ${taken.toLowerCase()}`)
        }
      />
    );
  },
  range: ({ name, values, path, set, within = '' }) => (
    <ReachControl
      label={wordWithin(within, name)}
      range={values[name] as ToneRange}
      onChange={(range, done) => set(path, range, done ? wordFor(name).toLowerCase() : undefined)}
    />
  ),
  group: ({ name, field, values, path, beside, set }) => {
    if (field.shownWhen && values[field.shownWhen.field] !== field.shownWhen.is) return null;
    const inner = values[name] as Values;
    if (field.layout === 'curves') return <CurveControl path={path} values={inner} set={set} />;
    return (
      <GroupSection
        Fields={FieldControls}
        name={name}
        at={path.join('.')}
        fields={field.fields}
        values={inner}
        beside={beside}
        set={set}
      />
    );
  },
  // The points of a curve stand in a group of channels; the rest is held on the picture, or made of something there.
  curve: null,
  position: null,
  radii: null,
  strokes: null,
  mask: null,
  picture: null,
};

/** The control of a field, whatever its kind. */
const controlOf = (field: Field) => controls[field.type] as ComponentType<FieldProps> | null;

/** The controls of settings, made from their descriptions. */
export function FieldControls({ fields, values, path = [], set, called, within }: FieldsProps) {
  return Object.entries(fields).map(([name, field]) => {
    const Control = controlOf(field);
    if (!Control || ('within' in field && field.within)) return null;
    return (
      <Control
        key={name}
        name={name}
        field={field}
        values={values}
        beside={fields}
        path={[...path, name]}
        set={set}
        called={called}
        within={within}
      />
    );
  });
}
