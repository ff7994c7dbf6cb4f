import { Ellipsis, Plus } from 'lucide-react';
import { useRef, useState } from 'react';
import styled from 'styled-components';
import {
  addArea,
  addInverse,
  addPart,
  areaOf,
  changeArea,
  changePart,
  layOn,
  removeArea,
  removePart,
  standsOn,
  usersOf,
} from '../../../core/treatment/areas';
import { readGreyPng } from '../../../core/masks/grey-png';
import type { MaskPart } from '../../../core/treatment/masks';
import type { Step, Treatment } from '../../../core/treatment/schema';
import { messageOf } from '../../app/api';
import { countOf, wordFor } from '../../app/words';
import { smallPictures } from '../../engine/client';
import type { PictureInfo } from '../../engine/tiles';
import { tell } from '../../app/notices';
import { IconButton, LinkButton } from '../../ui/buttons';
import { NameField } from '../../ui/inplace';
import { Menu, Picker } from '../../ui/overlays';
import { Slider } from '../../ui/slider';
import { save } from '../../ui/save';
import { ReachControl } from '../controls/ReachControl';

const Section = styled.section`
  padding: 6px 16px 8px;
  border-top: 1px solid var(--rule);
  .choice {
    display: grid;
    grid-template-columns: 72px 1fr auto auto;
    column-gap: 6px;
    align-items: center;
    height: 34px;
    color: var(--ink-2);
    margin-right: -7px;
  }
  .choice input {
    margin: 0;
    font-size: var(--t-body);
    font-weight: 500;
  }
  p {
    color: var(--ink-2);
    font-size: var(--t-small);
    padding: 0 0 4px;
  }
  ul {
    list-style: none;
    padding: 0;
    margin: 2px 0 4px;
  }
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

/** The largest file of an area: what a treatment can carry to the server. */
const LARGEST_FILE = 2_500_000;

function base64Of(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += 32768) text += String.fromCharCode(...bytes.subarray(i, i + 32768));
  return btoa(text);
}

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

/** The area that a step lies on: chosen, made, named, reused, shaped. */
export function AreaSection({
  picture,
  treatment,
  step,
  onPreview,
  onCommit,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  step: Step;
  onPreview: (treatment: Treatment) => void;
  onCommit: (treatment: Treatment, label: string) => void;
}) {
  const [naming, setNaming] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const area = areaOf(treatment, step.mask);
  const name = step.name || wordFor(step.kind);
  const make = () => {
    const made = addArea(treatment, step.name ? `${step.name} area` : '');
    onCommit(layOn(made.treatment, step.id, made.area), 'New area');
  };
  const bringIn = async (file: File) => {
    if (!area) return;
    try {
      if (file.size > LARGEST_FILE) throw new Error('the file is larger than 2.5 MB');
      const png = base64Of(new Uint8Array(await file.arrayBuffer()));
      readGreyPng(png);
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
      const used = [...steps.map(s => s.name || wordFor(s.kind)), ...areas.map(m => m.name)];
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
  const others = area
    ? treatment.masks.filter(m => m.id !== area.id && !standsOn(treatment, m.id, area.id))
    : [];
  const users = area ? usersOf(treatment, area.id).steps.filter(s => s.id !== step.id) : [];
  return (
    <Section aria-label="Area">
      <div className="choice">
        <span aria-hidden="true">Area</span>
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
          <Picker
            label="Area"
            value={step.mask ?? ''}
            options={[
              { value: '', text: 'Whole picture' },
              ...treatment.masks.map(m => ({ value: m.id, text: m.name || 'Area without a name' })),
            ]}
            onChange={mask => onCommit(layOn(treatment, step.id, mask || null), `${name} area`)}
          />
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
                      entries: others.flatMap(m => [
                        { id: `add ${m.id}`, text: `Add ${m.name}` },
                        ...(area.parts.length
                          ? [
                              { id: `take ${m.id}`, text: `Take away ${m.name}` },
                              { id: `meet ${m.id}`, text: `Only within ${m.name}` },
                            ]
                          : []),
                      ]),
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
          {users.length ? <p>Also used by {users.map(s => s.name || wordFor(s.kind)).join(', ')}.</p> : null}
          <ul aria-label="What the area is made of">
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
          </ul>
          {(
            [
              ['feather', 'Feather', 0, 0.05, 0.0005],
              ['grow', 'Grow', -0.02, 0.02, 0.0002],
              ['refine', 'To edges', 0, 1, 0.01],
            ] as const
          ).map(([setting, label, min, max, each]) => (
            <Slider
              key={setting}
              label={label}
              name={`Area ${label.toLowerCase()}`}
              value={area[setting]}
              min={min}
              max={max}
              step={each}
              standard={0}
              shownTimes={max === 1 ? 100 : 1000}
              unit={max === 1 ? '' : '‰'}
              decimals={max === 1 ? 0 : 1}
              onChange={v => onPreview(changeArea(treatment, area.id, { [setting]: v }))}
              onChangeEnd={v =>
                onCommit(changeArea(treatment, area.id, { [setting]: v }), `Area ${label.toLowerCase()}`)
              }
            />
          ))}
        </>
      ) : null}
    </Section>
  );
}
