import type { NumberSetting } from '../../words/setting';
import { sliderOf } from '../controls/slider-of';
import { Slider } from '../ui/slider';
import type { Edits } from '../takes/edits';

/** A number of a step by its name alone, wherever in the step it is. */
export function SettingSlider({
  setting,
  label,
  edits: { now, glide, commit },
}: {
  setting: NumberSetting;
  label: string;
  edits: Edits;
}) {
  const { field, name, value, apply } = setting;
  return (
    <Slider
      label={label}
      name={name}
      value={value}
      {...sliderOf(field)}
      onChange={v => glide(apply(now(), v))}
      onChangeEnd={v => commit(apply(now(), v), setting.label)}
    />
  );
}
