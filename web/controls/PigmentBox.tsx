import { ChevronDown, Ellipsis, Pipette } from 'lucide-react';
import { use, useEffect, useRef, useState, type ReactNode } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { starterBox, type NamedPigment } from '../../core/colour/pigments';
import { PigmentsError, readPigments, writeCss, writePigments } from '../../core/formats/pigments';
import type { Pigment } from '../../core/colour/pigments';
import type { UsedPigment } from '../../core/treatment/palette';
import { tell } from '../app/notices';
import { useKeepPigments, usePalette, usePigments, useRemovePigment, useRenamePigment } from '../app/queries';
import { Button, IconButton } from '../ui/buttons';
import { NameField } from '../ui/inplace';
import { Menu } from '../ui/overlays';
import { save } from '../ui/save';
import { useKeys } from '../app/useKeys';
import { countOf } from '../../words/words';
import { learnPigments } from '../../words/pigment-names';
import { ColourFrom } from './ColourFrom';
import { PigmentWell } from './PigmentWell';
import { SeriesContext } from './tools';
import { nameOfUsed } from './useSuggestions';

const Frame = styled.section`
  padding: 0 16px 8px;
  .head {
    display: flex;
    align-items: center;
    height: 30px;
    margin-right: -7px;
  }
  h3 {
    font-size: var(--t-body);
    font-weight: 600;
    flex: 1;
  }
  .which {
    display: flex;
    align-items: center;
    gap: 5px;
    font-weight: 600;
    border-radius: 3px;
    svg {
      width: 13px;
      height: 13px;
      color: var(--ink-2);
    }
  }
  .which[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 3px;
  }
  .none {
    grid-column: 1 / -1;
    padding: 8px 4px;
    font-size: var(--t-small);
    color: var(--ink-2);
    line-height: 1.4;
  }
  .wells {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(76px, 1fr));
    gap: 6px 5px;
    padding: 6px;
    max-height: var(--wells, 118px);
    overflow: auto;
    scrollbar-width: thin;
    background: linear-gradient(#c9c9c9, #d6d6d6);
    border-radius: var(--r-field);
    box-shadow: inset 0 1px 3px rgb(0 0 0 / 0.3);
  }
`;

/** What a well says when it is pointed at: its key, or where the series uses it. */
function titleOf(p: NamedPigment | (NamedPigment & UsedPigment), i: number): string {
  const key = i < 9 ? ` (${i + 1})` : '';
  if (!('areas' in p)) return `${p.name}${key}`;
  const on = p.areas.length ? `: ${p.areas.join(', ')}` : '';
  return `${p.name}${key}${on}; in ${countOf(p.photographs, 'photograph').toLowerCase()}`;
}

const same = (a: Pigment, b: Pigment) => JSON.stringify(a) === JSON.stringify(b);

/**
 * Pigments kept for all photographs with the starter box, or those that the series uses; and above them, where it is asked for, something else. The first nine of the box are taken by the keys 1 to 9.
 */
export function PigmentBox({
  pigment,
  depth,
  above,
  onTake,
}: {
  pigment: Pigment;
  depth: number;
  /** What lies above the box: told which pigment is the one at hand. */
  above?: (isHere: (named: NamedPigment) => boolean) => ReactNode;
  onTake: (taken: NamedPigment) => void;
}) {
  const seriesId = use(SeriesContext);
  const kept = usePigments();
  const palette = usePalette(seriesId);
  const keep = useKeepPigments();
  const rename = useRenamePigment();
  const remove = useRemovePigment();
  const input = useRef<HTMLInputElement>(null);
  const [naming, setNaming] = useState<'new' | 'old' | null>(null);
  const [which, setWhich] = useState<'box' | 'series'>('box');
  const [taking, setTaking] = useState(false);
  const own = kept.data ?? [];
  const { data } = kept;
  useEffect(() => {
    if (data) learnPigments(data);
  }, [data]);
  const used = (palette.data ?? []).map(each => ({ ...each, name: nameOfUsed(each) }));
  const all: readonly NamedPigment[] = which === 'series' ? used : [...own, ...starterBox];
  const isHere = (p: NamedPigment) => same(p.pigment, pigment) && p.depth === depth;
  const chosen = own.find(isHere);

  useKeys({
    pigment: ({ target, key }) => {
      const taken = all[Number(key) - 1];
      // In a box of numbers a digit is a digit.
      if (target instanceof HTMLInputElement || !taken) return false;
      onTake(taken);
    },
  });

  const bringIn = async (file: File) => {
    try {
      const read = readPigments(await file.text());
      keep.mutate(read);
      tell({ text: `${read.length} pigments from ${file.name}.` });
    } catch (error) {
      const reason = error instanceof PigmentsError ? error.message : 'cannot be read';
      tell({ text: `${file.name}: ${reason}`, tone: 'problem' });
    }
  };
  return (
    <Frame aria-label="Pigment box">
      <div className="head">
        {naming ? (
          <NameField
            label="Name of this pigment"
            value={naming === 'old' && chosen ? chosen.name : ''}
            onDone={name => {
              setNaming(null);
              if (!name) return;
              if (naming === 'old' && chosen) rename.mutate({ id: chosen.id, name: name.slice(0, 60) });
              else keep.mutate([{ name: name.slice(0, 60), pigment, depth }]);
            }}
          />
        ) : (
          <>
            <h3>
              {seriesId === null ? (
                'Pigment box'
              ) : (
                <Menu
                  label="Which pigments"
                  trigger={
                    <AriaButton className="which">
                      {which === 'box' ? 'Pigment box' : 'This series'}
                      <ChevronDown aria-hidden="true" />
                    </AriaButton>
                  }
                  sections={[
                    {
                      entries: [
                        { id: 'box', text: 'Pigment box' },
                        { id: 'series', text: 'This series' },
                      ],
                    },
                  ]}
                  onAction={id => setWhich(id === 'series' ? 'series' : 'box')}
                />
              )}
            </h3>
            {chosen ? null : (
              <Button $small onPress={() => setNaming('new')}>
                Keep this one
              </Button>
            )}
            {seriesId === null ? null : (
              <IconButton
                aria-label="A colour from a photograph of the series"
                onPress={() => setTaking(true)}
              >
                <Pipette aria-hidden="true" />
              </IconButton>
            )}
          </>
        )}
        <Menu
          label="More for the pigment box"
          trigger={
            <IconButton aria-label="More for the pigment box">
              <Ellipsis aria-hidden="true" />
            </IconButton>
          }
          sections={[
            ...(chosen
              ? [
                  {
                    name: chosen.name,
                    entries: [
                      { id: 'name', text: 'Name' },
                      { id: 'remove', text: 'Remove' },
                    ],
                  },
                ]
              : []),
            {
              entries: [
                { id: 'in', text: 'Bring in JSON or CSS' },
                { id: 'json', text: 'Save as JSON' },
                { id: 'css', text: 'Save as CSS' },
              ],
            },
          ]}
          onAction={what => {
            if (what === 'in') input.current?.click();
            else if (what === 'json') save(writePigments(all), 'pigments.json', 'application/json');
            else if (what === 'css') save(writeCss(all), 'pigments.css', 'text/css');
            else if (what === 'name') setNaming('old');
            else if (chosen) remove.mutate(chosen);
          }}
        />
      </div>
      {above?.(isHere)}
      <div
        className="wells"
        role="group"
        aria-label={which === 'box' ? 'Pigments' : 'Pigments of this series'}
      >
        {all.some(isHere) ? null : (
          <PigmentWell
            named={{ name: 'In the hand', pigment, depth }}
            isHere
            title="The pigment in the hand"
            onClick={() => setNaming('new')}
          />
        )}
        {all.map((p, i) => (
          <PigmentWell
            key={'id' in p ? String(p.id) : `${p.name} ${i}`}
            named={p}
            isHere={isHere(p)}
            title={titleOf(p, i)}
            onClick={() => onTake(p)}
          />
        ))}
        {all.length ? null : <p className="none">No photograph of this series is tinted yet.</p>}
      </div>
      {taking && seriesId !== null ? (
        <ColourFrom
          seriesId={seriesId}
          onClose={() => setTaking(false)}
          onPick={(colour, title) => {
            setTaking(false);
            onTake({ name: `From ${title}`.slice(0, 60), pigment: { kind: 'flat', colour }, depth });
          }}
        />
      ) : null}
      <input
        ref={input}
        type="file"
        accept=".json,.css"
        hidden
        aria-label="Pigment file"
        onChange={event => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          if (file) void bringIn(file);
        }}
      />
    </Frame>
  );
}
