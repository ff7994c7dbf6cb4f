import { Ellipsis } from 'lucide-react';
import styled from 'styled-components';
import type { Photograph } from '../../contract/photographs';
import { countOf } from '../../words/words';
import { Push } from '../ui/bar';
import { Button, IconButton, LinkButton } from '../ui/buttons';
import { otherFiles, type OtherFile } from '../out/useOtherFiles';
import { Menu } from '../ui/overlays';
import type { Doing } from './LayOnMany';

const Acts = styled.footer`
  height: 54px;
  background: var(--paper-high);
  border-top: 1px solid #c2c2c2;
  display: flex;
  align-items: center;
  padding: 0 26px;
  gap: 10px;
  b {
    font-weight: 650;
    margin-right: 4px;
  }
`;

/** The menu of what is done with the selected prints. */
export const MORE_FOR_SELECTED = 'More for the selected';

/** What is done with the prints: with those that are chosen, or with all that are shown. */
export function SheetActs({
  hung,
  photographs,
  selected,
  isHung,
  onSelect,
  onHangSo,
  onAll,
  onDo,
  onCover,
  onPutAside,
  onSend,
  onMake,
}: {
  hung: readonly Photograph[];
  /** Those that are shown, in the order in which they are looked at. */
  photographs: readonly Photograph[];
  selected: readonly Photograph[];
  /** All are shown, as they hang. */
  isHung: boolean;
  onSelect: (photographs: readonly Photograph[]) => void;
  /** Hangs them in the order in which they are looked at. */
  onHangSo: () => void;
  /** Shows all, as they hang. */
  onAll: () => void;
  onDo: (doing: Doing) => void;
  onCover: (photograph: Photograph) => void;
  onPutAside: () => void;
  onSend: (photographs: readonly Photograph[]) => void;
  /** Makes another file of the current takes of those that are selected. */
  onMake: (what: OtherFile) => void;
}) {
  const out = selected.length ? selected : isHung ? hung : photographs;
  return (
    <Acts>
      {selected.length ? (
        <>
          <b>{selected.length} selected</b>
          <LinkButton onPress={() => onSelect([])}>Select none</LinkButton>
          <Push />
          <Menu
            label={MORE_FOR_SELECTED}
            trigger={
              <IconButton aria-label={MORE_FOR_SELECTED}>
                <Ellipsis aria-hidden="true" />
              </IconButton>
            }
            sections={[
              {
                entries: [
                  { id: 'steps', text: 'Switch or strengthen steps' },
                  { id: 'cover', text: 'Make it the cover', disabled: selected.length > 1 },
                  { id: 'aside', text: 'Put aside', keys: 'Delete' },
                ],
              },
              { name: 'Made of these', entries: [...otherFiles] },
            ]}
            onAction={what => {
              const other = otherFiles.find(({ id }) => id === what);
              if (other) onMake(other.id);
              else if (what === 'steps') onDo('steps');
              else if (what === 'cover') onCover(selected[0]);
              else onPutAside();
            }}
          />
          <Button onPress={() => onDo('look')}>Apply a look</Button>
          <Button $ink onPress={() => onDo('carry')}>
            Carry a treatment over
          </Button>
        </>
      ) : (
        <>
          <span style={{ color: 'var(--ink-2)' }}>
            {hung.length === 0
              ? 'Nothing here yet.'
              : isHung
                ? 'Open a photograph with a double click or Enter. Drag to order. Shift takes a range.'
                : photographs.length === 0
                  ? 'Nothing here is so.'
                  : `${countOf(photographs.length, 'photograph')} of ${hung.length}. They hang as before.`}
          </span>
          {photographs.length ? (
            <LinkButton onPress={() => onSelect(photographs)}>Select all</LinkButton>
          ) : null}
          {!isHung && photographs.length ? <LinkButton onPress={onHangSo}>Hang them so</LinkButton> : null}
          {isHung ? null : <LinkButton onPress={onAll}>All, as hung</LinkButton>}
          <Push />
        </>
      )}
      <Button $ink={!selected.length} isDisabled={!photographs.length} onPress={() => onSend(out)}>
        {out === hung ? 'Send out all' : `Send out ${countOf(out.length, 'photograph').toLowerCase()}`}
      </Button>
    </Acts>
  );
}
