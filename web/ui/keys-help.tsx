import { useState } from 'react';
import { Keyboard } from 'lucide-react';
import styled from 'styled-components';
import { keys, type Key } from '../app/keys';
import { useTour } from '../app/tour';
import { useKeys } from '../app/useKeys';
import { Button, IconButton } from './buttons';
import { Dialog, DialogActions } from './overlays';

const Scroll = styled.div`
  max-height: 60vh;
  overflow: hidden auto;
  scrollbar-width: thin;
  line-height: 1.4;
`;

const Table = styled.table`
  border-collapse: collapse;
  table-layout: fixed;
  width: 100%;
  th,
  td {
    text-align: left;
    vertical-align: top;
    padding: 5px 14px 5px 0;
    border-top: 1px solid var(--rule);
    font-weight: 400;
  }
  th {
    font-weight: 600;
    width: 29%;
    &:first-letter {
      text-transform: uppercase;
    }
  }
  td:nth-child(2) {
    width: 36%;
  }
  td:last-child {
    padding-right: 0;
    color: var(--ink-2);
  }
  kbd {
    font: inherit;
    font-weight: 550;
    background: var(--paper);
    border-radius: 3px;
    padding: 1px 5px;
    white-space: nowrap;
  }
`;

/** The written form of a key: what stands between backticks as a key, what between asterisks plainly. */
const Written = ({ text }: { text: string }) =>
  text
    .replaceAll('*', '')
    .split('`')
    .map((part, i) => (i % 2 ? <kbd key={i}>{part}</kbd> : part));

/** All keys, by the part of the application that they are for. Opened by its button or by `?`. */
export function KeysHelp() {
  const [open, setOpen] = useState(false);
  useKeys({ help: () => setOpen(true) });
  const { left, begin } = useTour();
  const list = Object.values<Key>(keys);
  return (
    <>
      <IconButton aria-label="Keys" onPress={() => setOpen(true)}>
        <Keyboard aria-hidden="true" />
      </IconButton>
      {open ? (
        <Dialog title="Keys" onClose={() => setOpen(false)}>
          <Scroll tabIndex={0} role="region" aria-label="All keys">
            <Table>
              <tbody>
                {list.map(({ where, written, does }, i) => (
                  <tr key={`${where} ${written}`}>
                    <th scope="row">{list[i - 1]?.where === where ? '' : where}</th>
                    <td>
                      <Written text={written} />
                    </td>
                    <td>{does}</td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </Scroll>
          <DialogActions>
            <Button
              onPress={() => {
                setOpen(false);
                begin();
              }}
            >
              {left ? 'Go on with the tour' : 'Take the tour'}
            </Button>
            <Button $ink onPress={() => setOpen(false)}>
              Close
            </Button>
          </DialogActions>
        </Dialog>
      ) : null}
    </>
  );
}
