import { useEffect, useMemo, useRef } from 'react';
import { ListBox, ListBoxItem } from 'react-aria-components';
import styled from 'styled-components';
import { readsPicture, showingArea, usersOf } from '../../core/treatment/areas';
import type { Mask } from '../../core/masks/mask';
import type { Step, Treatment } from '../../core/treatment/treatment';
import type { Pigment } from '../../core/colour/pigments';
import type { PictureInfo } from '../engine/tiles';
import { SmallPicture } from '../print/SmallPicture';
import { nameOfStep } from '../../words/step-names';

const List = styled(ListBox)`
  margin: 0 -8px;
  max-height: 148px;
  overflow: auto;
  scrollbar-width: thin;
  outline: none;
`;

const Row = styled(ListBoxItem)`
  display: grid;
  grid-template-columns: 42px minmax(0, 1fr) auto;
  column-gap: 9px;
  align-items: center;
  height: 36px;
  padding: 0 8px;
  border-radius: var(--r-field);
  cursor: pointer;
  outline: none;
  font-weight: 500;
  .small {
    width: 42px;
    height: 28px;
    background: var(--paper-high);
    box-shadow: 0 0 0 1px rgb(0 0 0 / 0.25);
    overflow: hidden;
  }
  .small canvas {
    display: block;
    width: 100%;
    height: 100%;
  }
  .called,
  .users {
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .users {
    display: flex;
    align-items: center;
    gap: 6px;
    max-width: 112px;
    color: var(--ink-2);
    font-size: var(--t-small);
    font-weight: 400;
  }
  .users span {
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .users i {
    flex: none;
    width: 10px;
    height: 10px;
    border-radius: 50%;
    box-shadow: inset 0 0 0 1px rgb(0 0 0 / 0.2);
  }
  &[data-hovered] {
    background: var(--paper-low);
  }
  &[data-selected] {
    background: var(--paper-high);
    box-shadow: 0 1px 3px rgb(0 0 0 / 0.28);
    font-weight: 650;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: -2px;
  }
`;

const THUMB = { width: 42, height: 28 };
const WHOLE = 'whole picture';
const keyOf = (area: string | null) => (area === null ? WHOLE : `area ${area}`);

/** An area alone, white where it covers. */
function AreaPicture({ picture, treatment, id }: { picture: PictureInfo; treatment: Treatment; id: string }) {
  const { masks, frame, steps, tables } = treatment;
  // An area that is only painted looks the same whatever the steps do.
  const beneath = readsPicture(treatment, id) ? steps : null;
  const shown = useMemo(
    () =>
      showingArea(
        {
          format: 'lampwash-treatment',
          version: 1,
          strength: 1,
          tables,
          frame,
          masks,
          groups: [],
          steps: beneath ?? [],
        },
        id,
        'grey',
        '#ffffff',
      ),
    [masks, frame, tables, beneath, id],
  );
  return <SmallPicture picture={picture} treatment={shown} {...THUMB} />;
}

const pigmentPaint = (pigment: Pigment) =>
  pigment.kind === 'flat' ? pigment.colour : pigment.stops[Math.floor(pigment.stops.length / 2)].colour;

/** Who uses an area, shortly: the pigment of its first wash, and names. */
function Users({ treatment, area, step }: { treatment: Treatment; area: Mask; step: Step }) {
  const { steps, areas } = usersOf(treatment, area.id);
  const names = [
    ...steps.map(s => (s.id === step.id ? 'this step' : nameOfStep(s))),
    ...areas.map(a => a.name),
  ];
  const wash = steps.find(s => s.kind === 'wash')?.settings as Step<'wash'>['settings'] | undefined;
  return (
    <span className="users" title={names.length > 1 ? names.join(', ') : undefined}>
      {wash ? <i style={{ background: pigmentPaint(wash.pigment) }} /> : null}
      <span>
        {names.length === 0
          ? 'not used'
          : names.length < 3
            ? names.join(', ')
            : `${names[0]}, ${names.length - 1} more`}
      </span>
    </span>
  );
}

/** The areas of the treatment, each as a small picture with what uses it; the one that the step lies on is chosen. */
export function AreaList({
  picture,
  treatment,
  step,
  onChoose,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  step: Step;
  onChoose: (area: string | null) => void;
}) {
  const { masks } = treatment;
  // The chosen one is in sight, however many there are.
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    list.current?.querySelector('[data-selected]')?.scrollIntoView({ block: 'nearest' });
  }, [step.id, step.mask, masks.length]);
  return (
    <List
      ref={list}
      aria-label="Area"
      selectionMode="single"
      disallowEmptySelection
      selectedKeys={[keyOf(step.mask)]}
      onSelectionChange={keys => {
        const [key] = [...(keys as Set<string>)];
        const chosen = masks.find(m => keyOf(m.id) === key)?.id ?? null;
        if (key !== undefined && chosen !== step.mask) onChoose(chosen);
      }}
    >
      {[
        <Row key={WHOLE} id={WHOLE} textValue="Whole picture">
          <span className="small" />
          <span className="called">Whole picture</span>
        </Row>,
        ...masks.map(area => (
          <Row key={area.id} id={keyOf(area.id)} textValue={area.name || 'Area without a name'}>
            <span className="small">
              <AreaPicture picture={picture} treatment={treatment} id={area.id} />
            </span>
            <span className="called">{area.name || 'Area without a name'}</span>
            <Users treatment={treatment} area={area} step={step} />
          </Row>
        )),
      ]}
    </List>
  );
}
