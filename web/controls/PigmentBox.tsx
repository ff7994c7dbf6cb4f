import { Ellipsis } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { starterBox, type NamedPigment } from '../../core/colour/pigments';
import { PigmentsError, readPigments, writeCss, writePigments } from '../../core/formats/pigments';
import type { Pigment } from '../../core/colour/pigments';
import { tell } from '../app/notices';
import { useKeepPigments, usePigments, useRemovePigment, useRenamePigment } from '../app/queries';
import { Button, IconButton } from '../ui/buttons';
import { NameField } from '../ui/inplace';
import { Menu } from '../ui/overlays';
import { save } from '../ui/save';
import { useKeys } from '../app/useKeys';
import { pigmentPaint } from './paint';
import { learnPigments } from '../takes/pigment-names';

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
  .wells {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(76px, 1fr));
    gap: 6px 5px;
    padding: 6px;
    max-height: 118px;
    overflow: auto;
    scrollbar-width: thin;
    background: linear-gradient(#c9c9c9, #d6d6d6);
    border-radius: var(--r-field);
    box-shadow: inset 0 1px 3px rgb(0 0 0 / 0.3);
  }
`;

const Well = styled.button`
  text-align: center;
  font-size: 12px;
  line-height: 16px;
  color: var(--ink-2);
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
  i {
    display: block;
    height: 28px;
    border-radius: 4px;
    border: 1.5px solid var(--paper-high);
    box-shadow:
      0 1px 2px rgb(0 0 0 / 0.35),
      inset 0 2px 3px rgb(0 0 0 / 0.25);
  }
  &[aria-pressed='true'] {
    color: var(--ink);
    font-weight: 650;
  }
  &[aria-pressed='true'] i {
    border-color: var(--ink);
  }
  &:focus-visible {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 1px;
  }
`;

const same = (a: Pigment, b: Pigment) => JSON.stringify(a) === JSON.stringify(b);

/** Pigments kept for all photographs, and the starter box; the first nine are taken by the keys 1 to 9. */
export function PigmentBox({
  pigment,
  depth,
  onTake,
}: {
  pigment: Pigment;
  depth: number;
  onTake: (taken: NamedPigment) => void;
}) {
  const kept = usePigments();
  const keep = useKeepPigments();
  const rename = useRenamePigment();
  const remove = useRemovePigment();
  const input = useRef<HTMLInputElement>(null);
  const [naming, setNaming] = useState<'new' | 'old' | null>(null);
  const own = kept.data ?? [];
  const { data } = kept;
  useEffect(() => {
    if (data) learnPigments(data);
  }, [data]);
  const all: readonly NamedPigment[] = [...own, ...starterBox];
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
            <h3>Pigment box</h3>
            {chosen ? null : (
              <Button $small onPress={() => setNaming('new')}>
                Keep this one
              </Button>
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
      <div className="wells" role="group" aria-label="Pigments">
        {all.map((p, i) => (
          <Well
            key={'id' in p ? String(p.id) : p.name}
            type="button"
            aria-pressed={isHere(p)}
            title={i < 9 ? `${p.name} (${i + 1})` : p.name}
            onClick={() => onTake(p)}
          >
            <i style={{ background: pigmentPaint(p.pigment) }} />
            {p.name}
          </Well>
        ))}
      </div>
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
