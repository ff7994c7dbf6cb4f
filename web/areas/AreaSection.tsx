import { Ellipsis, Plus } from 'lucide-react';
import { memo, useRef, useState } from 'react';
import styled from 'styled-components';
import {
  addArea,
  addInverse,
  addPart,
  areaOf,
  changeArea,
  layOn,
  mayStandOn,
  removeArea,
  usersOf,
} from '../../core/treatment/areas';
import type { Mask } from '../../core/masks/mask';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { messageOf } from '../app/api';
import { takeIn } from '../engine/carried';
import { smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import { tell } from '../app/notices';
import { IconButton, LinkButton } from '../ui/buttons';
import { NameField } from '../ui/inplace';
import { Menu } from '../ui/overlays';
import { areaNumbers } from '../../words/area-settings';
import { inPixels, units } from '../../words/units';
import { Slider } from '../ui/slider';
import { save } from '../ui/save';
import { AreaList } from './AreaList';
import { AreaParts } from './AreaParts';
import { nameOfStep } from '../../words/step-names';

const Section = styled.section`
  padding: 6px 16px 8px;
  border-top: 1px solid var(--rule);
  .head {
    display: flex;
    align-items: center;
    height: 32px;
    margin-right: -7px;
  }
  h3 {
    flex: 1;
    font-size: var(--t-body);
    font-weight: 600;
  }
  small {
    color: var(--ink-2);
    font-size: var(--t-small);
    margin-right: 8px;
  }
  .head input {
    flex: 1;
    min-width: 0;
    margin: 0 6px 0 0;
    font-size: var(--t-body);
    font-weight: 500;
  }
  p {
    color: var(--ink-2);
    font-size: var(--t-small);
    padding: 0 0 4px;
  }
`;

/** What can be done with other areas, each a list of them. */
const withOthers = (others: readonly Mask[], isMade: boolean) =>
  [
    { id: 'add', text: 'Add' },
    ...(isMade
      ? [
          { id: 'take', text: 'Take away' },
          { id: 'meet', text: 'Only within' },
        ]
      : []),
  ].map(({ id, text }) => ({
    id,
    text,
    entries: others.map(m => ({ id: `${id} ${m.id}`, text: m.name })),
  }));

/** The area that a step lies on: chosen, made, named, reused, shaped. */
export const AreaSection = memo(function AreaSection({
  picture,
  treatment,
  step,
  onPreview,
  onCommit,
  onSpare,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  step: Step;
  onPreview: (treatment: Treatment) => void;
  onCommit: (treatment: Treatment, label: string) => void;
  /** Begins to paint out where the step is not wanted. */
  onSpare: () => void;
}) {
  const [naming, setNaming] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const area = areaOf(treatment, step.mask);
  const name = nameOfStep(step);
  const make = () => {
    const made = addArea(treatment, step.name ? `${step.name} area` : '');
    onCommit(layOn(made.treatment, step.id, made.area), 'New area');
  };
  const bringIn = async (file: File) => {
    if (!area) return;
    try {
      const png = await takeIn('picture', new Uint8Array(await file.arrayBuffer()));
      onCommit(addPart(treatment, area.id, { kind: 'picture', op: 'add', png }), 'Area from a file');
    } catch (error) {
      tell({ text: `${file.name}: ${messageOf(error)}`, tone: 'problem' });
    }
  };
  const saveAs = async () => {
    if (!area) return;
    try {
      const { engine } = await smallPictures();
      const file = await engine.areaPng(picture, treatment, area.id);
      save(
        new Uint8Array(file),
        `${area.name.replace(/[\\/:*?"<>|]/g, ' ').trim() || 'area'}.png`,
        'image/png',
      );
    } catch (error) {
      tell({ text: `${area.name} could not be written: ${messageOf(error)}`, tone: 'problem' });
    }
  };
  const act = (what: string) => {
    if (!area) return;
    if (what === 'name') setNaming(true);
    else if (what === 'in') input.current?.click();
    else if (what === 'out') void saveAs();
    else if (what === 'invert')
      onCommit(changeArea(treatment, area.id, { invert: !area.invert }), 'Invert the area');
    else if (what === 'inverse') {
      const made = addInverse(treatment, area.id);
      onCommit(layOn(made.treatment, step.id, made.area), 'Inverse area');
    } else if (what === 'remove') {
      const { steps, areas } = usersOf(treatment, area.id);
      const used = [...steps.map(s => nameOfStep(s)), ...areas.map(m => m.name)];
      onCommit(removeArea(treatment, area.id), `Remove ${area.name}`);
      tell({ text: `${area.name} is removed. It was used by ${used.join(', ')}; those steps are off.` });
    } else if (what === 'whole') {
      onCommit(addPart(treatment, area.id, { kind: 'whole', op: 'add' }), 'Whole picture');
    } else if (what.startsWith('add ') || what.startsWith('take ') || what.startsWith('meet ')) {
      const [verb, ...rest] = what.split(' ');
      const op = ({ add: 'add', take: 'subtract', meet: 'intersect' } as const)[verb as 'add'];
      onCommit(addPart(treatment, area.id, { kind: 'mask', op, mask: rest.join(' ') }), 'Area of areas');
    }
  };
  const others = area ? treatment.masks.filter(m => mayStandOn(treatment, area.id, m.id)) : [];
  return (
    <Section aria-label="Area">
      <div className="head">
        {naming && area ? (
          <NameField
            label="Name of this area"
            value={area.name}
            onDone={called => {
              setNaming(false);
              if (called && called !== area.name)
                onCommit(changeArea(treatment, area.id, { name: called }), 'Name the area');
            }}
          />
        ) : (
          <>
            <h3 data-word="Area">Area</h3>
            {treatment.masks.length ? null : <small>Whole picture</small>}
          </>
        )}
        {naming ? null : (
          <LinkButton data-word="Not here" onPress={onSpare} style={{ marginRight: 8 }}>
            Not here
          </LinkButton>
        )}
        <IconButton aria-label="New area" onPress={make}>
          <Plus aria-hidden="true" />
        </IconButton>
        {area ? (
          <Menu
            label={`More for ${area.name}`}
            trigger={
              <IconButton aria-label={`More for ${area.name}`}>
                <Ellipsis aria-hidden="true" />
              </IconButton>
            }
            sections={[
              {
                entries: [
                  { id: 'name', text: 'Name' },
                  { id: 'invert', text: area.invert ? 'Not inverted' : 'Inverted' },
                  { id: 'inverse', text: 'Its inverse as a new area' },
                  { id: 'whole', text: 'Add the whole picture' },
                ],
              },
              ...(others.length
                ? [
                    {
                      name: 'With other areas',
                      entries: withOthers(others, area.parts.length > 0),
                    },
                  ]
                : []),
              {
                name: 'As a grey PNG',
                entries: [
                  { id: 'in', text: 'Add from a file' },
                  { id: 'out', text: 'Save as a file' },
                ],
              },
              { entries: [{ id: 'remove', text: 'Remove' }] },
            ]}
            onAction={act}
          />
        ) : null}
      </div>
      {treatment.masks.length ? (
        <AreaList
          picture={picture}
          treatment={treatment}
          step={step}
          onChoose={mask => onCommit(layOn(treatment, step.id, mask), `${name} area`)}
        />
      ) : null}
      <input
        ref={input}
        type="file"
        accept="image/png"
        hidden
        aria-label="Area file"
        onChange={event => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          if (file) void bringIn(file);
        }}
      />
      {area ? (
        <>
          {area.parts.length === 0 ? (
            <p>Nothing yet: paint it on the picture, or take a tool below.</p>
          ) : null}
          <AreaParts
            picture={picture}
            treatment={treatment}
            area={area}
            onPreview={onPreview}
            onCommit={onCommit}
          />
          {areaNumbers.map(({ key, label, name: called, field }) => (
            <Slider
              key={key}
              label={label}
              name={called}
              value={area[key]}
              min={field.min}
              max={field.max}
              standard={field.default}
              {...units[field.unit]}
              beside={field.unit === 'length' ? inPixels(Math.max(picture.width, picture.height)) : undefined}
              onChange={v => onPreview(changeArea(treatment, area.id, { [key]: v }))}
              onChangeEnd={v => onCommit(changeArea(treatment, area.id, { [key]: v }), called)}
            />
          ))}
        </>
      ) : null}
    </Section>
  );
});
