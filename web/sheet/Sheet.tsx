import { useQueryClient } from '@tanstack/react-query';
import { Ellipsis, Plus } from 'lucide-react';
import { useCallback, useState } from 'react';
import type { Selection } from 'react-aria-components';
import { useNavigate, useParams } from 'react-router';
import styled from 'styled-components';
import type { Series } from '../../contract/series';
import { currentTake, messageOf } from '../app/api';
import { useChangeSeries, useOrderSeries, useRemovePhotographs, useSeries } from '../app/queries';
import { countOf } from '../app/words';
import { chooseFiles, FileDrop } from '../import/FileDrop';
import { bringIn } from '../import/imports';
import { Bar, Crumbs, Push, WallTones } from '../ui/bar';
import { KeysHelp } from '../ui/keys-help';
import { Button, IconButton, LinkButton, Segments } from '../ui/buttons';
import { InPlace } from '../ui/inplace';
import { Menu } from '../ui/overlays';
import { useKeys } from '../app/useKeys';
import { Wait } from '../ui/wait';
import { Contact, sizes, type ThumbSize } from './Contact';
import { BatchBar } from './BatchBar';
import { EvennessStrip } from './EvennessStrip';
import { LayOnMany, type Doing } from './LayOnMany';
import { TakePicture } from '../ui/TakePicture';

const Frame = styled.div`
  height: 100vh;
  display: grid;
  grid-template-rows: var(--bar) minmax(0, 1fr) auto auto auto;
`;

const Table = styled.main`
  background: linear-gradient(var(--wall-edge), var(--wall) 14px);
  display: grid;
  grid-template-columns: 212px minmax(0, 1fr);
  column-gap: 26px;
  padding: 24px 26px 30px;
  overflow: hidden auto;
  align-content: start;
`;

const Paper = styled.section`
  background: var(--paper-high);
  box-shadow: var(--shade-label);
  border-radius: var(--r-label);
  padding: 18px 18px 16px;
  align-self: start;
  position: sticky;
  top: 0;
  dl {
    margin-top: 14px;
    display: grid;
    grid-template-columns: 1fr auto;
    row-gap: 5px;
    border-top: 1px solid var(--rule);
    padding-top: 12px;
  }
  dt {
    color: var(--ink-2);
  }
  dd {
    font-weight: 600;
  }
  figure {
    margin-top: 16px;
  }
  figure img {
    width: 176px;
    height: 117px;
    object-fit: cover;
  }
  figcaption {
    display: flex;
    justify-content: space-between;
    padding-top: 7px;
    font-size: var(--t-small);
    color: var(--ink-2);
  }
  figcaption button {
    color: var(--ink);
  }
`;

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

const SIZE_KEY = 'lampwash.thumbnails';
const keptSize = (): ThumbSize => sizes.find(s => s === localStorage.getItem(SIZE_KEY)) ?? 'medium';

/** The Sheet: one series as a contact sheet. */
export function Sheet() {
  const { seriesId = '' } = useParams();
  const series = useSeries(seriesId);
  if (series.isError) return <Wait problem={messageOf(series.error)} />;
  if (!series.data) return <Wait />;
  return <SheetOf key={seriesId} series={series.data} />;
}

function SheetOf({ series }: { series: Series }) {
  const { photographs } = series;
  const client = useQueryClient();
  const navigate = useNavigate();
  const change = useChangeSeries();
  const order = useOrderSeries(series.id);
  const remove = useRemovePhotographs();
  const [size, setSize] = useState<ThumbSize>(keptSize);
  const [selection, setSelection] = useState<Selection>(new Set());
  const [doing, setDoing] = useState<Doing | null>(null);
  // It can still be undone after a reload.
  const batchKey = `lampwash.batch.${series.id}`;
  const [batch, setBatch] = useState(() => sessionStorage.getItem(batchKey));
  const follow = (id: string | null) => {
    if (id) sessionStorage.setItem(batchKey, id);
    else sessionStorage.removeItem(batchKey);
    setBatch(id);
  };

  const selected = photographs.filter(p => selection === 'all' || selection.has(p.id));
  const treated = photographs.filter(p => currentTake(p).steps.length > 0).length;
  const cover = photographs.find(p => p.id === series.coverId) ?? photographs[0];
  const takeOut = () => {
    setSelection(new Set());
    remove.mutate(selected.map(p => ({ id: p.id, title: p.title })));
  };
  useKeys({ takeOut: () => (selected.length ? takeOut() : false) });
  const add = useCallback((files: File[]) => bringIn(files, series.id, client), [series.id, client]);

  return (
    <Frame>
      <Bar>
        <Crumbs above={[{ to: '/', text: 'All series' }]} here={series.title} />
        <Push />
        <KeysHelp />
        <Segments
          label="Size of the thumbnails"
          value={size}
          options={sizes.map(s => ({ value: s, text: s.charAt(0).toUpperCase() + s.slice(1) }))}
          onChange={s => {
            localStorage.setItem(SIZE_KEY, s);
            setSize(s);
          }}
        />
        <WallTones />
      </Bar>
      <Table>
        <Paper aria-label="The series">
          <InPlace
            display
            label="Title of the series"
            value={series.title}
            required
            maxLength={120}
            onChange={title => change.mutate({ id: series.id, title })}
          />
          <InPlace
            label="Caption"
            value={series.caption}
            placeholder="Say what it shows"
            maxLength={2000}
            multiline
            onChange={caption => change.mutate({ id: series.id, caption })}
          />
          <dl>
            <dt>Photographs</dt>
            <dd>{photographs.length}</dd>
            <dt>Treated</dt>
            <dd>{treated}</dd>
            <dt>Takes</dt>
            <dd>{photographs.reduce((sum, p) => sum + p.takes.length, 0)}</dd>
          </dl>
          {cover ? (
            <figure>
              <TakePicture take={currentTake(cover)} edge={480} />
              <figcaption>
                <span>Cover</span>
                {selected.length === 1 && selected[0].id !== cover.id ? (
                  <LinkButton onPress={() => change.mutate({ id: series.id, coverId: selected[0].id })}>
                    Take the selected one
                  </LinkButton>
                ) : null}
              </figcaption>
            </figure>
          ) : null}
        </Paper>
        <Contact
          photographs={photographs}
          size={size}
          selection={selection}
          onSelect={setSelection}
          onOpen={id => void navigate(`/photographs/${id}`)}
          onOrder={ids => order.mutate(ids)}
          onAdd={() => chooseFiles(add)}
        />
      </Table>
      {treated > 0 ? <EvennessStrip seriesId={series.id} photographs={photographs} /> : <span />}
      {batch ? <BatchBar batchId={batch} photographs={photographs} onClose={() => follow(null)} /> : <span />}
      <Acts>
        {selected.length ? (
          <>
            <b>{selected.length} selected</b>
            <LinkButton onPress={() => setSelection(new Set())}>Select none</LinkButton>
            <Push />
            <Menu
              label="More for the selected"
              trigger={
                <IconButton aria-label="More for the selected">
                  <Ellipsis aria-hidden="true" />
                </IconButton>
              }
              sections={[
                {
                  entries: [
                    { id: 'steps', text: 'Switch or strengthen steps' },
                    { id: 'out', text: 'Take out of the series', keys: 'Delete' },
                  ],
                },
              ]}
              onAction={what => (what === 'steps' ? setDoing('steps') : takeOut())}
            />
            <Button onPress={() => setDoing('look')}>Apply a look</Button>
            <Button $ink onPress={() => setDoing('carry')}>
              Carry a treatment over
            </Button>
          </>
        ) : (
          <>
            <span style={{ color: 'var(--ink-2)' }}>
              {photographs.length
                ? 'Open a photograph with a double click or Enter. Drag to order. Shift takes a range.'
                : 'Nothing here yet.'}
            </span>
            <Push />
            <Button onPress={() => chooseFiles(add)}>
              <Plus aria-hidden="true" size={15} />
              Add photographs
            </Button>
          </>
        )}
        <Button
          $ink={!selected.length}
          isDisabled={!photographs.length}
          onPress={() => {
            const out = selected.length ? selected : photographs;
            void navigate(`/series/${series.id}/send-out?takes=${out.map(p => p.currentTakeId).join(',')}`);
          }}
        >
          {selected.length
            ? `Send out ${countOf(selected.length, 'photograph').toLowerCase()}`
            : 'Send out all'}
        </Button>
      </Acts>
      {doing ? (
        <LayOnMany
          doing={doing}
          seriesId={series.id}
          chosen={selected}
          photographs={photographs}
          onBegun={follow}
          onClose={() => setDoing(null)}
        />
      ) : null}
      <FileDrop text={`Lay them down in ${series.title}`} onFiles={add} />
    </Frame>
  );
}
