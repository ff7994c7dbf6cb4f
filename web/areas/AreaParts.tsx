import styled from 'styled-components';
import { areaOf, changePart, removePart } from '../../core/treatment/areas';
import type { Mask } from '../../core/masks/mask';
import { kindOfPart, type MaskPart } from '../../core/masks/parts';
import type { Treatment } from '../../core/treatment/treatment';
import { countOf, wordFor } from '../../words/words';
import { LinkButton } from '../ui/buttons';
import { calledPart, nameOfMeasure } from '../../words/area-settings';
import { FieldControls } from '../controls/FieldControls';
import { inPixels, units } from '../../words/units';
import type { Measure } from '../../core/settings/handles';
import { Slider } from '../ui/slider';
import type { SetSetting } from '../takes/edits';

const List = styled.ul`
  list-style: none;
  padding: 0;
  margin: 2px 0 4px;
  li > div:first-child {
    display: flex;
    align-items: center;
    height: 26px;
    gap: 6px;
  }
  li > section,
  li > div + div {
    padding: 0;
    border: 0;
  }
  li > div:first-child > span {
    flex: 1;
    color: var(--ink-2);
  }
`;

const opNames = { add: 'Add', subtract: 'Take away', intersect: 'Only within' } as const;

/** How parts are called that say more than their kind. */
const names: {
  [K in MaskPart['kind']]?: (part: Extract<MaskPart, { kind: K }>, treatment: Treatment) => string;
} = {
  brush: ({ strokes }) => countOf(strokes.length, 'stroke'),
  found: ({ strokesIn, strokesOut }) => `Found by ${countOf(strokesIn.length + strokesOut.length, 'stroke')}`,
  linear: () => 'Straight gradient',
  oval: ({ outside }) => (outside ? 'Outside an oval' : 'Oval'),
  mask: ({ mask }, treatment) => areaOf(treatment, mask)?.name ?? 'Area',
  picture: () => 'Grey picture',
};

function nameOfPart(part: MaskPart, treatment: Treatment): string {
  const name = names[part.kind] as ((part: MaskPart, treatment: Treatment) => string) | undefined;
  return name?.(part, treatment) ?? wordFor(part.kind);
}

/** A number of where a part lies. */
function MeasureControl<S>({
  measure,
  called,
  longEdge,
  changed,
  onPreview,
  onCommit,
}: {
  measure: Measure<S>;
  /** What the controls of its part are called after. */
  called: string;
  longEdge: number;
  changed: (settings: S) => Treatment;
  onPreview: (treatment: Treatment) => void;
  onCommit: (treatment: Treatment, label: string) => void;
}) {
  const { name, unit, value, min, max, set } = measure;
  return (
    <Slider
      label={name}
      name={nameOfMeasure(called, measure)}
      value={value}
      min={min}
      max={max}
      {...units[unit]}
      standard={value}
      beside={unit === 'length' ? inPixels(longEdge) : undefined}
      onChange={v => onPreview(changed(set(v)))}
      onChangeEnd={v => onCommit(changed(set(v)), `Area ${name.toLowerCase()}`)}
    />
  );
}

/** What an area is made of, in order: strokes, shapes, tones, hues, other areas. */
export function AreaParts({
  picture,
  treatment,
  area,
  onPreview,
  onCommit,
}: {
  /** The photograph's size in pixels. */
  picture: { width: number; height: number };
  treatment: Treatment;
  area: Mask;
  onPreview: (treatment: Treatment) => void;
  onCommit: (treatment: Treatment, label: string) => void;
}) {
  const setterOf = (part: MaskPart, index: number): SetSetting => {
    const changed = ([name]: readonly string[], value: unknown) =>
      changePart(treatment, area.id, index, { ...part, [name]: value } as MaskPart);
    const set = (path: readonly string[], value: unknown, label?: string) => {
      if (label === undefined) onPreview(changed(path, value));
      else onCommit(changed(path, value), `Area ${label}`);
    };
    return Object.assign(set, {
      glide: (path: readonly string[], value: unknown) => onPreview(changed(path, value)),
    });
  };
  return (
    <List aria-label="What the area is made of">
      {area.parts.map((part, index) => (
        <li key={index}>
          <div>
            <span>
              {index === 0 && part.op === 'add' ? '' : `${opNames[part.op]}: `}
              {nameOfPart(part, treatment)}
            </span>
            <LinkButton
              aria-label={`Take out ${nameOfPart(part, treatment)}`}
              onPress={() => onCommit(removePart(treatment, area.id, index), 'Take out of the area')}
            >
              Take out
            </LinkButton>
          </div>
          {kindOfPart(part)
            .measures?.(part, picture)
            .map(measure => (
              <MeasureControl
                key={measure.name}
                measure={measure}
                called={calledPart(area, index)}
                longEdge={Math.max(picture.width, picture.height)}
                changed={settings =>
                  changePart(treatment, area.id, index, { ...part, ...settings } as MaskPart)
                }
                onPreview={onPreview}
                onCommit={onCommit}
              />
            ))}
          <FieldControls
            fields={kindOfPart(part).fields}
            values={{ ...part }}
            called={calledPart(area, index)}
            within={part.kind}
            set={setterOf(part, index)}
          />
        </li>
      ))}
    </List>
  );
}
