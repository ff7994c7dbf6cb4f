import { memo, useContext } from 'react';
import { FAMILIES, pureHue, type Family } from '../../core/colour/hues';
import { toHex } from '../../core/colour/srgb';
import type { NumberField } from '../../core/settings/fields';
import type { SplitToneSettings } from '../../core/steps/split-tone';
import { wordWithin } from '../../words/words';
import type { SetSetting } from '../takes/edits';
import { Slider } from '../ui/slider';
import type { FieldProps, Values } from './fields';
import { huePaint, lightnessOf, saturationPaint } from './paint';
import { Section } from './Section';
import { ToneRamp } from './ToneRamp';
import { HoldContext, LongEdgeContext } from './tools';
import { nameOfSetting } from '../../words/setting-name';
import { inPixels } from '../../words/units';
import { sliderOf } from './slider-of';

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
const NumberSlider = memo(function NumberSlider({
  at,
  field,
  value,
  paint,
  set,
  called,
  within = '',
}: {
  /** The path of the setting, joined by dots. */
  at: string;
  field: NumberField;
  value: number;
  paint: string | undefined;
  set: SetSetting;
  called?: string;
  within?: string;
}) {
  const path = at.split('.');
  const hold = useContext(HoldContext);
  const longEdge = useContext(LongEdgeContext);
  const label = wordWithin(path.at(-2) ?? within, path[path.length - 1]);
  const own = nameOfSetting(path, within);
  const name = called ? `${called} ${own.toLowerCase()}` : own;
  return (
    <Slider
      label={label}
      name={name}
      value={value}
      {...sliderOf(field)}
      paint={paint}
      beside={field.unit === 'length' && longEdge > 0 ? inPixels(longEdge) : undefined}
      onChange={v => set.glide(path, v)}
      onChangeEnd={v => set(path, v, own.toLowerCase())}
      onHold={held => hold(held ? [path] : [])}
    />
  );
});

/** A number; where it says so, what it moves stands above it. */
export function NumberControl({ name, field, values, path, set, called, within }: FieldProps<NumberField>) {
  return (
    <Section data-plain={path.length > 1 || undefined}>
      {field.above === 'tone-ramp' ? <ToneRamp settings={values as SplitToneSettings} set={set} /> : null}
      <NumberSlider
        at={path.join('.')}
        field={field}
        value={Number(values[name])}
        paint={paintOf(name, path.slice(0, -1), values)}
        set={set}
        called={called}
        within={within}
      />
    </Section>
  );
}
