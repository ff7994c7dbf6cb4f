import { Plus, X } from 'lucide-react';
import { Button as AriaButton, Tag, TagGroup, TagList } from 'react-aria-components';
import styled from 'styled-components';
import type { NamePart } from '../../contract/send-outs';
import { IconButton } from '../ui/buttons';
import { Menu } from '../ui/overlays';
import { Row, Small } from '../ui/rows';

const PARTS: Record<NamePart, string> = {
  series: 'Series',
  number: 'Number',
  title: 'Title',
  take: 'Take',
  date: 'Date',
  original: 'Original’s name',
};
const all = Object.keys(PARTS) as NamePart[];

const Parts = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 6px;
`;

const Chips = styled(TagList)`
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
`;

const Chip = styled(Tag)`
  display: flex;
  align-items: center;
  height: 25px;
  padding: 0 1px 0 6px;
  border: 1px solid var(--edge);
  border-radius: var(--r-field);
  background: #fff;
  font-weight: 550;
  font-size: var(--t-small);
  cursor: default;
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 1px;
  }
  button {
    display: grid;
    place-items: center;
    width: 16px;
    height: 18px;
    border-radius: 3px;
    color: var(--ink-2);
  }
  button:hover {
    background: var(--paper);
  }
  svg {
    width: 12px;
    height: 12px;
  }
`;

/** What the names of files are put together from, with one of them as it will be. */
export function NamesRow({
  names,
  example,
  onChange,
}: {
  names: readonly NamePart[];
  example: string;
  onChange: (names: NamePart[]) => void;
}) {
  const rest = all.filter(part => !names.includes(part));
  return (
    <>
      <Row>
        <span>Names</span>
        <Parts>
          <TagGroup
            aria-label="Parts of the name"
            onRemove={keys => {
              const left = names.filter(part => !keys.has(part));
              if (left.length) onChange(left);
            }}
          >
            <Chips>
              {names.map(part => (
                <Chip key={part} id={part} textValue={PARTS[part]}>
                  {PARTS[part]}
                  {names.length > 1 ? (
                    <AriaButton slot="remove">
                      <X aria-hidden="true" />
                    </AriaButton>
                  ) : null}
                </Chip>
              ))}
            </Chips>
          </TagGroup>
          {rest.length ? (
            <Menu
              label="Add to the name"
              trigger={
                <IconButton aria-label="Add to the name">
                  <Plus aria-hidden="true" />
                </IconButton>
              }
              sections={[{ entries: rest.map(part => ({ id: part, text: PARTS[part] })) }]}
              onAction={part => onChange([...names, part as NamePart])}
            />
          ) : null}
        </Parts>
      </Row>
      <Small>{example}</Small>
    </>
  );
}
