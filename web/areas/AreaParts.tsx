import styled from 'styled-components';
import { areaOf, changePart, removePart } from '../../core/treatment/areas';
import type { Mask } from '../../core/masks/mask';
import type { MaskPart } from '../../core/masks/parts';
import type { Treatment } from '../../core/treatment/schema';
import { countOf, wordFor } from '../app/words';
import { LinkButton } from '../ui/buttons';
import { Slider } from '../ui/slider';
import { ReachControl } from '../controls/ReachControl';

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
  li span {
    flex: 1;
    color: var(--ink-2);
  }
`;

const opNames = { add: 'Add', subtract: 'Take away', intersect: 'Only within' } as const;

function nameOfPart(part: MaskPart, treatment: Treatment): string {
  switch (part.kind) {
    case 'brush':
      return countOf(part.strokes.length, 'stroke');
    case 'linear':
      return 'Straight gradient';
    case 'oval':
      return part.outside ? 'Outside an oval' : 'Oval';
    case 'mask':
      return areaOf(treatment, part.mask)?.name ?? 'Area';
    case 'picture':
      return 'Grey picture';
    default:
      return wordFor(part.kind);
  }
}

/** What an area is made of, in order: strokes, shapes, tones, hues, other areas. */
export function AreaParts({
  treatment,
  area,
  onPreview,
  onCommit,
}: {
  treatment: Treatment;
  area: Mask;
  onPreview: (treatment: Treatment) => void;
  onCommit: (treatment: Treatment, label: string) => void;
}) {
  return (
    <List aria-label="What the area is made of">
      {area.parts.map((part, index) => (
        <li key={index}>
          <div>
            <span>
              {index === 0 && part.op === 'add' ? '' : `${opNames[part.op]}: `}
              {nameOfPart(part, treatment)}
            </span>
            {part.kind === 'oval' ? (
              <LinkButton
                onPress={() =>
                  onCommit(
                    changePart(treatment, area.id, index, { ...part, outside: !part.outside }),
                    'Oval inside out',
                  )
                }
              >
                {part.outside ? 'Inside' : 'Outside'}
              </LinkButton>
            ) : null}
            <LinkButton
              aria-label={`Take out ${nameOfPart(part, treatment)}`}
              onPress={() => onCommit(removePart(treatment, area.id, index), 'Take out of the area')}
            >
              Take out
            </LinkButton>
          </div>
          {part.kind === 'tones' ? (
            <ReachControl
              label="Tones of the area"
              range={part.range}
              onChange={(range, done) => {
                const next = changePart(treatment, area.id, index, { ...part, range });
                if (done) onCommit(next, 'Tones of the area');
                else onPreview(next);
              }}
            />
          ) : null}
          {part.kind === 'hues'
            ? (
                [
                  ['centre', 'Hue', 0, 360, 1, 0],
                  ['width', 'Width', 0, 360, 1, 36],
                  ['softness', 'Softness', 0, 1, 0.01, 0.4],
                ] as const
              ).map(([setting, label, min, max, each, standard]) => {
                const next = (value: number) =>
                  changePart(treatment, area.id, index, { ...part, [setting]: value });
                return (
                  <Slider
                    key={setting}
                    label={label}
                    name={`Area ${label.toLowerCase()}`}
                    value={part[setting]}
                    min={min}
                    max={max}
                    step={each}
                    standard={standard}
                    shownTimes={max === 1 ? 100 : 1}
                    unit={max === 1 ? '' : '°'}
                    onChange={v => onPreview(next(v))}
                    onChangeEnd={v => onCommit(next(v), `Area ${label.toLowerCase()}`)}
                  />
                );
              })
            : null}
        </li>
      ))}
    </List>
  );
}
