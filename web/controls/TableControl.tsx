import { Ellipsis } from 'lucide-react';
import { useRef, useState, type ReactNode } from 'react';
import styled from 'styled-components';
import { changeSetting } from '../../core/treatment/edit';
import { carryTable, nameOfTable } from '../../core/treatment/tables';
import type { Reference } from '../../core/settings/fields';
import type { Treatment } from '../../core/treatment/treatment';
import type { TableSummary } from '../../contract/tables';
import { messageOf } from '../app/api';
import { sendReference, takeIn } from '../engine/carried';
import { tell } from '../app/notices';
import { useChangeTable, useKeepTable, useRemoveTable, useTables } from '../app/queries';
import { Button, IconButton } from '../ui/buttons';
import { NameField } from '../ui/inplace';
import { Menu } from '../ui/overlays';
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

const List = styled.div`
  max-height: 236px;
  overflow: auto;
  scrollbar-width: thin;
  background: var(--paper-high);
  border-bottom: 1px solid var(--edge);
  h3 {
    font-size: var(--t-small);
    font-weight: 500;
    color: var(--ink-2);
    padding: 6px 8px 1px;
  }
`;

const Row = styled.div`
  display: flex;
  align-items: center;
  height: 28px;
  padding-right: 2px;
  > button:first-child {
    flex: 1;
    min-width: 0;
    height: 100%;
    padding: 0 8px;
    text-align: left;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  > button[aria-pressed='true'] {
    font-weight: 650;
    box-shadow: inset 3px 0 0 var(--lamp);
  }
  &:hover {
    background: #fff;
  }
  > button:focus-visible {
    outline: 2px solid var(--lamp-deep);
    outline-offset: -2px;
  }
  input {
    margin-left: 4px;
    font-size: var(--t-body);
    font-weight: 500;
  }
`;

/** A table to choose: tried while it is pointed at or has the focus, taken when it is pressed. */
function Choice({
  text,
  isChosen,
  onTry,
  onLeave,
  onTake,
  children,
  ...rest
}: {
  text: string;
  isChosen: boolean;
  onTry: () => void;
  onLeave: () => void;
  onTake: () => void;
  children?: ReactNode;
  'data-context'?: boolean;
}) {
  return (
    <Row {...rest} onPointerEnter={onTry}>
      <button
        type="button"
        aria-pressed={isChosen}
        onFocus={event => event.target.matches(':focus-visible') && onTry()}
        onBlur={onLeave}
        onClick={onTake}
      >
        {text}
      </button>
      {children}
    </Row>
  );
}

/**
 * The colour table of a step: one of those kept for all photographs, tried on the picture while it is pointed at, or
 * one that only this take carries. Brought in from .cube files, named, grouped and removed here.
 */
export function TableControl({ value }: { value: string | null }) {
  const { treatment, step, commit, editWhenFound, preview } = useTools();
  const kept = useTables();
  const keep = useKeepTable();
  const change = useChangeTable();
  const remove = useRemoveTable();
  const input = useRef<HTMLInputElement>(null);
  const [editing, setEditing] = useState<{ id: string; what: 'name' | 'group' } | null>(null);
  /** The treatment before a table was tried. */
  const before = useRef<Treatment | null>(null);

  /** Shows what a choice gives while it is pointed at: of each row, None as well, so that no other is seen meanwhile. */
  const tryOut = (made: (from: Treatment) => Treatment) => {
    before.current ??= treatment;
    preview(made(before.current));
  };
  const withTable = (table: TableSummary) => (from: Treatment) =>
    carryTable(from, step.id, table.name, { sha256: table.sha256 });
  const withName = (name: string | null) => (from: Treatment) =>
    changeSetting(from, step.id, ['table'], name);
  const take = (made: (from: Treatment) => Treatment, label: string) => {
    const from = before.current ?? treatment;
    before.current = null;
    commit(made(from), label);
  };
  const leave = () => {
    if (before.current) preview(before.current);
    before.current = null;
  };
  const keepUnder = async (name: string, table: Reference) => {
    try {
      await sendReference(table);
      keep.mutate({ name, sha256: table.sha256 });
    } catch (error) {
      tell({ text: `${name} is not kept for other photographs: ${messageOf(error)}`, tone: 'problem' });
    }
  };
  const bringIn = async (file: File) => {
    try {
      const read = async () => {
        const bytes = new Uint8Array(await file.arrayBuffer());
        return { name: nameOfTable(bytes, file.name), table: await takeIn('table', bytes) };
      };
      const reading = read();
      await editWhenFound(`Bring in ${file.name}`, reading, ({ name, table }, now) =>
        now.steps.some(s => s.id === step.id) ? carryTable(now, step.id, name, table) : null,
      );
      const { name, table } = await reading;
      await keepUnder(name, table);
    } catch (error) {
      tell({ text: `${file.name}: ${messageOf(error)}`, tone: 'problem' });
    }
  };

  const tables = kept.data ?? [];
  const names = new Set(tables.map(t => t.name));
  // While one is tried, what was chosen stays marked.
  const chosen = value;
  const onlyCarried = Object.keys(treatment.tables).filter(id => !names.has(id));
  const groups = [...new Set(tables.map(t => t.group))];
  const rowOf = (table: TableSummary) =>
    editing?.id === table.id ? (
      <Row key={table.id}>
        <NameField
          label={editing.what === 'name' ? 'Name of this table' : 'Group of this table'}
          value={table[editing.what]}
          onDone={text => {
            setEditing(null);
            if (text === null || text === table[editing.what] || (editing.what === 'name' && !text)) return;
            change.mutate({ id: table.id, [editing.what]: text.slice(0, 60) });
          }}
        />
      </Row>
    ) : (
      <Choice
        key={table.id}
        data-context
        text={table.name}
        isChosen={chosen === table.name}
        onTry={() => tryOut(withTable(table))}
        onLeave={leave}
        onTake={() => take(withTable(table), `Colour table ${table.name}`)}
      >
        <Menu
          label={`More for ${table.name}`}
          trigger={
            <IconButton aria-label={`More for ${table.name}`} style={{ width: 24, height: 24 }}>
              <Ellipsis aria-hidden="true" />
            </IconButton>
          }
          sections={[
            {
              entries: [
                { id: 'name', text: 'Name' },
                { id: 'group', text: 'Put into a group' },
                { id: 'remove', text: 'Remove' },
              ],
            },
          ]}
          onAction={what => {
            if (what === 'remove') remove.mutate(table);
            else setEditing({ id: table.id, what: what as 'name' | 'group' });
          }}
        />
      </Choice>
    );
  return (
    <Frame>
      {tables.length + onlyCarried.length > 0 ? (
        <List role="group" aria-label="Colour tables" onPointerLeave={leave}>
          <Choice
            text="None"
            isChosen={chosen === null}
            onTry={() => tryOut(withName(null))}
            onLeave={leave}
            onTake={() => take(withName(null), 'No colour table')}
          />
          {groups.map(group => (
            <div key={group} role="group" aria-label={group || 'Without a group'}>
              {group ? <h3>{group}</h3> : null}
              {tables.filter(t => t.group === group).map(rowOf)}
            </div>
          ))}
          {onlyCarried.length > 0 ? (
            <div role="group" aria-label="Carried by this take">
              <h3>Carried by this take</h3>
              {onlyCarried.map(id => (
                <Choice
                  key={id}
                  text={id}
                  isChosen={chosen === id}
                  onTry={() => tryOut(withName(id))}
                  onLeave={leave}
                  onTake={() => take(withName(id), `Colour table ${id}`)}
                >
                  <Button
                    $small
                    onPress={() => void keepUnder(id.slice(0, 60), treatment.tables[id])}
                    style={{ height: 22 }}
                  >
                    Keep
                  </Button>
                </Choice>
              ))}
            </div>
          ) : null}
        </List>
      ) : (
        <p>No table yet. A .cube file, 1D or 3D, is kept for all photographs.</p>
      )}
      <Button $small onPress={() => input.current?.click()}>
        Bring in a .cube file
      </Button>
      <input
        ref={input}
        type="file"
        accept=".cube"
        multiple
        hidden
        aria-label="Colour table file"
        onChange={event => {
          const files = [...(event.target.files ?? [])];
          event.target.value = '';
          const each = async () => {
            for (const file of files) await bringIn(file);
          };
          void each();
        }}
      />
    </Frame>
  );
}
