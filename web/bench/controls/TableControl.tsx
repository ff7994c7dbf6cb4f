import { useRef } from 'react';
import styled from 'styled-components';
import { CubeError, readCube } from '../../../core/formats/cube';
import { changeSetting } from '../../../core/treatment/edit';
import { tell } from '../../app/notices';
import { Button } from '../../ui/buttons';
import { Picker } from '../../ui/overlays';
import { useTools } from './tools';

const Frame = styled.div`
  padding: 8px 16px;
  border-top: 1px solid var(--rule);
  display: grid;
  gap: 8px;
  p {
    color: var(--ink-2);
    font-size: var(--t-small);
    line-height: 1.35;
  }
`;

/** An id for a table from its file's name that the treatment does not have yet. */
function freshId(name: string, taken: Record<string, string>): string {
  const base = name.replace(/\.cube$/i, '').slice(0, 50) || 'table';
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base} ${n}`;
    if (!Object.hasOwn(taken, id)) return id;
  }
}

/** The colour table of a step: brought in from a .cube file, or one that the treatment carries already. */
export function TableControl({ value }: { value: string | null }) {
  const { treatment, step, commit } = useTools();
  const input = useRef<HTMLInputElement>(null);
  const bringIn = async (file: File) => {
    const text = await file.text();
    try {
      readCube(text);
    } catch (error) {
      const reason = error instanceof CubeError ? error.message : 'cannot be read';
      tell({ text: `${file.name}: ${reason}`, tone: 'problem' });
      return;
    }
    const id = freshId(file.name, treatment.tables);
    const carried = { ...treatment, tables: { ...treatment.tables, [id]: text } };
    commit(changeSetting(carried, step.id, ['table'], id), `Bring in ${file.name}`);
  };
  const ids = Object.keys(treatment.tables);
  return (
    <Frame>
      {ids.length ? (
        <Picker
          label="Table"
          value={value ?? ''}
          options={[{ value: '', text: 'None' }, ...ids.map(id => ({ value: id, text: id }))]}
          onChange={id => commit(changeSetting(treatment, step.id, ['table'], id || null), 'Colour table')}
        />
      ) : (
        <p>No table yet. A .cube file, 1D or 3D, becomes part of this take.</p>
      )}
      <Button $small onPress={() => input.current?.click()}>
        Bring in a .cube file
      </Button>
      <input
        ref={input}
        type="file"
        accept=".cube"
        hidden
        aria-label="Colour table file"
        onChange={event => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          if (file) void bringIn(file);
        }}
      />
    </Frame>
  );
}
