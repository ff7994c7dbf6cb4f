import { Fragment, useState } from 'react';
import { Keyboard } from 'lucide-react';
import styled from 'styled-components';
import { keys, type Key } from '../app/keys';
import { tradeWords } from '../../words/told';
import { useTour } from '../app/tour';
import { useKeys } from '../app/useKeys';
import { Button, IconButton, Segments } from './buttons';
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

const Words = styled.dl`
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 7px 18px;
  padding: 4px 6px;
  line-height: 1.4;
  dt {
    font-weight: 600;
  }
  dd {
    color: var(--ink-2);
  }
`;

type Part = 'keys' | 'words';
const parts: { value: Part; text: string }[] = [
  { value: 'keys', text: 'Keys' },
  { value: 'words', text: 'Words' },
];

/** All keys, by the part of the application that they are for, and the words of the trade. Opened by its button or by `?`. */
export function KeysHelp() {
  const [open, setOpen] = useState(false);
  const [on, setOn] = useState<Part>('keys');
  useKeys({ help: () => setOpen(true) });
  const { left, begin } = useTour();
  const list = Object.values<Key>(keys);
  return (
    <>
      <IconButton aria-label="Help: keys and words" onPress={() => setOpen(true)}>
        <Keyboard aria-hidden="true" />
      </IconButton>
      {open ? (
        <Dialog title="Help" onClose={() => setOpen(false)}>
          <Segments label="Help on" value={on} options={parts} onChange={setOn} />
          <Scroll tabIndex={0} role="region" aria-label={on === 'keys' ? 'All keys' : 'All words'}>
            {on === 'words' ? (
              <Words>
                {tradeWords.map(([word, sentence]) => (
                  <Fragment key={word}>
                    <dt>{word}</dt>
                    <dd>{sentence}</dd>
                  </Fragment>
                ))}
              </Words>
            ) : null}
            <Table hidden={on !== 'keys'}>
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
